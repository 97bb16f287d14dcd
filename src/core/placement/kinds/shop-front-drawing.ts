import { type CategoryNode, isIn } from '../../goods/category';
import { orders, type Order, sorted } from '../../goods/choose';
import { facetsOf, narrowed, narrowedBy, type Narrowing } from '../../goods/narrow';
import type { Product } from '../../goods/product';
import { amountText, formatMoney, parseMoney } from '../../money/format';
import type { Minor } from '../../money/minor';
import type { Html } from '../../storefront/html';
import { shopFrontFragment } from '../../storefront/shop-front';
import { categoryView } from '../../storefront/shop-list';
import type { NarrowView, ShopState } from '../../storefront/views';
import type { DrawingShop, GoodsNow } from '../drawing';
import { shapeWith } from './common';
import type { ShopFrontSettings } from './shop-front';

/** A shop front as it was asked for: a list, what was searched for, or a product. */
export async function drawShopFront(s: ShopFrontSettings, d: DrawingShop): Promise<Html> {
  const { w, state } = d;
  const { tree, index, byId, inOrder, pathNow } = await d.goods();
  const flat = (nodes: readonly CategoryNode[]): CategoryNode[] =>
    nodes.flatMap((n) => [n, ...flat(n.children)]);
  const open = flat(tree).find((c) =>
    state.category ? c.slug === state.category : c.path === pathNow(s.category),
  );
  const order = orders.find((known) => known === state.sort) ?? s.order;
  const listed = state.find
    ? await foundIn(state, open?.path ?? '', order, d, { index, byId, inOrder })
    : inOrder(open?.path ?? '', order, d.at);
  const { ordered, narrow } = s.narrow ? await narrowing(d, listed) : { ordered: listed, narrow: null };
  const pages = Math.max(1, Math.ceil(ordered.length / s.perPage));
  const page = Math.min(state.page, pages);
  const product = state.goods ? await d.productPage(state.goods, state.price) : null;
  const here = product ? [] : ordered.slice((page - 1) * s.perPage, page * s.perPage);
  return shopFrontFragment(
    {
      ...s,
      second: shapeWith(s, d.shape).hover === 'second',
      narrow,
      state: { ...state, page, category: open && state.category ? open.slug : '' },
      found: ordered.length,
      pages,
      product,
      base: d.listHref,
      products: await d.views(here),
      categories: s.categories ? tree.map((n) => categoryView(n, d.listHref, open?.slug ?? '')) : null,
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
  d: DrawingShop,
  listed: readonly Product[],
): Promise<{ ordered: readonly Product[]; narrow: NarrowView | null }> {
  const { state, currency, locale } = d;
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
  const free = n.inStock ? await d.free(listed) : undefined;
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
  d: DrawingShop,
  c: Pick<GoodsNow, 'index' | 'byId' | 'inOrder'>,
): Promise<readonly Product[]> {
  const ids = await c.index.search(state.find);
  const hits = ids
    .flatMap((id) => c.byId.get(id) ?? [])
    .filter((p) => p.shows === 'shown' && (!category || isIn(p, category)));
  return state.sort ? sorted(hits, { order, source: 'all' }, d.at, d.lang) : hits;
}
