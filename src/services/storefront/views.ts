import { chooseProducts } from '../../core/goods/choose';
import type { Product } from '../../core/goods/product';
import { asScriptText, structuredData } from '../../core/goods/structured';
import { variantLabel } from '../../core/goods/variants';
import { formatMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import type { CartPageView, CheckoutPageView, OrderPageView, ProductView, SumView } from '../../core/storefront/views';
import { fill, stepWordsIn, type Words } from '../../core/storefront/words';
import { payments } from '../../data/schema';
import { and, desc, eq } from 'drizzle-orm';
import type { Ctx } from '../context';
import { catalogueOf } from '../goods/catalogue';
import { missing } from '../errors';
import type { CartView } from '../till/cart';
import { orderByToken } from '../till/orders';
import type { Site } from '../sites/site';
import { pictureUrl, productHref, shopUrl } from './addresses';
import { viewMaker } from './product-view';

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

/** Until the site is live the way back leads to the ordinary list of goods. */
const backToSite = (ctx: Ctx, site: Site): string => (site.row.publicationId ? site.row.liveUrl : `${shopUrl(ctx, site)}/goods`);

const money = (site: Site, amount: number, currency = site.row.currency): string => formatMoney({ amount: amount as Minor, currency }, site.row.locale);

function sumView(ctx: Ctx, site: Site, cart: CartView, ways: Ways): SumView {
  const w = stepWordsIn(site.row.locale);
  const asked = new Map<string, number>();
  for (const l of cart.lines) asked.set(l.variantId, (asked.get(l.variantId) ?? 0) + l.quantity);
  return {
    lines: cart.lines.map((l) => ({
      id: l.id, name: l.name, particulars: l.particulars, quantity: l.quantity, max: l.available,
      href: `${shopUrl(ctx, site)}/goods/${encodeURIComponent(l.slug)}`, picture: pictureUrl(ctx, cart.pictures[l.id] ?? null, 240),
      unit: money(site, l.unit), amount: money(site, l.amount), action: `${ways.cartAction}/lines/${l.id}${ways.query}`,
      note: l.available !== null && (asked.get(l.variantId) ?? 0) > l.available ? (l.available === 0 ? w.soldOutMeanwhile : fill(w.leftMeanwhile, { n: l.available })) : '',
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
    lines: order.worked.lines.map((l) => ({ name: nameWith(l), quantity: l.quantity, amount: money(site, l.amount, order.currency) })),
    back: ways.back, retry: ways.retry(order.cart), reason: order.state === 'failed' ? (last?.detail ?? '') : '',
  };
}

/** "Round log basket (M, natural)": what was bought, in one line. Orders of before have no particulars. */
export const nameWith = (l: { readonly name: string; readonly particulars?: readonly string[] }): string => (l.particulars?.length ? `${l.name} (${l.particulars.join('; ')})` : l.name);

export const ordinaryOrderWays = (ctx: Ctx, site: Site) => ({ back: backToSite(ctx, site), retry: (cart: string) => `${shopUrl(ctx, site)}/checkout/${cart}` });

/** Products as shoppers see them, in a language, with what there is of each now. */
export async function productViews(ctx: Ctx, site: Site, products: readonly Product[], w: Words, via = ''): Promise<ProductView[]> {
  const maker = await viewMaker(ctx, site, products, w, via);
  return products.map(maker.view);
}

export async function productPageView(ctx: Ctx, site: Site, slug: string, via: string, w: Words, problem?: string): Promise<ProductView> {
  const { bySlug, shown, byId } = await catalogueOf(ctx, site.row.id, site.row);
  const product = bySlug.get(slug);
  if (!product || product.shows === 'hidden') throw missing(w.gone);
  const others = chooseProducts(shown, { source: 'related', of: product.slug, goods: [], category: '', order: 'hand', limit: 4 }, ctx.now().getTime());
  const maker = await viewMaker(ctx, site, [product, ...others], w, via);
  const parts = product.bundle.flatMap((b) => {
    const part = byId.get(b.goodsId);
    return part ? [{ name: [part.name, variantLabel(part.variants.find((v) => v.id === b.variantId) ?? { values: [] })].filter(Boolean).join(', '), href: productHref(ctx, site, part.slug, via), slug: part.slug, quantity: b.quantity }] : [];
  });
  return { ...maker.view(product), parts, problem, structured: asScriptText(structuredData(maker.structured(product))), related: others.map(maker.view) };
}
