import { chooseProducts } from '../../core/goods/choose';
import type { Product } from '../../core/goods/product';
import { asScriptText, structuredData } from '../../core/goods/structured';
import { variantLabel } from '../../core/goods/variants';
import { formatMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import type { CartPageView, CheckoutPageView, OrderPageView, ProductView, SumView } from '../../core/storefront/views';
import type { Step } from '../../core/till/worked-sum';
import { fill, stepWordsIn, type StepWords, type Words, wordsIn } from '../../core/storefront/words';
import { payments } from '../../data/schema';
import { and, desc, eq } from 'drizzle-orm';
import type { Ctx } from '../context';
import { catalogueOf } from '../goods/catalogue';
import { missing } from '../errors';
import type { CartView } from '../till/cart';
import { readableCode, vouchersOf } from '../till/codes';
import { countriesIn, countryName } from '../till/countries';
import { orderByToken } from '../till/orders';
import type { Site } from '../sites/site';
import { shownReviews } from '../goods/reviews';
import { filesHref, reviewsView } from './after';
import { backToSite, pictureUrl, productHref, shopUrl } from './addresses';
import { everyWords, viewMaker } from './product-view';

/** Where a shopper's next steps lead: to the site's own pages, or to the ordinary ones. */
export interface Ways {
  readonly cart: string;
  readonly checkout: string;
  readonly back: string;
  /** Where the forms of a cart go. */
  readonly cartAction: string;
  /** Added to the addresses of forms, so that their answers know the same ways. */
  readonly query: string;
}

export const ordinaryWays = (ctx: Ctx, site: Site, token: string): Ways => {
  const base = shopUrl(ctx, site);
  return { cart: `${base}/cart/${token}`, checkout: `${base}/checkout/${token}`, back: backToSite(ctx, site), cartAction: `${base}/cart/${token}`, query: '' };
};

const money = (site: Site, amount: number, currency = site.row.currency): string => formatMoney({ amount: amount as Minor, currency }, site.row.locale);

function sumView(ctx: Ctx, site: Site, cart: CartView, ways: Ways): SumView {
  const w = stepWordsIn(site.row.locale);
  const asked = new Map<string, number>();
  for (const l of cart.lines) asked.set(l.variantId, (asked.get(l.variantId) ?? 0) + l.quantity);
  return {
    lines: cart.lines.map((l) => ({
      id: l.id, name: l.name, particulars: l.every ? [...l.particulars, everyWords(l.every, wordsIn(site.row.locale))] : l.particulars, quantity: l.quantity, max: l.available,
      href: `${shopUrl(ctx, site)}/goods/${encodeURIComponent(l.slug)}`, picture: pictureUrl(ctx, cart.pictures[l.id] ?? null, 240),
      unit: money(site, l.unit), amount: money(site, l.amount), action: `${ways.cartAction}/lines/${l.id}${ways.query}`,
      note: l.available !== null && (asked.get(l.variantId) ?? 0) > l.available ? (l.available === 0 ? w.soldOutMeanwhile : fill(w.leftMeanwhile, { n: l.available })) : '',
    })),
    steps: cart.steps.filter((s) => s.kind !== 'included').map((s) => ({ what: stepName(s, cart, w), amount: money(site, s.amount) })),
    within: cart.steps.filter((s) => s.kind === 'included').map((s) => fill(w.taxIn, { n: s.percent ?? 0, x: money(site, s.amount) })),
    codes: (cart.codes ?? []).map((c) => ({ code: c.code, good: c.says === 'applied' || c.says === 'voucher', says: fill(w[codeWords[c.says]], { x: c.code }) })),
    codeAction: `${ways.cartAction}/codes${ways.query}`,
    again: cart.again.map((a) => fill(w.again, { x: `${money(site, a.amount)} ${everyWords(a.every, wordsIn(site.row.locale))}` })),
    total: money(site, cart.total), totalMinor: cart.total, pieces: cart.pieces,
  };
}

export const cartPageView = (ctx: Ctx, site: Site, cart: CartView, ways: Ways, problem?: string): CartPageView =>
  ({ ...sumView(ctx, site, cart, ways), later: cart.lines.some((l) => l.ships) && !cart.way, checkout: ways.checkout, back: ways.back, problem });

export function checkoutPageView(ctx: Ctx, site: Site, cart: CartView, ways: Ways, form: Pick<CheckoutPageView, 'values' | 'errors' | 'problem' | 'action'>): CheckoutPageView {
  const { locale } = site.row;
  const w = stepWordsIn(locale);
  const noWay = cart.noWay ? fill(cart.noWay === 'no-region' ? w.notSentThere : w.tooMuchToSend, { x: countryName(cart.said.place?.country ?? '', locale) }) : undefined;
  return {
    ...sumView(ctx, site, cart, ways), cart: ways.cart, payee: site.row.name, countries: countriesIn(locale), look: (cart.ways ?? []).length > 0 || !!cart.noWay, ...form, problem: form.problem ?? noWay,
    values: { country: cart.said.place?.country ?? '', postcode: cart.said.place?.postcode ?? '', ...form.values },
    ways: (cart.ways ?? []).map((x) => ({ id: x.id, name: x.name, price: x.price === 0 ? w.freeWay : money(site, x.price), says: [x.days ? daysOf(x.days, locale, w) : '', x.hint].filter(Boolean).join(' \u00b7 '), chosen: x.id === cart.way })),
  };
}

function daysOf({ from, to }: { readonly from: string; readonly to: string }, locale: string, w: StepWords): string {
  const day = (iso: string) => new Intl.DateTimeFormat(locale, { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' }).format(new Date(`${iso}T12:00:00Z`));
  return from === to ? fill(w.expectedOn, { x: day(from) }) : fill(w.expectedFrom, { n: day(from), x: day(to) });
}

/** What became of a code, by the name of its sentence. */
const codeWords = {
  applied: 'codeIn', voucher: 'codeIn', unknown: 'codeUnknown', 'not-yet': 'codeNotYet', over: 'codeOver', 'used-up': 'codeUsed', 'used-by-you': 'codeUsed', 'least-amount': 'codeLeast', 'least-pieces': 'codeLeast', 'nothing-fits': 'codeFits', 'saves-less': 'codeLess',
} as const satisfies Record<NonNullable<CartView['codes']>[number]['says'], keyof StepWords>;

/** A step of the sum in the shopper's language. */
function stepName(s: Step, cart: CartView, w: StepWords): string {
  if (s.kind === 'goods' || s.what === 'Goods') return w.goods;
  if (s.kind === 'shipping') return fill(w.shippingBy, { x: cart.ways?.find((x) => x.id === s.id)?.name ?? '' });
  if (s.kind === 'tax') return fill(w.taxAdded, { n: s.percent ?? 0 });
  if (s.kind === 'abroad') return w.taxOff;
  return s.kind === 'voucher' ? fill(w.giftVoucher, { x: s.id ?? '' }) : s.what;
}

export async function orderPageView(ctx: Ctx, site: Site, token: string, ways: { back: string; retry: (cart: string) => string }): Promise<OrderPageView> {
  const order = await orderByToken(ctx, site.row.id, token);
  const [last] = await ctx.store.db.select().from(payments).where(and(eq(payments.orderId, order.id), eq(payments.state, 'declined'))).orderBy(desc(payments.createdAt)).limit(1);
  return {
    state: order.state, number: String(order.number ?? ''), email: order.buyer.email, total: money(site, order.total, order.currency),
    lines: order.worked.lines.map((l) => ({ name: nameWith(l), quantity: l.quantity, amount: money(site, l.amount, order.currency) })),
    back: ways.back, retry: ways.retry(order.cart), files: await filesHref(ctx, site, order, false),
    vouchers: order.state === 'paid' ? (await vouchersOf(ctx.store.db, order.id)).map((v) => ({ code: readableCode(v.code), says: voucherWords(site, v) })) : [], reason: order.state === 'failed' ? (last?.detail ?? '') : '',
  };
}

function voucherWords(site: Site, v: { readonly amount: number; readonly currency: string; readonly expiresAt: Date | null }): string {
  const w = stepWordsIn(site.row.locale);
  const x = money(site, v.amount, v.currency);
  return v.expiresAt ? fill(w.voucherUntil, { x, n: new Intl.DateTimeFormat(site.row.locale, { dateStyle: 'long', timeZone: 'UTC' }).format(v.expiresAt) }) : fill(w.voucherEver, { x });
}

/** "Round log basket (M, natural)": what was bought, in one line. Orders of before have no particulars. */
export const nameWith = (l: { readonly name: string; readonly particulars?: readonly string[] }): string => (l.particulars?.length ? `${l.name} (${l.particulars.join('; ')})` : l.name);

export const ordinaryOrderWays = (ctx: Ctx, site: Site) => ({ back: backToSite(ctx, site), retry: (cart: string) => `${shopUrl(ctx, site)}/checkout/${cart}` });

/** Products as shoppers see them, in a language, with what there is of each now. */
export async function productViews(ctx: Ctx, site: Site, products: readonly Product[], w: Words, via = ''): Promise<ProductView[]> {
  const maker = await viewMaker(ctx, site, products, w, via);
  return products.map(maker.view);
}

/** Reviews on a product's own page; all of them stand in the widget. */
const REVIEWS = 10;

export async function productPageView(ctx: Ctx, site: Site, slug: string, via: string, w: Words, problem?: string): Promise<ProductView> {
  const product = (await catalogueOf(ctx, site.row.id, site.row)).bySlug.get(slug);
  if (!product || product.shows === 'hidden') throw missing(w.gone);
  return viewOfProduct(ctx, site, product, { via, w, problem });
}

/** A product's own page, from the product itself. @param counts of a product that is being written: what is typed, not what is stored. */
export async function viewOfProduct(ctx: Ctx, site: Site, product: Product, { via, w, problem, counts }: { via: string; w: Words; problem?: string | undefined; counts?: ReadonlyMap<string, number | null> }): Promise<ProductView> {
  const { shown, byId } = await catalogueOf(ctx, site.row.id, site.row);
  const others = chooseProducts(shown, { source: 'related', of: product.slug, goods: [], category: '', order: 'hand', limit: 4 }, ctx.now().getTime());
  const maker = await viewMaker(ctx, site, [product, ...others], w, via, counts);
  const parts = product.bundle.flatMap((b) => {
    const part = byId.get(b.goodsId);
    return part ? [{ name: [part.name, variantLabel(part.variants.find((v) => v.id === b.variantId) ?? { values: [] })].filter(Boolean).join(', '), href: productHref(ctx, site, part.slug, via), slug: part.slug, quantity: b.quantity }] : [];
  });
  const own = product.rating ? await shownReviews(ctx, site.row.id, product.id, 'newest', REVIEWS) : [];
  const reviews = product.rating ? await reviewsView(ctx, site, product, site.row.locale, { order: 'newest', limit: REVIEWS, spread: true }) : undefined;
  return { ...maker.view(product), parts, problem, reviews, structured: asScriptText(structuredData(maker.structured(product, own))), related: others.map(maker.view) };
}
