import { dateFormat, numberFormat } from '../../core/intl';
import { newestFirst, sizeWords } from '../../core/goods/downloads';
import type { Product } from '../../core/goods/product';
import type { ReviewOrder } from '../../core/goods/reviews';
import type { DownloadsView, ReleaseView } from '../../core/storefront/downloads';
import { Html } from '../../core/storefront/html';
import type { ReviewsView } from '../../core/storefront/reviews';
import { count, fill, stepWordsIn } from '../../core/languages/languages';
import type { orders } from '../../data/schema';
import type { Ctx } from '../context';
import { catalogueOf } from '../goods/catalogue';
import { richText } from '../goods/rich-text';
import { shownReviews, spreadShown } from '../goods/reviews';
import type { Site } from '../sites/site';
import { type DownloadFile, downloadsOf, hasDownloads, proofFor } from '../till/downloads';
import { backToSite, productHref, shopUrl } from '../sites/addresses';

/** What shoppers meet after buying: their files, and what they say of what they bought. */

const dayOf = (iso: string, lang: string): string =>
  dateFormat(lang, { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(`${iso}T12:00:00Z`));

/** The way to an order's files, with the proof that whoever sees it has named the mail address; '' where it has none. */
export async function filesHref(
  ctx: Ctx,
  site: Site,
  order: typeof orders.$inferSelect,
  proven: boolean,
): Promise<string> {
  if (!(await hasDownloads(ctx.store.db, order))) return '';
  return `${shopUrl(ctx, site)}/downloads/${order.token}${proven ? `?proof=${proofFor(ctx, order)}` : ''}`;
}

export const reviewHref = (
  ctx: Ctx,
  site: Site,
  order: { readonly token: string },
  goodsId: string,
): string => `${shopUrl(ctx, site)}/reviews/${order.token}/${goodsId}`;

export async function downloadsView(
  ctx: Ctx,
  site: Site,
  order: typeof orders.$inferSelect,
  problem = '',
): Promise<DownloadsView> {
  const { locale } = site.row;
  const things = await downloadsOf(ctx, order);
  const file = (f: DownloadFile): ReleaseView['files'][number] => ({
    hash: f.hash,
    name: f.name,
    size: sizeWords(f.size, locale),
    may: f.may.may,
    text: downloadStatus(f, locale),
  });
  return {
    action: `${shopUrl(ctx, site)}/downloads/${order.token}`,
    back: backToSite(ctx, site),
    problem,
    things: things.map((t) => ({
      variantId: t.variantId,
      name: t.name,
      releases: t.releases.map((r) => ({
        name: r.name,
        day: dayOf(r.date, locale),
        notes: new Html(richText(r.notes)),
        files: r.files.map(file),
      })),
    })),
  };
}

function downloadStatus({ may }: DownloadFile, locale: string): string {
  const s = stepWordsIn(locale);
  if (!may.may) return may.why === 'used' ? s.usedUp : s.timeOver;
  const left = may.left === null ? '' : count(s, s.leftTimes, may.left);
  const until =
    may.until === null
      ? ''
      : fill(s.untilDay, { x: dateFormat(locale, { dateStyle: 'long' }).format(may.until) });
  return [left, until].filter(Boolean).join(', ');
}

/** Releases of a product for everybody to read: what is new, without the files. */
export const releaseNotes = (p: Product, lang: string, limit: number): ReleaseView[] =>
  newestFirst(p.downloads)
    .slice(0, limit)
    .map((r) => ({ name: r.name, day: dayOf(r.date, lang), notes: new Html(richText(r.notes)), files: [] }));

/** What buyers say of one product, or of all. */
export async function reviewsView(
  ctx: Ctx,
  site: Site,
  product: Product | null,
  lang: string,
  how: { order: ReviewOrder; limit: number; spread: boolean; via?: string },
): Promise<ReviewsView> {
  const [found, spread, { byId }] = await Promise.all([
    shownReviews(ctx, site.row.id, product?.id ?? null, how.order, how.limit),
    spreadShown(ctx, site.row.id, product?.id ?? null),
    catalogueOf(ctx, site.row.id, site.row),
  ]);
  const count = spread.reduce((a, b) => a + b, 0);
  const value = count
    ? Math.round((spread.reduce((sum, n, i) => sum + n * (5 - i), 0) / count) * 10) / 10
    : 0;
  const day = dateFormat(lang, { dateStyle: 'long' });
  const of = (id: string) => {
    const p = product ? undefined : byId.get(id);
    return p && p.shows === 'shown'
      ? { name: p.name, slug: p.slug, href: productHref(ctx, site, p.slug, how.via ?? '') }
      : null;
  };
  return {
    rating: count ? { value, text: numberFormat(lang).format(value), count } : null,
    spread: how.spread ? spread : null,
    seller: site.row.name,
    reviews: found.map(({ at, goodsId, ...r }) => ({ ...r, day: day.format(at), of: of(goodsId) })),
  };
}
