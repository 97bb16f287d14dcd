import { type CategoryNode, isIn } from '../../core/goods/category';
import { chooseProducts, orders, type Order, sorted } from '../../core/goods/choose';
import { facetsOf, narrowed, narrowedBy, type Narrowing } from '../../core/goods/narrow';
import type { Product } from '../../core/goods/product';
import { amountText, formatMoney, parseMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import { kindOf } from '../../core/placement/kinds';
import type { ReleasesSettings, ReviewsSettings } from '../../core/placement/kinds/after';
import type { ProductCardSettings } from '../../core/placement/kinds/product-card';
import type { ProductRowSettings } from '../../core/placement/kinds/product-row';
import type { ShopFrontSettings } from '../../core/placement/kinds/shop-front';
import { cardFragment, rowFragment } from '../../core/storefront/cards';
import { releasesFragment } from '../../core/storefront/downloads';
import { reviewsFragment } from '../../core/storefront/reviews';
import { type Html, html } from '../../core/storefront/html';
import { lookupFragment, type LookupView } from '../../core/storefront/lookup';
import {
  categoriesFragment,
  noState,
  searchFragment,
  shopFrontFragment,
} from '../../core/storefront/shop-front';
import type { CategoryView, NarrowView, ShopState } from '../../core/storefront/views';
import { stepWordsIn, type Words, wordsIn } from '../../core/storefront/words';
import type { Ctx } from '../context';
import { invalid, Refusal } from '../errors';
import { freeOfProducts } from '../goods/available';
import { type Catalogue, catalogueOf } from '../goods/catalogue';
import { lookUpOrder } from '../till/orders';
import type { Site } from '../sites/site';
import { briefOf } from './account';
import { releaseNotes, reviewsView } from './after';
import { shopUrl } from '../sites/addresses';
import { productPageView, productViews } from './views';

/** What a widget was asked to be: settings by their attribute names, and for a shop front what the shopper asked of it. */
export interface WidgetCall {
  readonly kind: string;
  readonly attributes: ReadonlyMap<string, string>;
  readonly state?: ShopState;
  /** The placement it stands for, kept with what is bought through it. */
  readonly via?: string;
}

interface Drawing {
  readonly ctx: Ctx;
  readonly site: Site;
  readonly w: Words;
  readonly lang: string;
  readonly via: string;
  readonly state: ShopState;
  readonly goods: () => Promise<Catalogue>;
  readonly at: number;
}

/**
 * A widget as HTML that works without script: elements put it into their shadow root, frames and includes send it as it is.
 * @throws Refusal when there is no such widget, or its settings do not fit.
 */
export async function drawWidget(ctx: Ctx, site: Site, call: WidgetCall): Promise<Html> {
  const kind = kindOf(call.kind);
  const draw = drawings[call.kind];
  if (!kind || !draw) throw invalid(`There is no widget called "${call.kind}" to draw.`);
  const own = new Map(call.attributes);
  own.delete('via');
  const settings = kind.fromAttributes(own);
  if (!settings.ok) throw invalid(settings.error);
  const lang = String(settings.value.lang || site.row.locale);
  let known: Promise<Catalogue> | undefined;
  const goods = () => (known ??= catalogueOf(ctx, site.row.id, site.row));
  return draw(
    {
      ctx,
      site,
      w: wordsIn(lang),
      lang,
      via: call.via ?? '',
      at: ctx.now().getTime(),
      state: call.state ?? noState,
      goods,
    },
    settings.value,
  );
}

type Draw = (d: Drawing, settings: Record<string, unknown>) => Promise<Html>;
const base = (d: Drawing) => `${shopUrl(d.ctx, d.site)}/goods`;

/** One line to each kind that the server draws. Buttons, carts and notices are drawn where they stand. */
const drawings: Readonly<Record<string, Draw>> = {
  card: (d, s) => drawCard(d, s as unknown as ProductCardSettings),
  row: (d, s) => drawRow(d, s as unknown as ProductRowSettings),
  shop: (d, s) => drawShop(d, s as unknown as ShopFrontSettings),
  categories: (d, s) =>
    drawCategories(d, s as { heading: string; level: number; counts: boolean; form: string }),
  reviews: (d, s) => drawReviews(d, s as unknown as ReviewsSettings),
  releases: (d, s) => drawReleases(d, s as unknown as ReleasesSettings),
  search: async (d, s) =>
    searchFragment(
      { ...(s as { heading: string; level: number; placeholder: string }), action: base(d) },
      d.w,
    ),
  lookup: async (d, s) =>
    lookupFragment(
      {
        ...(s as { heading: string; level: number }),
        action: `${shopUrl(d.ctx, d.site)}/lookup`,
        number: '',
        email: '',
        problem: '',
        order: null,
        more: '',
      },
      d.w,
      stepWordsIn(d.lang),
    ),
};
export const drawnKinds = Object.keys(drawings);

async function drawCard(d: Drawing, s: ProductCardSettings): Promise<Html> {
  const product = (await d.goods()).bySlug.get(s.goods);
  if (!product || product.shows === 'hidden') return html`<p class="stall-muted">${d.w.gone}</p>`;
  const [view] = await productViews(d.ctx, d.site, [product], d.w, d.via);
  return view
    ? html`<div class="stall-one stall-${s.form}">${cardFragment(view, s, d.w, false)}</div>`
    : html``;
}

/** How many products a row or a shop front shows today. */
export function countShown(
  { shown, pathNow }: Pick<Catalogue, 'shown' | 'pathNow'>,
  settings: Record<string, unknown>,
  at: number,
): number {
  const s = settings as Partial<ProductRowSettings & ShopFrontSettings>;
  const category = pathNow(s.category ?? '');
  if (s.perPage) return Math.min(s.perPage, shown.filter((p) => !category || isIn(p, category)).length);
  return chooseProducts(
    shown,
    {
      source: s.source ?? 'all',
      goods: s.goods ?? [],
      category,
      of: s.of ?? '',
      order: 'hand',
      limit: s.limit ?? 4,
    },
    at,
  ).length;
}

async function drawRow(d: Drawing, s: ProductRowSettings): Promise<Html> {
  const { shown, bySlug, pathNow } = await d.goods();
  // A product that is by link only stands where it was chosen by hand, and nowhere else.
  const own =
    s.source === 'chosen'
      ? s.goods.flatMap((slug) => bySlug.get(slug) ?? []).filter((p) => p.shows !== 'hidden')
      : shown;
  const chosen = chooseProducts(own, { ...s, category: pathNow(s.category) }, d.at, d.lang);
  return rowFragment({ ...s, products: await productViews(d.ctx, d.site, chosen, d.w, d.via) }, d.w);
}

async function drawShop(d: Drawing, s: ShopFrontSettings): Promise<Html> {
  const { w, state } = d;
  const { tree, index, byId, inOrder, pathNow } = await d.goods();
  const flat = (nodes: readonly CategoryNode[]): CategoryNode[] =>
    nodes.flatMap((n) => [n, ...flat(n.children)]);
  const open = flat(tree).find((c) =>
    state.category ? c.slug === state.category : c.path === pathNow(s.category),
  );
  const order = (orders as readonly string[]).includes(state.sort) ? (state.sort as Order) : s.order;
  const listed = state.find
    ? await foundIn(state, open?.path ?? '', order, d, { index, byId, inOrder })
    : inOrder(open?.path ?? '', order, d.at);
  const { ordered, narrow } = s.narrow ? await narrowing(d, listed) : { ordered: listed, narrow: null };
  const pages = Math.max(1, Math.ceil(ordered.length / s.perPage));
  const page = Math.min(state.page, pages);
  const product = state.goods
    ? await productPageView(d.ctx, d.site, state.goods, d.via, w, { price: state.price }).catch(goneIs(null))
    : null;
  const here = product ? [] : ordered.slice((page - 1) * s.perPage, page * s.perPage);
  return shopFrontFragment(
    {
      ...s,
      narrow,
      state: { ...state, page, category: open && state.category ? open.slug : '' },
      found: ordered.length,
      pages,
      product,
      base: base(d),
      products: await productViews(d.ctx, d.site, here, w, d.via),
      categories: s.categories ? tree.map((n) => categoryView(n, d, open?.slug ?? '')) : null,
      sorts: s.sort
        ? [
            { value: '', name: w[s.order] },
            ...orders.filter((o) => o !== s.order).map((value) => ({ value, name: w[value] })),
          ]
        : null,
    },
    w,
  );
}

/** Fewer goods than this are looked through faster than narrowed; tags that are offered. Chosen by hand. */
const WORTH_NARROWING = 9;
const TAGS = 12;

/** A list narrowed to what was asked, and what it can be narrowed by. A price that cannot be read is left out. */
async function narrowing(
  d: Drawing,
  listed: readonly Product[],
): Promise<{ ordered: readonly Product[]; narrow: NarrowView | null }> {
  const { state, site } = d;
  const { currency, locale } = site.row;
  const money = (text: string): Minor | null => {
    const read = text ? parseMoney(text, currency, locale) : undefined;
    return read?.ok ? read.value : null;
  };
  const n: Narrowing = {
    least: money(state.least),
    most: money(state.most),
    inStock: state.stock,
    onOffer: state.offer,
    tags: state.tags,
  };
  const by = narrowedBy(n);
  if (by === 0 && listed.length < WORTH_NARROWING) return { ordered: listed, narrow: null };
  const free = n.inStock ? await freeOfProducts(d.ctx, site.row.id, listed, await d.goods()) : undefined;
  const facets = kept(listed, d.at);
  const chosen = new Set(state.tags.map((t) => t.toLowerCase()));
  const tags = [
    ...facets.tags,
    ...state.tags
      .filter((t) => !facets.tags.some((f) => f.name.toLowerCase() === t.toLowerCase()))
      .map((name) => ({ name, count: 0 })),
  ];
  return {
    ordered: narrowed(listed, n, d.at, free),
    narrow: {
      by,
      sign: formatMoney({ amount: 0, currency }, locale).replace(/[\d.,\s\u00a0]/g, '') || currency,
      least: amountText(facets.least, currency, locale),
      most: amountText(facets.most, currency, locale),
      offers: facets.offers > 0,
      tags: tags.map((t) => ({ ...t, chosen: chosen.has(t.name.toLowerCase()) })),
    },
  };
}

const facets = new WeakMap<readonly Product[], ReturnType<typeof facetsOf>>();
/** Lists in order are kept by the catalogue, and so is what they can be narrowed by. */
function kept(list: readonly Product[], at: number): ReturnType<typeof facetsOf> {
  const known = facets.get(list) ?? facetsOf(list, at, TAGS);
  facets.set(list, known);
  return known;
}

/** What a shopper's words find, the best first, or in an order that was asked for. */
async function foundIn(
  state: ShopState,
  category: string,
  order: Order,
  d: Drawing,
  c: Pick<Catalogue, 'index' | 'byId' | 'inOrder'>,
): Promise<readonly Product[]> {
  const ids = await c.index.search(state.find);
  const hits = ids
    .flatMap((id) => c.byId.get(id) ?? [])
    .filter((p) => p.shows === 'shown' && (!category || isIn(p, category)));
  return state.sort ? sorted(hits, { order, source: 'all' }, d.at, d.lang) : hits;
}

/** A product that is gone leaves the list in its place; anything else that fails is a failure. */
const goneIs =
  <T>(instead: T) =>
  (error: unknown): T => {
    if (error instanceof Refusal) return instead;
    throw error;
  };

const categoryView = (n: CategoryNode, d: Drawing, current: string): CategoryView => ({
  name: n.name,
  slug: n.slug,
  count: n.count,
  current: n.slug === current,
  href: `${base(d)}?category=${encodeURIComponent(n.slug)}`,
  children: n.children.map((c) => categoryView(c, d, current)),
});

async function drawCategories(
  d: Drawing,
  s: { heading: string; level: number; counts: boolean; form: string },
): Promise<Html> {
  const { tree } = await d.goods();
  return categoriesFragment(
    { ...s, across: s.form === 'across', categories: tree.map((n) => categoryView(n, d, '')) },
    d.w,
  );
}

async function drawReviews(d: Drawing, s: ReviewsSettings): Promise<Html> {
  const product = s.goods ? (await d.goods()).bySlug.get(s.goods) : null;
  if (product === undefined || product?.shows === 'hidden')
    return html`<p class="stall-muted">${d.w.gone}</p>`;
  return reviewsFragment(
    { ...s, ...(await reviewsView(d.ctx, d.site, product, d.lang, { ...s, via: d.via })) },
    d.w,
  );
}

async function drawReleases(d: Drawing, s: ReleasesSettings): Promise<Html> {
  const product = (await d.goods()).bySlug.get(s.goods);
  if (!product || product.shows === 'hidden') return html`<p class="stall-muted">${d.w.gone}</p>`;
  return releasesFragment({ ...s, releases: releaseNotes(product, d.lang, s.limit) }, d.w);
}

/**
 * How an order stands, for whoever knows its number and address: both stand on a parcel. Files, papers and
 * the way to a review are worth
 * something, and go by a letter to the address on the order.
 */
async function looked(
  ctx: Ctx,
  site: Site,
  found: Parameters<typeof briefOf>[1] | undefined,
  lang: string,
): Promise<Pick<LookupView, 'order' | 'more'>> {
  if (!found) return { order: null, more: '' };
  const brief = await briefOf(ctx, found, site, lang);
  const worth = brief.files !== '' || brief.lines.some((l) => l.review !== '');
  return {
    order: { ...brief, files: '', lines: brief.lines.map((l) => ({ ...l, review: '' })) },
    more: worth ? `${shopUrl(ctx, site)}/account` : '',
  };
}

/** The answer to an order lookup: the order, or that there is none. */
export async function lookupAnswer(
  ctx: Ctx,
  site: Site,
  fields: { number: string; email: string },
  attributes: ReadonlyMap<string, string>,
): Promise<{ html: Html; found: boolean }> {
  const settings = kindOf('lookup')?.fromAttributes(attributes);
  const s = (settings?.ok ? settings.value : { heading: '', level: 3, lang: '' }) as {
    heading: string;
    level: number;
    lang: string;
  };
  const lang = s.lang || site.row.locale;
  const w = wordsIn(lang);
  const found = await lookUpOrder(ctx, site.row.id, fields.number, fields.email);
  return {
    found: !!found,
    html: lookupFragment(
      {
        ...s,
        action: `${shopUrl(ctx, site)}/lookup`,
        ...fields,
        problem: found ? '' : w.noOrder,
        ...(await looked(ctx, site, found, lang)),
      },
      w,
      stepWordsIn(lang),
    ),
  };
}
