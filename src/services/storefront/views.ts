import { dateFormat } from '../../core/intl';
import { chooseProducts } from '../../core/goods/choose';
import type { Product } from '../../core/goods/product';
import { atLinkPrice, priceNow } from '../../core/goods/price';
import { asScriptText, structuredData } from '../../core/goods/structured';
import { variantLabel } from '../../core/goods/variants';
import { formatMoney, percentText } from '../../core/money/format';
import { inOther } from '../../core/money/exchange';
import type { CartPageView, CheckoutPageView, ProductView, SumView } from '../../core/storefront/views';
import { letterOf } from '../../core/letters/render';
import { addressAsked, servedCountries } from '../../core/till/address-asked';
import { payKindOf, payName, viaProvider } from '../../core/till/pay-kinds';
import type { PayWay } from '../../core/till/paying';
import type { TillRules } from '../../core/till/rules';
import type { Step } from '../../core/till/worked-sum';
import {
  fill,
  stepWordsIn,
  type StepText,
  type StepWords,
  type Words,
  wordsIn,
} from '../../core/languages/languages';
import type { Ctx } from '../context';
import { catalogueOf } from '../goods/catalogue';
import { missing } from '../errors';
import type { CartView } from '../till/cart';
import { countriesIn, countryName } from '../rules/countries';
import { addressForm } from '../rules/address';
import { waysToPay } from '../till/checkout';
import { policiesOf } from '../till/policies';
import { readRules } from '../rules/rules';
import type { Site } from '../sites/site';
import { shownReviews } from '../goods/reviews';
import { reviewsView } from './after';
import { backToSite, pictureUrl, productHref, shopUrl } from '../sites/addresses';
import { everyWords, viewMaker } from './product-view';

/** Where a shopper's next steps lead: to the site's own pages, or to the ordinary ones. */
export interface Ways {
  readonly cart: string;
  readonly checkout: string;
  readonly back: string;
  /** The site's own shop page, where products open; '' where they have the plain pages alone. */
  readonly shop: string;
  /** The site's own page of a shopper's orders; '' likewise. */
  readonly account: string;
  /** Where the forms of a cart go. */
  readonly cartAction: string;
  /** Added to the addresses of forms, so that their answers know the same ways. */
  readonly query: string;
}

export const ordinaryWays = (ctx: Ctx, site: Site, token: string): Ways => {
  const base = shopUrl(ctx, site);
  return {
    cart: `${base}/cart/${token}`,
    checkout: `${base}/checkout/${token}`,
    back: backToSite(ctx, site),
    shop: '',
    account: '',
    cartAction: `${base}/cart/${token}`,
    query: '',
  };
};

export const money = (site: Site, amount: number, currency = site.row.currency): string =>
  formatMoney({ amount, currency }, site.row.locale);

/** Where a product opens: on the site's own shop page, else on its plain one. */
function goodsHref(ctx: Ctx, site: Site, ways: Ways, slug: string): string {
  if (!ways.shop) return productHref(ctx, site, slug);
  const url = new URL(ways.shop);
  url.searchParams.set('goods', slug);
  return url.href;
}

/** What is said beside a line that asks for more than there is. */
function shortOf(available: number | null, asked: number, w: StepWords): string {
  if (available === null || asked <= available) return '';
  return available === 0 ? w.soldOutMeanwhile : fill(w.leftMeanwhile, { n: available });
}

function sumView(ctx: Ctx, site: Site, cart: CartView, ways: Ways): SumView {
  const w = stepWordsIn(site.row.locale);
  const asked = new Map<string, number>();
  for (const l of cart.lines) asked.set(l.variantId, (asked.get(l.variantId) ?? 0) + l.quantity);
  return {
    lines: cart.lines.map((l) => ({
      id: l.id,
      name: l.name,
      particulars: l.every
        ? [...l.particulars, everyWords(l.every, wordsIn(site.row.locale))]
        : l.particulars,
      quantity: l.quantity,
      max: l.available,
      href: goodsHref(ctx, site, ways, l.slug),
      picture: pictureUrl(ctx, cart.pictures[l.id] ?? null, 240),
      unit: money(site, l.unit),
      amount: money(site, l.amount),
      action: `${ways.cartAction}/lines/${l.id}${ways.query}`,
      note: shortOf(l.available, asked.get(l.variantId) ?? 0, w),
    })),
    steps: cart.steps
      .filter((s) => s.kind !== 'included')
      .map((s) => ({ what: stepName(s, cart, w, site.row.locale), amount: money(site, s.amount) })),
    within: cart.steps
      .filter((s) => s.kind === 'included')
      .map((s) =>
        fill(w.taxIn, { n: percentText(s.percent ?? 0, site.row.locale), x: money(site, s.amount) }),
      ),
    codes: (cart.codes ?? []).map((c) => ({
      code: c.code,
      good: c.status === 'applied' || c.status === 'voucher',
      message: fill(w[codeWords[c.status]], { x: c.code }),
    })),
    codeAction: `${ways.cartAction}/codes${ways.query}`,
    again: cart.again.map((a) =>
      fill(w.again, { x: `${money(site, a.amount)} ${everyWords(a.every, wordsIn(site.row.locale))}` }),
    ),
    untilFree: freeSoon(site, cart, w),
    about: aboutTotal(site, cart, w),
    total: money(site, cart.total),
    totalMinor: cart.total,
    pieces: cart.pieces,
  };
}

export const cartPageView = (
  ctx: Ctx,
  site: Site,
  cart: CartView,
  ways: Ways,
  problem?: string,
): CartPageView => ({
  ...sumView(ctx, site, cart, ways),
  later: cart.shippingSet && cart.lines.some((l) => l.ships) && !cart.way,
  checkout: ways.checkout,
  back: ways.back,
  problem,
});

/** What stands beneath the button that orders, by the way that was chosen; nothing where there is none. */
function orderingBy(way: PayWay | undefined): CheckoutPageView['ordering'] {
  return way ? { now: viaProvider(way.kind), beneath: payKindOf(way.kind).beneath } : null;
}

export async function checkoutPageView(
  ctx: Ctx,
  site: Site,
  cart: CartView,
  ways: Ways,
  form: Pick<CheckoutPageView, 'values' | 'errors' | 'problem' | 'action' | 'sumAction'>,
): Promise<CheckoutPageView> {
  const { locale } = site.row;
  const rules = await readRules(ctx.store.db, site.row.id);
  const country = form.values.country ?? cart.choices.place?.country ?? '';
  const offered = waysToPay(ctx, rules, cart, country);
  const chosen = offered.find((x) => x.id === (form.values.payBy ?? cart.payBy)) ?? offered[0];
  if (cart.total > 0 && offered.length === 0)
    ctx.log.warn({ site: site.row.id, country, total: cart.total }, 'a shopper finds no way to pay');
  const w = stepWordsIn(locale);
  const noWay = noWayWords(cart, w, locale);
  return {
    ...sumView(ctx, site, cart, ways),
    cart: ways.cart,
    payee: site.row.name,
    ...countriesFor(rules, cart, locale),
    asked: addressAsked(rules, cart.lines, country),
    ...form,
    errors: { ...(noWay && { country: noWay }), ...form.errors },
    test: rules.pay.test,
    address: addressForm(country),
    note: rules.checkout.note,
    phone: rules.checkout.phone,
    company: rules.checkout.company,
    account: ways.account || `${shopUrl(ctx, site)}/account`,
    ordering: cart.total === 0 ? 'free' : orderingBy(chosen),
    pays:
      cart.total === 0 ? [] : offered.map((x) => ({ id: x.id, name: payName(x, w), chosen: x === chosen })),
    policies: policiesOf(ctx, site, rules).map((p) => ({
      ...p,
      ticked: form.values[`agree-${p.id}`] === p.version,
    })),
    remind: letterOf('left-behind', rules.letters, locale).on
      ? { on: form.values.email === undefined ? cart.remind : form.values.remind !== undefined }
      : null,
    values: {
      ...cart.form,
      country,
      postcode: cart.choices.place?.postcode ?? '',
      state: cart.choices.place?.state ?? '',
      ...form.values,
    },
    ways: shippingWays(site, cart, w),
  };
}

/** Why nothing can be sent there; undefined where it can. */
function noWayWords(cart: CartView, w: StepWords, locale: string): string | undefined {
  if (!cart.noWay) return undefined;
  const x = countryName(cart.choices.place?.country ?? '', locale);
  return fill(cart.noWay === 'no-region' ? w.notSentThere : w.tooMuchToSend, { x });
}

const shippingWays = (site: Site, cart: CartView, w: StepWords): CheckoutPageView['ways'] =>
  (cart.ways ?? []).map((x) => ({
    id: x.id,
    name: x.name,
    price: x.price === 0 ? w.freeWay : money(site, x.price),
    text: [x.days ? daysOf(x.days, site.row.locale, w) : '', x.hint].filter(Boolean).join(' \u00b7 '),
    chosen: x.id === cart.way,
  }));

/** Countries to choose from: where the basket has to be sent, those that it can be sent to stand first. */
function countriesFor(
  rules: TillRules,
  cart: CartView,
  locale: string,
): Pick<CheckoutPageView, 'countries' | 'others'> {
  const all = countriesIn(locale);
  const served = servedCountries(rules);
  if (!cart.lines.some((l) => l.ships) || served.all || served.codes.size === 0)
    return { countries: all, others: [] };
  return {
    countries: all.filter((c) => served.codes.has(c.code)),
    others: all.filter((c) => !served.codes.has(c.code)),
  };
}

function daysOf(
  { from, to }: { readonly from: string; readonly to: string },
  locale: string,
  w: StepWords,
): string {
  const day = (iso: string) =>
    dateFormat(locale, {
      weekday: 'short',
      day: 'numeric',
      month: 'short',
      timeZone: 'UTC',
    }).format(new Date(`${iso}T12:00:00Z`));
  return from === to
    ? fill(w.expectedOn, { x: day(from) })
    : fill(w.expectedFrom, { n: day(from), x: day(to) });
}

/** How much is missing until the chosen way costs nothing; said only where it is less than the basket is worth already, or it would be an odd thing to say. */
function freeSoon(site: Site, cart: CartView, w: StepWords): string {
  const missing = cart.ways?.find((x) => x.id === cart.way)?.untilFree ?? null;
  const goods = cart.steps.find((s) => s.kind === 'goods')?.amount ?? 0;
  return missing !== null && missing <= goods ? fill(w.untilFree, { x: money(site, missing) }) : '';
}

/** The total in other currencies, and where the figures come from. */
function aboutTotal(site: Site, cart: CartView, w: StepWords): string[] {
  const { exchange } = cart;
  const amounts = exchange.rates
    .map((r) => inOther(exchange, cart.total, site.row.currency, r.currency, site.row.locale))
    .filter(Boolean);
  if (amounts.length === 0 || !exchange.date || cart.total === 0) return [];
  const day = dateFormat(site.row.locale, { dateStyle: 'long', timeZone: 'UTC' }).format(
    new Date(`${exchange.date}T12:00:00Z`),
  );
  return [
    fill(w.about, { x: amounts.join(', ') }),
    fill(w.ratesOf, { x: exchange.rates.map((r) => r.currency).join(', '), n: day, c: site.row.currency }),
  ];
}

/** What became of a code, by the name of its sentence. */
const codeWords = {
  applied: 'codeIn',
  voucher: 'codeIn',
  unknown: 'codeUnknown',
  'not-yet': 'codeNotYet',
  over: 'codeOver',
  'used-up': 'codeUsed',
  'used-by-you': 'codeUsed',
  'least-amount': 'codeLeast',
  'least-pieces': 'codeLeast',
  'nothing-fits': 'codeFits',
  'saves-less': 'codeLess',
  dearer: 'codeDearer',
} as const satisfies Record<NonNullable<CartView['codes']>[number]['status'], StepText>;

/** A step of the sum in the shopper's language. */
export function stepName(s: Step, cart: Pick<CartView, 'ways'>, w: StepWords, locale: string): string {
  if (s.kind === 'goods' || s.what === 'Goods') return w.goods;
  if (s.kind === 'shipping')
    return fill(w.shippingBy, { x: cart.ways?.find((x) => x.id === s.id)?.name ?? '' });
  if (s.kind === 'tax') return fill(w.taxAdded, { n: percentText(s.percent ?? 0, locale) });
  if (s.kind === 'abroad') return w.taxOff;
  return s.kind === 'voucher' ? fill(w.giftVoucher, { x: s.id ?? '' }) : s.what;
}

/** "Round log basket (M, natural)": what was bought, in one line. */
export const nameWith = (l: { readonly name: string; readonly particulars: readonly string[] }): string =>
  l.particulars.length ? `${l.name} (${l.particulars.join('; ')})` : l.name;

/** Products as shoppers see them, in a language, with what there is of each now. */
export async function productViews(
  ctx: Ctx,
  site: Site,
  products: readonly Product[],
  w: Words,
  via = '',
): Promise<ProductView[]> {
  const maker = await viewMaker(ctx, site, products, w, via);
  return products.map(maker.view);
}

/** Reviews on a product's own page; all of them stand in the widget. */
const REVIEWS = 10;

export async function productPageView(
  ctx: Ctx,
  site: Site,
  slug: string,
  via: string,
  w: Words,
  more: { readonly problem?: string | undefined; readonly price?: string } = {},
): Promise<ProductView> {
  const product = (await catalogueOf(ctx, site.row.id, site.row)).bySlug.get(slug);
  if (!product || product.shows === 'hidden') throw missing(w.gone);
  return viewOfProduct(ctx, site, product, { via, w, ...more });
}

/** The price in other currencies; nothing where choices differ in price: the cart tells it then. */
async function aboutPrice(ctx: Ctx, site: Site, product: Product): Promise<string> {
  const { exchange } = await readRules(ctx.store.db, site.row.id);
  const [price, ...others] = new Set(
    product.variants.map((v) => priceNow(product, v, ctx.now().getTime()).price),
  );
  if (exchange.rates.length === 0 || price === undefined || others.length > 0 || product.openLeast !== null)
    return '';
  const amounts = exchange.rates
    .map((r) => inOther(exchange, price, site.row.currency, r.currency, site.row.locale))
    .filter(Boolean);
  return amounts.length ? fill(stepWordsIn(site.row.locale).about, { x: amounts.join(', ') }) : '';
}

/** A product's own page, from the product itself. @param counts of a product that is being written: what is typed, not what is stored. */
export async function viewOfProduct(
  ctx: Ctx,
  site: Site,
  product: Product,
  {
    via,
    w,
    problem,
    price = '',
    counts,
  }: {
    via: string;
    w: Words;
    problem?: string | undefined;
    price?: string;
    counts?: ReadonlyMap<string, number | null>;
  },
): Promise<ProductView> {
  const { shown, byId } = await catalogueOf(ctx, site.row.id, site.row);
  const others = chooseProducts(
    shown,
    { source: 'related', of: product.slug, goods: [], category: '', order: 'hand', limit: 4 },
    ctx.now().getTime(),
  );
  const priced = atLinkPrice(product, price);
  const maker = await viewMaker(ctx, site, [priced, ...others], w, via, counts);
  const parts = product.bundle.flatMap((b) => {
    const part = byId.get(b.goodsId);
    return part
      ? [
          {
            name: [part.name, variantLabel(part.variants.find((v) => v.id === b.variantId) ?? { values: [] })]
              .filter(Boolean)
              .join(', '),
            href: productHref(ctx, site, part.slug, via),
            slug: part.slug,
            quantity: b.quantity,
          },
        ]
      : [];
  });
  const own = product.rating ? await shownReviews(ctx, site.row.id, product.id, 'newest', REVIEWS) : [];
  const reviews = product.rating
    ? await reviewsView(ctx, site, product, site.row.locale, {
        order: 'newest',
        limit: REVIEWS,
        spread: true,
      })
    : undefined;
  return {
    ...maker.view(priced),
    ...(priced !== product && { linkPrice: price }),
    about: await aboutPrice(ctx, site, priced),
    parts,
    problem,
    reviews,
    // A price that is meant for some is not told to search engines.
    ...(priced === product && { structured: asScriptText(structuredData(maker.structured(product, own))) }),
    related: others.map(maker.view),
  };
}
