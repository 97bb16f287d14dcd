import { dateFormat, numberFormat } from '../../core/intl';
import { asc, inArray } from 'drizzle-orm';
import {
  lowestBefore,
  offerRuns,
  percentOff,
  priceFrom,
  priceNow,
  type PricePoint,
  pricePerUnit,
  reducedSince,
} from '../../core/goods/price';
import { isOnOffer, type Picture, type Product, type Variant } from '../../core/goods/product';
import { mostOf, type Availability, availabilityOf } from '../../core/goods/stock';
import type { StructuredInput } from '../../core/goods/structured';
import { canChoose } from '../../core/goods/variants';
import { amountText, formatMoney } from '../../core/money/format';
import { type Minor, minor } from '../../core/money/minor';
import { Html } from '../../core/storefront/html';
import type { CardAction, PictureView, ProductView, VariantView } from '../../core/storefront/views';
import { count, fill, type Words } from '../../core/languages/languages';
import { priceHistory } from '../../data/schema';
import type { Ctx } from '../context';
import { freeOfProducts, soldNow } from '../goods/available';
import { catalogueOf } from '../goods/catalogue';
import type { Site } from '../sites/site';
import { filmUrl, pageOf, pictureSet, pictureUrl, productHref, shopHome } from '../sites/addresses';

/** Draws products for shoppers: everything that several need is asked for once. */
export interface ViewMaker {
  readonly view: (p: Product) => ProductView;
  readonly structured: (p: Product, reviews?: StructuredInput['reviews']) => StructuredInput;
}

export async function viewMaker(
  ctx: Ctx,
  site: Site,
  products: readonly Product[],
  w: Words,
  via: string,
  counts?: ReadonlyMap<string, number | null>,
): Promise<ViewMaker> {
  const now = ctx.now();
  const goods = await catalogueOf(ctx, site.row.id, site.row);
  const [known, lowest] = await Promise.all([
    freeOfProducts(ctx, site.row.id, products, goods),
    lowestOf(ctx, products, now),
  ]);
  const free = counts ? new Map([...known, ...counts]) : known;
  const partGone = (p: Product) => p.kind === 'bundle' && p.bundle.some((part) => !soldNow(goods, part));
  const d: Drawing = { ctx, site, w, via, at: now.getTime(), free, lowest, partGone };
  return { view: (p) => keptView(d, p), structured: (p, reviews) => structuredOf(d, p, reviews) };
}

interface Drawing {
  readonly ctx: Ctx;
  readonly site: Site;
  readonly w: Words;
  readonly via: string;
  readonly at: number;
  readonly free: ReadonlyMap<string, number | null>;
  /** Lowest price of the thirty days before a reduction, by variant. */
  readonly lowest: ReadonlyMap<string, Minor>;
  /** Whether it is a bundle of which a part is not sold now. */
  readonly partGone: (p: Product) => boolean;
}

/** The lowest prices that products on offer are held against (Directive 98/6/EC, Article 6a). */
async function lowestOf(ctx: Ctx, products: readonly Product[], now: Date): Promise<Map<string, Minor>> {
  const reduced = products.filter((p) => isOnOffer(p, now.getTime()));
  const out = new Map<string, Minor>();
  if (reduced.length === 0) return out;
  const rows = await ctx.store.db
    .select()
    .from(priceHistory)
    .where(
      inArray(
        priceHistory.goodsId,
        reduced.map((p) => p.id),
      ),
    )
    .orderBy(asc(priceHistory.at), asc(priceHistory.id));
  const history = new Map<string, PricePoint[]>();
  for (const r of rows)
    history.set(r.variantId, [
      ...(history.get(r.variantId) ?? []),
      { at: r.at.getTime(), price: minor(r.price) },
    ]);
  for (const p of reduced) {
    for (const v of p.variants) {
      const points = history.get(v.id) ?? [];
      const since =
        offerRuns(p.offer, now.getTime()) && p.offer.from
          ? Date.parse(p.offer.from)
          : reducedSince(points, now.getTime());
      const low = lowestBefore(points, since);
      if (low !== undefined) out.set(v.id, low);
    }
  }
  return out;
}

/** Views of a product that are kept: by shop, language, placement and count. Few are in use at once. */
const VIEWS = 6;
const views = new WeakMap<Product, Map<string, ProductView>>();

/** A product stays the same object until it is changed, so what was drawn of it stays good; only what runs by the clock is drawn anew. */
function keptView(d: Drawing, p: Product): ProductView {
  if (p.offer || p.was !== null) return viewOf(d, p);
  const own = views.get(p) ?? new Map<string, ProductView>();
  views.set(p, own);
  const key = `${d.ctx.addresses.shop} ${d.site.row.slug} ${d.site.row.currency} ${d.site.row.locale} ${d.w.addNamed} ${d.via} ${d.partGone(p)} ${p.variants.map((v) => d.free.get(v.id)).join()}`;
  const known = own.get(key);
  if (known) return known;
  if (own.size >= VIEWS) own.clear();
  const made = viewOf(d, p);
  own.set(key, made);
  return made;
}

const money = (d: Drawing, amount: number): string =>
  formatMoney({ amount, currency: d.site.row.currency }, d.site.row.locale);

const freeFor = (d: Drawing, v: Variant): number | null => d.free.get(v.id) ?? null;

function stockWords(d: Drawing, p: Product, s: Availability): string {
  if (s.is === 'out') return d.w.soldOutLong;
  if (s.is === 'few')
    return p.kind === 'event' ? count(d.w, d.w.seatsLeft, s.left) : fill(d.w.left, { n: s.left });
  if (s.is === 'later')
    return s.on
      ? fill(d.w.preorder, {
          x: dateFormat(d.site.row.locale, { dateStyle: 'long' }).format(new Date(`${s.on}T12:00:00Z`)),
        })
      : d.w.made;
  return '';
}

function pictureView(d: Drawing, p: Product, picture: Pick<Picture, 'hash'> & Partial<Picture>): PictureView {
  const at = (n: number | undefined) => Math.round((n ?? 0.5) * 10);
  return {
    small: pictureUrl(d.ctx, picture.hash, 480) ?? '',
    large: pictureUrl(d.ctx, picture.hash, 960) ?? '',
    set: pictureSet(d.ctx, picture.hash),
    alt: picture.alt || p.name,
    x: at(picture.x),
    y: at(picture.y),
  };
}

/** All pictures of a product, those of its variants among them, each once. */
function picturesOf(
  d: Drawing,
  p: Product,
): { readonly views: PictureView[]; readonly placeOf: (hash: string | null) => number } {
  const own = p.variants.flatMap((v) =>
    v.picture && !p.pictures.some((x) => x.hash === v.picture)
      ? [{ hash: v.picture, alt: `${p.name}, ${v.values.join(', ')}` }]
      : [],
  );
  const all = [...p.pictures, ...own.filter((o, n) => own.findIndex((x) => x.hash === o.hash) === n)];
  return {
    views: all.map((x) => pictureView(d, p, x)),
    placeOf: (hash) => (hash ? all.findIndex((x) => x.hash === hash) : -1),
  };
}

function variantView(
  d: Drawing,
  p: Product,
  v: Variant,
  placeOf: (hash: string | null) => number,
): VariantView {
  const free = freeFor(d, v);
  const availability = availabilityOf(free, p.stockRule);
  const now = priceNow(p, v, d.at, d.lowest.get(v.id));
  return {
    id: v.id,
    values: v.values,
    price: money(d, now.price),
    was: now.was === null ? '' : money(d, now.was),
    stock: stockWords(d, p, availability),
    few: availability.is === 'few',
    soldOut: availability.is === 'out',
    max: mostOf(free, p.stockRule),
    picture: placeOf(v.picture),
  };
}

/** The price at the head of a product: its cheapest variant's, and the lowest of thirty days where it is reduced. */
function headPrice(d: Drawing, p: Product, least: number) {
  const cheapest = p.variants.find((v) => priceNow(p, v, d.at).price === least) ?? p.variants[0];
  if (!cheapest) return { price: { price: minor(p.price), was: null }, lowest: undefined };
  const lowest = d.lowest.get(cheapest.id);
  const price = priceNow(p, cheapest, d.at, lowest);
  return { price, lowest: price.was === null ? undefined : lowest };
}

/** What is said of a product with one variant; of several the choice says it. */
const stockOf = (single: VariantView | undefined): Pick<ProductView, 'stock' | 'few'> => ({
  stock: single?.stock ?? '',
  few: single?.few ?? false,
});

function viewOf(d: Drawing, p: Product): ProductView {
  const { w } = d;
  const pictures = picturesOf(d, p);
  const variants = p.variants.map((v) => variantView(d, p, v, pictures.placeOf));
  const single = p.options.length === 0 ? variants[0] : undefined;
  const partGone = d.partGone(p);
  const gone = partGone ? w.notNow : w.soldOutLong;
  const soldOut = p.kind !== 'link' && variants.length > 0 && variants.every((v) => v.soldOut);
  return {
    slug: p.slug,
    kind: p.kind,
    name: p.name,
    description: new Html(p.description),
    summary: p.plain,
    ...priceWords(d, p),
    action: actionOf(p),
    open: openView(d, p),
    ...(soldOut ? { stock: gone } : stockOf(single)),
    soldOut,
    partGone,
    max: single?.max ?? null,
    picture: pictures.views[0] ?? null,
    pictures: pictures.views,
    href: productHref(d.ctx, d.site, p.slug, d.via),
    send: productHref(d.ctx, d.site, p.slug),
    via: d.via,
    options: optionViews(d, p),
    variants: p.options.length ? variants : [],
    texts: p.texts.map((t) => ({
      label: t.label,
      most: t.most,
      required: t.required,
      price: t.price ? money(d, t.price) : '',
    })),
    sections: p.sections.map((s) => ({ title: s.title, html: new Html(s.text) })),
    video: p.film ? filmUrl(d.ctx, p.film) : p.video,
    parts: [],
    rating: p.rating && { ...p.rating, text: numberFormat(d.site.row.locale).format(p.rating.value) },
    event: p.event && {
      when: dates(p.event.start, p.event.end, d.site.row.locale),
      where: [p.event.place, p.event.address].filter(Boolean).join(', '),
    },
    seller: p.kind === 'link' && p.link ? { url: p.link.url, name: p.link.seller } : null,
    every: p.every && p.kind === 'subscription' ? everyWords(p.every, w) : '',
  };
}

/** All that is said of the price at the head of a product. */
function priceWords(d: Drawing, p: Product) {
  const { least, differs } = priceFrom(p, d.at);
  const { price, lowest } = headPrice(d, p, least);
  const from = p.openLeast ?? (differs ? least : null);
  return {
    badge: badgeOf(d, p, price),
    price: from === null ? money(d, price.price) : fill(d.w.from, { x: money(d, from) }),
    was: price.was === null ? '' : money(d, price.was),
    lowest: lowest === undefined ? '' : fill(d.w.lowest, { x: money(d, lowest) }),
    perUnit: perUnitWords(d, p, price.price),
  };
}

/** The owner's own badge, or how much was taken off. */
function badgeOf(d: Drawing, p: Product, now: { readonly price: Minor; readonly was: Minor | null }): string {
  if (p.badge || now.was === null) return p.badge;
  return fill(d.w.percentOff, { n: percentOff(now.was, now.price) });
}

function perUnitWords(d: Drawing, p: Product, price: Minor): string {
  if (!p.unit) return '';
  const unit = pricePerUnit(price, p.unit);
  const measure = unit.per === 'piece' ? d.w.piece : unit.per.replace('m2', 'm\u00b2');
  return fill(d.w.perUnit, { x: money(d, unit.price), n: measure });
}

/** What is asked where the buyer names the amount. */
function openView(d: Drawing, p: Product): ProductView['open'] {
  if (p.openLeast === null) return null;
  const { currency, locale } = d.site.row;
  return {
    least: amountText(p.openLeast, currency, locale),
    leastText: money(d, p.openLeast),
    sign: money(d, 0).replace(/[\d.,\s\u00a0]/g, '') || currency,
    suggested: p.openSuggestions.map((s) => ({ value: amountText(s, currency, locale), text: money(d, s) })),
  };
}

function optionViews(d: Drawing, p: Product): ProductView['options'] {
  const free = new Map(p.variants.map((v) => [v.id, mostOf(freeFor(d, v), p.stockRule)]));
  return p.options.map((o, i) => ({
    name: o.name,
    as: o.as,
    values: o.values.map((x) => ({ ...x, out: !canChoose(p, [], i, x.name, free) })),
  }));
}

/** What a card's button does: whatever has to be chosen or written first leads to the product's page. */
function actionOf(p: Product): CardAction {
  if (p.kind === 'link') return 'see';
  if (p.options.length > 0 || p.texts.some((t) => t.required)) return 'choose';
  if (p.openLeast !== null) return 'amount';
  return p.kind === 'event' ? 'book' : 'add';
}

export const everyWords = (e: NonNullable<Product['every']>, w: Words): string =>
  count(w, { week: w.everyWeek, month: w.everyMonth, year: w.everyYear }[e.unit], e.count);

/** "Saturday 12 December 2026, 10:00 to 16:00", at the place's own clock: the offset that was written stays. */
function dates(start: string, end: string | null, locale: string): string {
  // Shown as it was written: the offset is taken off and the rest read as if it were UTC.
  const local = (iso: string) => new Date(`${iso.replace(/(Z|[+-]\d\d:?\d\d)$/, '')}Z`);
  const format = dateFormat(locale, {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: 'UTC',
  });
  return end ? format.formatRange(local(start), local(end)) : format.format(local(start));
}

function structuredOf(d: Drawing, p: Product, reviews: StructuredInput['reviews'] = []): StructuredInput {
  const shop = shopHome(d.ctx, d.site);
  const url = pageOf(d.ctx, d.site, p.slug);
  return {
    product: p,
    url,
    seller: d.site.row.name,
    currency: d.site.row.currency,
    pictures: p.pictures.map((x) => pictureUrl(d.ctx, x.hash, 1440) ?? ''),
    offers:
      p.kind === 'link'
        ? []
        : p.variants.map((v) => ({
            sku: v.sku,
            gtin: v.gtin,
            name: v.values.join(', '),
            price: priceNow(p, v, d.at).price,
            availability: availabilityOf(freeFor(d, v), p.stockRule).is,
            until: offerRuns(p.offer, d.at) ? p.offer.until : null,
          })),
    rating: p.rating,
    reviews,
    crumbs: [{ name: d.site.row.shop?.name ?? d.w.shopWay, url: shop }],
  };
}
