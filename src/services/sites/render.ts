import { computePage, type ComputedPage } from '../../core/placement/compute-page';
import type { MenuChange } from '../../core/placement/menu-change';
import type { PlaceContext } from '../../core/placement/place';
import type { Placement } from '../../core/placement/placement';
import { reachesShopPages, reachIn } from '../../core/placement/reach';
import { FileIndex, type PagePath, relativeAddress } from '../../core/site/paths';
import type { Ctx } from '../context';
import { buildSitePage, type ShopPage, shopPagesOf } from './shop-pages';
import { loadPage, productNames, type Site } from './site';
import { parsePageFile, type ParsedPage } from '../../core/site/read-page';

/** Everything needed to write pages of one state of a site. */
export interface Rendering {
  readonly site: Site;
  readonly placements: readonly Placement[];
  readonly menu: readonly MenuChange[];
  /** Built as soon as anything sells; none otherwise, so that an empty stall leaves no page behind. */
  readonly shopPages: readonly ShopPage[];
  readonly names: ReadonlyMap<string, string>;
  readonly reaches: ReturnType<typeof reachIn>;
  readonly files: FileIndex;
}

export async function rendering(ctx: Ctx, site: Site, placements: readonly Placement[]): Promise<Rendering> {
  return { site, placements, menu: site.row.menu, files: new FileIndex(Object.keys(site.manifest) as PagePath[]), shopPages: placements.length ? shopPagesOf(site) : [], names: await productNames(ctx, site.row.id), reaches: reachIn(site.reading) };
}

/** One page as this state has it: the owner's with its placements, or a page of the shop with those that reach every page. */
export async function renderPage(ctx: Ctx, r: Rendering, path: string): Promise<ComputedPage & { page: ParsedPage }> {
  const shopPage = r.shopPages.find((p) => p.path === path);
  const page = shopPage ? await parsedShopPage(ctx, r.site, shopPage) : await loadPage(ctx, r.site, path);
  const here = r.placements.filter((p) => (shopPage ? reachesShopPages(p.reach, p.pitch.region) : r.reaches(p.reach, path)));
  return { ...computePage(page, { placements: here, menu: r.menu }, placeContext(ctx, r, path as PagePath), r.files.find), page };
}

async function parsedShopPage(ctx: Ctx, site: Site, shopPage: ShopPage): Promise<ParsedPage> {
  const { bytes } = await buildSitePage(ctx, site, shopPage.part);
  const parsed = parsePageFile(shopPage.path, bytes);
  if ('problem' in parsed) throw new Error(parsed.problem);
  return parsed.page;
}

function placeContext(ctx: Ctx, r: Rendering, path: PagePath): PlaceContext {
  const cart = r.shopPages.find((p) => p.part === 'cart');
  return {
    shopUrl: `${ctx.addresses.shop}/${r.site.row.slug}`,
    scriptUrl: `${ctx.addresses.shop}/stall.js`,
    cartHref: cart ? relativeAddress(path, cart.address) : '#',
    productName: (slug) => r.names.get(slug),
  };
}
