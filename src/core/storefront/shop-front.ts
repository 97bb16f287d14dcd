import { cardFragment, heading } from './cards';
import { type Html, html } from './html';
import { productFragment } from './product';
import type { CategoryView, NarrowView, ShopFrontView, ShopState } from './views';
import { count, fill, type Words } from '../languages/languages';

/** A question to a shop front as a query string, without what is usual. */
export function stateQuery(s: ShopState): string {
  const query = new URLSearchParams();
  if (s.goods) query.set('goods', s.goods);
  if (s.goods && s.price) query.set('price', s.price);
  if (s.category) query.set('category', s.category);
  if (s.find) query.set('find', s.find);
  if (s.sort) query.set('sort', s.sort);
  if (s.least) query.set('least', s.least);
  if (s.most) query.set('most', s.most);
  if (s.stock) query.set('stock', '1');
  if (s.offer) query.set('offer', '1');
  for (const tag of s.tags) query.append('tag', tag);
  if (s.page > 1) query.set('page', String(s.page));
  return query.toString();
}

const TEXT = 120;

/** Tags a list is narrowed by at once; characters of a typed price. */
const TAGS = 8;
const PRICE = 15;

/** Nothing was asked. */
export const noState: ShopState = {
  goods: '',
  price: '',
  category: '',
  find: '',
  sort: '',
  page: 1,
  least: '',
  most: '',
  stock: false,
  offer: false,
  tags: [],
};

export const readState = (query: Pick<URLSearchParams, 'get' | 'getAll'>): ShopState => ({
  goods: (query.get('goods') ?? '').slice(0, TEXT),
  price: (query.get('price') ?? '').slice(0, 16),
  category: (query.get('category') ?? '').slice(0, TEXT),
  find: (query.get('find') ?? '').trim().slice(0, TEXT),
  sort: (query.get('sort') ?? '').slice(0, 20),
  page: Math.max(1, Math.min(10_000, Math.floor(Number(query.get('page') ?? 1)) || 1)),
  least: (query.get('least') ?? '').trim().slice(0, PRICE),
  most: (query.get('most') ?? '').trim().slice(0, PRICE),
  stock: !!query.get('stock'),
  offer: !!query.get('offer'),
  tags: [
    ...new Set(
      query
        .getAll('tag')
        .map((t) => t.trim().slice(0, 40))
        .filter(Boolean),
    ),
  ].slice(0, TAGS),
});

function nothingWords({ state }: ShopFrontView, w: Words): string {
  if (state.find) return fill(w.nothingFound, { x: state.find });
  return state.category ? w.emptyCategory : w.nothingHere;
}

/**
 * The whole catalogue with its ways in: categories, search, order, pages, and the product page inside. Every way is a link
 * or a form of its own, so that all of it works without script; `data-go` tells the script what the link asks for.
 */
export function shopFrontFragment(v: ShopFrontView, w: Words): Html {
  const level = Math.max(1, v.level - 1);
  const top = v.heading && heading(level, v.heading, 'stall-shop-heading');
  const go = (to: Partial<ShopState>) => {
    const query = stateQuery({ ...v.state, goods: '', page: 1, ...to });
    return html`href="${v.base}${query && `?${query}`}" data-go="${query}"`;
  };
  if (v.product)
    return html`<section class="stall-shop">${top}<p><a class="stall-back" ${go({ page: v.state.page })}>&#8592; ${w.back}</a></p>${productFragment(v.product, w, v.heading ? level + 1 : level)}</section>`;
  return html`<section class="stall-shop">${top}
<div class="stall-shop-bar">${v.categories && v.categories.length > 0 && categoryNav(v.categories, v, w, go)}
<div class="stall-shop-tools">${v.search && searchForm(v, w)}${v.sorts && sortForm(v, v.sorts, w)}${v.narrow && narrowForm(v, v.narrow, w, go)}</div></div>
<p class="${v.state.find || v.narrow?.by ? 'stall-found' : 'stall-hidden'}" role="status">${count(w, w.found, v.found)}</p>
${
  v.products.length === 0
    ? nothingFragment(v, w, go)
    : html`<ul class="stall-grid" data-columns="${v.columns}">${v.products.map((p, n) => html`<li>${cardFragment(p, v, w, n > 3)}</li>`)}</ul>`
}
${v.pages > 1 && pageNav(v, w, go)}</section>`;
}

/** Attributes of a link to another state of the same front. */
type Go = (to: Partial<ShopState>) => Html;

/** Nothing is there: why, and the ways back to where there is something. */
function nothingFragment(v: ShopFrontView, w: Words, go: Go): Html {
  const { state, narrow } = v;
  const isNarrowed = !state.find && narrow && narrow.by > 0;
  return html`<p class="stall-lead">${nothingWords(v, w)}</p>${(state.find || state.category) && html`<p><a class="stall-way" ${go({ ...noState })}>${w.all}</a></p>`}${isNarrowed && html`<p><a class="stall-way" ${go({ ...noState, category: state.category, sort: state.sort })}>${w.clear}</a></p>`}`;
}

function pageNav({ state: { page }, pages }: ShopFrontView, w: Words, go: Go): Html {
  const where = fill(w.page, { n: page, x: pages });
  return html`<nav class="stall-pages" aria-label="${where}">${page > 1 && html`<a rel="prev" ${go({ page: page - 1 })}>${w.previous}</a>`}<span>${where}</span>${page < pages && html`<a rel="next" ${go({ page: page + 1 })}>${w.next}</a>`}</nav>`;
}

function categoryNav(categories: readonly CategoryView[], v: ShopFrontView, w: Words, go: Go): Html {
  const item = (c: CategoryView): Html =>
    html`<li><a ${go({ category: c.slug })}${c.current && html` aria-current="true"`}>${c.name} <small>${c.count}</small></a></li>`;
  const open = categories.find((c) => c.current || c.children.some((k) => k.current));
  return html`<nav class="stall-categories" aria-label="${w.all}"><ul><li><a ${go({ category: '' })}${!v.state.category && html` aria-current="true"`}>${w.all}</a></li>${categories.map(item)}</ul>${open && open.children.length > 0 && html`<ul class="stall-below">${open.children.map(item)}</ul>`}</nav>`;
}

/** What a form does not ask itself is kept in it. */
const hidden = (state: ShopState, but: readonly string[]): Html[] =>
  [...new URLSearchParams(stateQuery({ ...state, goods: '', page: 1 }))]
    .filter(([name]) => !but.includes(name))
    .map(([name, value]) => html`<input type="hidden" name="${name}" value="${value}">`);

const searchForm = (v: ShopFrontView, w: Words): Html =>
  html`<form role="search" method="get" action="${v.base}" data-ask><label><span class="stall-hidden">${w.searchFor}</span><input type="search" name="find" value="${v.state.find}" placeholder="${w.search}" maxlength="120"></label>${hidden(v.state, ['find'])}<button class="stall-hidden">${w.search}</button></form>`;

const sortForm = (v: ShopFrontView, sorts: NonNullable<ShopFrontView['sorts']>, w: Words): Html =>
  html`<form method="get" action="${v.base}" data-ask data-at-once><label><span class="stall-hidden">${w.sort}</span><select name="sort">${sorts.map((s) => html`<option value="${s.value}"${s.value === v.state.sort && html` selected`}>${s.name}</option>`)}</select></label>${hidden(v.state, ['sort'])}<button class="stall-hidden-js">${w.show}</button></form>`;

/** By price, by what is to be had, by offers and tags: a form that lies over the list while it is open. */
const narrowForm = (v: ShopFrontView, n: NarrowView, w: Words, go: (to: Partial<ShopState>) => Html): Html =>
  html`<details class="stall-narrow"><summary>${w.narrow}${n.by > 0 && html` <small>${n.by}</small>`}</summary><form method="get" action="${v.base}" data-ask>
<div class="stall-fields"><div class="stall-field stall-half"><label>${w.priceFrom} (${n.sign})<input name="least" inputmode="decimal" autocomplete="off" value="${v.state.least}" placeholder="${n.least}"></label></div><div class="stall-field stall-half"><label>${w.priceTo} (${n.sign})<input name="most" inputmode="decimal" autocomplete="off" value="${v.state.most}" placeholder="${n.most}"></label></div></div>
<p class="stall-ticks"><label><input type="checkbox" name="stock" value="1"${v.state.stock && html` checked`}> ${w.inStockOnly}</label>${(n.offers || v.state.offer) && html`<label><input type="checkbox" name="offer" value="1"${v.state.offer && html` checked`}> ${w.onOfferOnly}</label>`}</p>
${n.tags.length > 0 && html`<fieldset class="stall-options"><legend>${w.tags}</legend><div>${n.tags.map((t) => html`<label class="stall-chip"><input type="checkbox" name="tag" value="${t.name}"${t.chosen && html` checked`}><span>${t.name} <small>${t.count}</small></span></label>`)}</div></fieldset>`}
${hidden(v.state, ['least', 'most', 'stock', 'offer', 'tag'])}<p class="stall-actions"><button class="stall-button">${w.show}</button>${n.by > 0 && html`<a ${go({ ...noState, category: v.state.category, find: v.state.find, sort: v.state.sort })}>${w.clear}</a>`}</p></form></details>`;

/** The ways into the catalogue alone: nested as the owner has them. */
export function categoriesFragment(
  v: {
    heading: string;
    level: number;
    counts: boolean;
    across: boolean;
    categories: readonly CategoryView[];
  },
  w: Words,
): Html {
  const list = (items: readonly CategoryView[]): Html =>
    html`<ul>${items.map((c) => html`<li><a href="${c.href}" data-category="${c.slug}">${c.name}${v.counts && html` <small>${c.count}</small>`}</a>${c.children.length > 0 && !v.across && list(c.children)}</li>`)}</ul>`;
  return html`<nav class="stall-category-list${v.across && ' stall-across'}" aria-label="${v.heading || w.all}">${v.heading && heading(v.level, v.heading)}${v.categories.length ? list(v.categories) : html`<p class="stall-muted">${w.nothingHere}</p>`}</nav>`;
}

/** A search field that leads to the shop front's answer. */
export const searchFragment = (
  v: { heading: string; level: number; placeholder: string; action: string },
  w: Words,
): Html =>
  html`<form class="stall-search" role="search" method="get" action="${v.action}" data-search>${v.heading && heading(v.level, v.heading)}<div><label><span class="stall-hidden">${w.searchFor}</span><input type="search" name="find" placeholder="${v.placeholder || w.search}" maxlength="120" required></label><button class="stall-button">${w.search}</button></div></form>`;
