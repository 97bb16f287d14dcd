import { pagePathOf } from '../../core/site/live/address';
import { FileIndex, type PagePath } from '../../core/site/paths';
import { shopPagesOf } from './shop-places';
import type { Site } from './site';

/** Finds the file that a path leads to. */
export type FindFile = (path: string) => PagePath | undefined;

/**
 * The owner's files by name. On a site that its owner pastes into, the page that the shop was pasted into is the shop's page: what leads
 * there in the site's own menu leads to the shop.
 */
export function fileFinder(site: Site): FindFile {
  const { find } = new FileIndex(Object.keys(site.manifest));
  const pasted = pastedShopPath(site);
  if (pasted === undefined || !site.row.shop) return find;
  const shop = shopPagesOf(site, site.row.shop).find((p) => p.part === 'shop')?.path;
  return (path) => find(path) ?? (path === pasted ? shop : undefined);
}

/** Where the page that the shop was pasted into would stand among the site's files. It is left out of them: the shop's page stands for it. */
export function pastedShopPath({ row }: Pick<Site, 'row'>): PagePath | undefined {
  return row.delivery.to === 'paste' && row.pasted?.shopPage
    ? pagePathOf(new URL(row.pasted.shopPage))
    : undefined;
}
