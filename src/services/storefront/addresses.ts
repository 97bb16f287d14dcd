import type { Ctx } from '../context';
import { pictureWidths } from '../goods/pictures';
import type { Site } from '../sites/site';

/** Addresses on the shop's own origin. */
export const shopUrl = (ctx: Ctx, site: Site): string => `${ctx.addresses.shop}/${site.row.slug}`;
export const productHref = (ctx: Ctx, site: Site, slug: string, via = ''): string => `${shopUrl(ctx, site)}/goods/${encodeURIComponent(slug)}${via && `?via=${via}`}`;
export const pictureUrl = (ctx: Ctx, hash: string | null, width: number): string | null => (hash ? `${ctx.addresses.shop}/pictures/${hash}/${width}.webp` : null);
export const pictureSet = (ctx: Ctx, hash: string): string => pictureWidths.filter((w) => w >= 240).map((w) => `${ctx.addresses.shop}/pictures/${hash}/${w}.webp ${w}w`).join(', ');
