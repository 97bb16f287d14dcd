import type { Ctx } from '../context';
import { pictureWidths } from '../../core/goods/picture-widths';
import { addressOf, type PagePath } from '../../core/site/paths';
import { stepAddress } from '../../core/placement/hand-out/pasted';
import { type ShopPart, shopPagesOf } from './shop-places';
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

/**
 * Where a part of the shop is on the live site; nothing where it has no page there. On a site that only its owner can write all parts
 * stand inside the one shop front that was pasted.
 * @param to 'seen': only where shoppers may be led today; 'named': as it is written into code that is handed out
 */
export function partAddress(site: Site, part: ShopPart, to: 'seen' | 'named' = 'seen'): string | undefined {
  const { liveUrl, delivery, pasted } = site.row;
  if (delivery.to === 'paste')
    return pasted?.shopPage && (pasted.stands || to === 'named')
      ? stepAddress(pasted.shopPage, part)
      : undefined;
  if (!liveUrl.startsWith('http')) return undefined;
  const page = shopPagesOf(site, to === 'named' ? site.row.shop : site.liveShop).find((p) => p.part === part);
  return page && new URL(page.address.slice(1), liveUrl).href;
}

/** The shop's page on the site itself, once it is live there; else the plain list of goods. */
export const shopHome = (ctx: Ctx, site: Site): string =>
  (site.liveShop && partAddress(site, 'shop')) ?? `${shopUrl(ctx, site)}/goods`;

/** A product's page for people and search engines: on the site's own shop page, else the plain page. */
export function pageOf(ctx: Ctx, site: Site, slug: string): string {
  const home = shopHome(ctx, site);
  if (home === `${shopUrl(ctx, site)}/goods`) return productHref(ctx, site, slug);
  return `${home}${home.includes('?') ? '&' : '?'}goods=${encodeURIComponent(slug)}`;
}

/** The same, with what stands before and after a product's own address left to be filled in: `{}`. */
export const pagePattern = (ctx: Ctx, site: Site): string => pageOf(ctx, site, 'x').replace(/x$/, '{}');

/** Where visitors find a page of the live site. A site that was read over the network calls its pages by their own addresses. */
export function liveAddress(site: Site, path: PagePath): string {
  if (site.row.connection.how !== 'live') return new URL(addressOf(path).slice(1), site.row.liveUrl).href;
  const address = site.reading.pages.find((p) => p.path === path)?.address ?? addressOf(path);
  return new URL(address, site.row.liveUrl).href;
}

/** Where visitors find an address of the site, "/terms.html". */
export const liveUrlOf = (site: Site, address: string): string =>
  new URL(site.row.connection.how === 'live' ? address : address.replace(/^\//, ''), site.row.liveUrl).href;
