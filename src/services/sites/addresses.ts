import type { Ctx } from '../context';
import { pictureWidths } from '../../core/goods/picture-widths';
import { addressOf, type PagePath } from '../../core/site/paths';
import { shopPagesOf } from './shop-places';
import type { Site } from './site';

/** Addresses on the shop's own origin. */
export const shopUrl = (ctx: Ctx, site: Site): string => `${ctx.addresses.shop}/${site.row.slug}`;
export const productHref = (ctx: Ctx, site: Site, slug: string, via = ''): string =>
  `${shopUrl(ctx, site)}/goods/${encodeURIComponent(slug)}${via && `?via=${via}`}`;
export const pictureUrl = (ctx: Ctx, hash: string | null, width: number): string | null =>
  hash ? `${ctx.addresses.shop}/pictures/${hash}/${width}` : null;
/** A film of the owner's own; its ending tells the page's script that it can be played there. */
export const filmUrl = (ctx: Ctx, film: { readonly hash: string; readonly type: string }): string =>
  `${ctx.addresses.shop}/films/${film.hash}/film.${film.type === 'video/webm' ? 'webm' : 'mp4'}`;
export const pictureSet = (ctx: Ctx, hash: string): string =>
  pictureWidths
    .filter((w) => w >= 240)
    .map((w) => `${ctx.addresses.shop}/pictures/${hash}/${w} ${w}w`)
    .join(', ');

/** Until the site is live the way back leads to the ordinary list of goods. */
export const backToSite = (ctx: Ctx, site: Site): string =>
  site.row.publicationId ? site.row.liveUrl : `${shopUrl(ctx, site)}/goods`;

/** The shop's page on the site itself, once it is live there; else the plain list of goods. */
export function shopHome(ctx: Ctx, site: Site): string {
  const { liveUrl } = site.row;
  const main =
    site.liveShop && liveUrl.startsWith('http')
      ? shopPagesOf(site, site.liveShop).find((p) => p.part === 'shop')
      : undefined;
  return main ? new URL(main.address.slice(1), liveUrl).href : `${shopUrl(ctx, site)}/goods`;
}

/** A product's page for people and search engines: on the site's own shop page, else the plain page. */
export function pageOf(ctx: Ctx, site: Site, slug: string): string {
  const home = shopHome(ctx, site);
  return home === `${shopUrl(ctx, site)}/goods`
    ? productHref(ctx, site, slug)
    : `${home}?goods=${encodeURIComponent(slug)}`;
}

/** The same, with what stands before and after a product's own address left to be filled in: `{}`. */
export const pagePattern = (ctx: Ctx, site: Site): string => pageOf(ctx, site, 'x').replace(/x$/, '{}');

/** Where visitors find a page of the live site. */
export const liveAddress = (site: Site, path: PagePath): string =>
  new URL(addressOf(path).slice(1), site.row.liveUrl).href;
