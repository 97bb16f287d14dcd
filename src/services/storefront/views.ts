import { chooseProducts } from '../../core/goods/choose';
import { FEW, isOnOffer, type Product } from '../../core/goods/product';
import { decimalText, formatMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import type { CartPageView, CheckoutPageView, OrderPageView, ProductView, SumView } from '../../core/storefront/views';
import { fill, stepWordsIn, type Words } from '../../core/storefront/words';
import { payments } from '../../data/schema';
import { and, desc, eq } from 'drizzle-orm';
import type { Ctx } from '../context';
import { listGoods } from '../goods/goods';
import { missing } from '../errors';
import { availability, type CartView } from '../till/cart';
import { orderByToken } from '../till/orders';
import type { Site } from '../sites/site';

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

export const shopUrl = (ctx: Ctx, site: Site): string => `${ctx.addresses.shop}/${site.row.slug}`;
export const pictureUrl = (ctx: Ctx, hash: string | null, width: number): string | null => (hash ? `${ctx.addresses.shop}/pictures/${hash}/${width}.webp` : null);

export const ordinaryWays = (ctx: Ctx, site: Site, token: string): Ways => {
  const base = shopUrl(ctx, site);
  return { cart: `${base}/cart/${token}`, checkout: `${base}/checkout/${token}`, back: backToSite(ctx, site), cartAction: `${base}/cart/${token}`, query: '' };
};

/** Until the site is live the way back leads to the ordinary list of goods. */
const backToSite = (ctx: Ctx, site: Site): string => (site.row.publicationId ? site.row.liveUrl : `${shopUrl(ctx, site)}/goods`);

const money = (site: Site, amount: number, currency = site.row.currency): string => formatMoney({ amount: amount as Minor, currency }, site.row.locale);

function sumView(ctx: Ctx, site: Site, cart: CartView, ways: Ways): SumView {
  const w = stepWordsIn(site.row.locale);
  const asked = new Map<string, number>();
  for (const l of cart.lines) asked.set(l.goodsId, (asked.get(l.goodsId) ?? 0) + l.quantity);
  return {
    lines: cart.lines.map((l) => ({
      id: l.id, name: l.name, quantity: l.quantity, max: l.available,
      href: `${shopUrl(ctx, site)}/goods/${encodeURIComponent(l.slug)}`, picture: pictureUrl(ctx, cart.pictures[l.id] ?? null, 240),
      unit: money(site, l.unit), amount: money(site, l.amount), action: `${ways.cartAction}/lines/${l.id}${ways.query}`,
      note: l.available !== null && (asked.get(l.goodsId) ?? 0) > l.available ? (l.available === 0 ? w.soldOutMeanwhile : fill(w.leftMeanwhile, { n: l.available })) : '',
    })),
    steps: cart.steps.map((s) => ({ what: s.what === 'Goods' ? w.goods : s.what, amount: money(site, s.amount) })),
    total: money(site, cart.total), totalMinor: cart.total, pieces: cart.pieces,
  };
}

export const cartPageView = (ctx: Ctx, site: Site, cart: CartView, ways: Ways, problem?: string): CartPageView =>
  ({ ...sumView(ctx, site, cart, ways), checkout: ways.checkout, back: ways.back, problem });

export const checkoutPageView = (ctx: Ctx, site: Site, cart: CartView, ways: Ways, form: Pick<CheckoutPageView, 'values' | 'errors' | 'problem' | 'action'>): CheckoutPageView =>
  ({ ...sumView(ctx, site, cart, ways), cart: ways.cart, payee: site.row.name, ...form });

export async function orderPageView(ctx: Ctx, site: Site, token: string, ways: { back: string; retry: (cart: string) => string }): Promise<OrderPageView> {
  const order = await orderByToken(ctx, site.row.id, token);
  const [last] = await ctx.store.db.select().from(payments).where(and(eq(payments.orderId, order.id), eq(payments.state, 'declined'))).orderBy(desc(payments.createdAt)).limit(1);
  return {
    state: order.state, number: String(order.number ?? ''), email: order.buyer.email, total: money(site, order.total, order.currency),
    lines: order.worked.lines.map((l) => ({ name: l.name, quantity: l.quantity, amount: money(site, l.amount, order.currency) })),
    back: ways.back, retry: ways.retry(order.cart), reason: order.state === 'failed' ? (last?.detail ?? '') : '',
  };
}

export const ordinaryOrderWays = (ctx: Ctx, site: Site) => ({ back: backToSite(ctx, site), retry: (cart: string) => `${shopUrl(ctx, site)}/checkout/${cart}` });

/** A product as shoppers see it, in a language. */
export function productView(ctx: Ctx, site: Site, p: Product, available: number | null, w: Words, via = '', problem?: string): ProductView {
  const href = `${shopUrl(ctx, site)}/goods/${encodeURIComponent(p.slug)}${via && `?via=${via}`}`;
  const { currency, locale } = site.row;
  return {
    slug: p.slug, name: p.name, description: p.description, price: money(site, p.price), was: isOnOffer(p) ? money(site, p.was ?? 0) : '',
    open: p.openLeast === null ? null : { least: decimalText(p.openLeast, currency), leastText: money(site, p.openLeast), sign: money(site, 0).replace(/[\d.,\s\u00a0]/g, '') || currency, step: locale },
    stock: available === null || available > FEW ? '' : available <= 0 ? w.soldOutLong : fill(w.left, { n: available }), soldOut: available !== null && available <= 0, max: available,
    picture: pictureUrl(ctx, p.picture, 480), pictureLarge: pictureUrl(ctx, p.picture, 960), pictureAlt: p.pictureAlt, href, action: `${shopUrl(ctx, site)}/goods/${encodeURIComponent(p.slug)}`, via, problem,
  };
}

export async function productPageView(ctx: Ctx, site: Site, slug: string, via: string, w: Words, problem?: string): Promise<ProductView> {
  const all = await listGoods(ctx, site.row.id);
  const product = all.find((p) => p.slug === slug);
  if (!product) throw missing(w.gone);
  const others = chooseProducts(all, { source: 'related', of: slug, goods: [], category: '', order: 'hand', limit: 4 });
  const free = await availability(ctx.store.db, [product, ...others].map((p) => p.id), ctx.now());
  const view = (p: Product) => productView(ctx, site, p, free.get(p.id) ?? null, w, via);
  return { ...view(product), problem, related: others.map(view) };
}

/** Products as shoppers see them, with what there is of each now. */
export async function productViews(ctx: Ctx, site: Site, products: readonly Product[], w: Words, via = ''): Promise<ProductView[]> {
  const free = await availability(ctx.store.db, products.map((p) => p.id), ctx.now());
  return products.map((p) => productView(ctx, site, p, free.get(p.id) ?? null, w, via));
}
