import { and, desc, eq, inArray } from 'drizzle-orm';
import type { Minor } from '../../core/money/minor';
import { formatMoney } from '../../core/money/format';
import { count, fill, stepWordsIn, type StepWords } from '../../core/storefront/words';
import { addressAsked } from '../../core/till/address-asked';
import { offeredWays, type PayWay, viaProvider } from '../../core/till/paying';
import type { TillRules } from '../../core/till/rules';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { Tx } from '../../data/database';
import { keep, keepInsert } from '../../data/kept-queries';
import { carts, orderLines, orders, payments } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing, Refusal } from '../errors';
import { buyable, partsIn, type Pieces, piecesIn } from '../goods/available';
import { catalogueOf } from '../goods/catalogue';
import { newId, newToken } from '../ids';
import type { Site } from '../sites/site';
import { bareLine, basketOf, kindsIn, linesOf } from './basket';
import { type CartView, readCart, setPlace } from './cart';
import { type CheckoutInput, parseCheckout } from './checkout-form';
import { holdUses } from './codes';
import { addressForm } from './address';
import { countryCode, countryName } from './countries';
import { goesBy } from './order-facts';
import { keepAgreed, notAgreed, policiesOf } from './policies';
import { backTo, closePages, connected, openPages, startPayment } from './providers';
import { addEvents, settleFree, settlePlaced } from './settle';
import { priced } from './pricing';
import { HELD_MS, hold, release } from './reserve';
import { readRules } from './rules';
import { type ShopNow, shopNow } from './shop-now';

type Way = 'site' | 'ordinary';

/** An order that was begun from a cart and came to nothing yet. */
const begunFrom = keep({ cart: orders.cart, siteId: orders.siteId }, (q, { cart, siteId }) =>
  q
    .select()
    .from(orders)
    .where(
      and(eq(orders.cart, cart), eq(orders.siteId, siteId), inArray(orders.state, ['waiting', 'failed'])),
    )
    .orderBy(desc(orders.createdAt))
    .limit(1),
);
const sayOfCart = keep(
  {
    token: carts.token,
    siteId: carts.siteId,
    place: carts.place,
    way: carts.way,
    payBy: carts.payBy,
    remind: carts.remind,
    said: carts.said,
  },
  (q, { token, siteId, place, way, payBy, remind, said }) =>
    q
      .update(carts)
      .set({ place, way, payBy, remind, said })
      .where(and(eq(carts.token, token), eq(carts.siteId, siteId)))
      .returning({ codes: carts.codes }),
);
const insertOrder = keepInsert(orders);
const insertOrderLines = keepInsert(orderLines);
const insertPayment = keepInsert(payments, 'is left');

/**
 * Goes to pay: prices, stock and total are decided here, in one write transaction, and the pieces are held. Then, and
 * only then, the provider is asked for a payment page. Pressed twice, or in two tabs, the same order is used again.
 * @returns the provider's address for the shopper.
 */
export async function goToPay(
  ctx: Ctx,
  site: Site,
  cart: string,
  input: CheckoutInput,
  way: Way,
): Promise<{ url: string; order: string }> {
  const {
    total: shown,
    way: chosen = '',
    payBy = '',
    note = '',
    remind = false,
    agreed = {},
    ...buyer
  } = input;
  const place = { country: buyer.country, state: buyer.state ?? '', postcode: buyer.postcode };
  const now = ctx.now();
  const w = stepWordsIn(site.row.locale);
  const rules = await readRules(ctx.store.db, site.row.id);
  const policies = await keepAgreed(ctx, rules, agreeTo(ctx, site, rules, agreed, w), now);
  // Goods that were never read yet are read before the gate, not behind it.
  await catalogueOf(ctx, site.row.id, site.row);
  const prepared = await ctx.store.writeTogether(async (tx) => {
    const shop = await shopNow(ctx, tx, site.row.id);
    const { rules } = shop;
    const [open] = await begunFrom(tx, { cart, siteId: site.row.id });
    const [said] = await sayOfCart(tx, {
      token: cart,
      siteId: site.row.id,
      place,
      way: chosen,
      payBy,
      remind,
      said: formOf(input),
    });
    if (!said) throw missing(w.cartGone);
    const { lines } = await basketOf(shop, await linesOf(tx, { cart }), open?.id);
    if (lines.length === 0) throw conflict(w.cartIsEmpty);
    const worked = await priced(
      shop,
      site,
      lines.map(bareLine),
      { codes: said.codes, place, way: chosen, email: buyer.email },
      open?.id,
    );
    if (worked.noWay)
      throw conflict(
        fill(worked.noWay === 'no-region' ? w.notSentThere : w.tooMuchToSend, {
          x: countryName(buyer.country, site.row.locale),
        }),
        { fields: { country: fill(w.notSentThere, { x: countryName(buyer.country, site.row.locale) }) } },
      );
    const pieces = piecesIn(worked.lines, partsIn(shop.goods));
    await checkStock(shop, worked, pieces, open?.id ?? '', w);
    if (worked.total !== shown) {
      throw conflict(
        fill(w.totalChanged, {
          x: formatMoney({ amount: worked.total, currency: worked.currency }, site.row.locale),
        }),
        { changed: true },
      );
    }
    const pay = worked.total === 0 ? undefined : payWayOf(ctx, rules, worked, buyer.country, payBy, w);
    const same = open && samePieces(open.worked, worked) && open.test === rules.pay.test ? open : undefined;
    if (open && !same) await abandon(tx, open.id, now);
    const orderId = same?.id ?? newId();
    const token = same?.token ?? newToken();
    const values = {
      state: 'waiting' as const,
      buyer,
      way,
      worked,
      total: worked.total,
      note,
      policies,
      payBy: pay?.id ?? '',
      test: rules.pay.test,
      goes: goesBy({ worked }) ?? ('' as const),
    };
    if (same) {
      await release(tx, orderId);
      await tx.update(orders).set(values).where(eq(orders.id, orderId));
    } else {
      await insertOrder(tx, {
        ...values,
        id: orderId,
        token,
        siteId: site.row.id,
        cart,
        currency: worked.currency,
        createdAt: now,
      });
      await insertOrderLines(
        tx,
        ...lines.map((l, i) => ({
          id: newId(),
          orderId,
          goodsId: l.goodsId,
          variantId: l.variantId,
          name: l.name,
          particulars: [...l.particulars],
          unit: l.unit,
          quantity: l.quantity,
          amount: (worked.lines[i]?.amount ?? 0) as Minor,
          placementId: l.placementId,
          page: l.page,
          addedAt: l.addedAt,
        })),
      );
    }
    await hold(tx, orderId, pieces, now);
    await holdUses(tx, site.row.id, orderId, buyer.email, worked, new Date(now.getTime() + HELD_MS));
    const provider = pay && viaProvider(pay.kind) ? pay.kind : '';
    const paymentId = (same && (await reusePayment(tx, orderId, provider, worked.total))) ?? newId();
    const left = open ? await openPages(tx, open.id, paymentId) : [];
    await insertPayment(tx, {
      id: paymentId,
      orderId,
      amount: worked.total,
      currency: worked.currency,
      state: 'started',
      provider,
      createdAt: now,
    });
    const start = { orderId, token, paymentId, worked, provider, test: rules.pay.test, left };
    const begun = same
      ? []
      : lines.map((l) => ({
          orderId,
          at: l.addedAt,
          what: `${l.name} in the cart`,
          detail: l.quantity === 1 ? '1 piece' : `${l.quantity} pieces`,
        }));
    await addEvents(
      tx,
      ...begun,
      ...(provider ? [{ orderId, at: now, what: 'Went to pay', detail: pay?.name || provider }] : []),
    );
    if (!pay) await settleFree(ctx, tx, orderId, paymentId);
    else if (!provider) await settlePlaced(ctx, tx, orderId, pay.name || pay.kind);
    return start;
  });
  ctx.changed(site.row.id);
  // Pages that were open for another basket are taken back; what is paid there all the same is judged when
  // it is told.
  const closing = closePages(ctx, prepared.left);
  if (!prepared.provider) {
    await closing;
    return { url: backTo(ctx, site, way, 'thanks', prepared.token), order: prepared.token };
  }
  const [url] = await Promise.all([startPayment(ctx, site, { ...prepared, way }), closing]);
  return { url, order: prepared.token };
}

/** Policies that were ticked in the version that stands there now; each that was not is told at its box. */
function agreeTo(
  ctx: Ctx,
  site: Site,
  rules: TillRules,
  agreed: Readonly<Record<string, string>>,
  w: StepWords,
) {
  const all = policiesOf(ctx, site, rules);
  const fields = notAgreed(all, agreed, w);
  if (Object.keys(fields).length)
    throw invalid(count(w, w.someFields, Object.keys(fields).length), { fields });
  return all;
}

/** The way to pay that was chosen, or the only one there is. @throws Refusal when there is none, or it is not to be had for this order. */
function payWayOf(
  ctx: Ctx,
  rules: TillRules,
  worked: WorkedSum,
  country: string,
  chosen: string,
  w: StepWords,
): PayWay {
  const offered = waysToPay(ctx, rules, worked, country);
  const [first] = offered;
  if (!first) throw new Refusal('conflict', w.noWayToPay, { unpayable: true });
  const way = chosen ? offered.find((x) => x.id === chosen) : first;
  if (!way) throw conflict(w.wayGone, { fields: { payBy: w.wayGone } });
  return way;
}

/** Ways to pay a basket from a country. */
export const waysToPay = (ctx: Ctx, rules: TillRules, worked: WorkedSum, country: string): PayWay[] =>
  offeredWays(rules.pay, {
    country,
    total: worked.total,
    goes: goesBy({ worked }),
    again: worked.lines.some((l) => l.every),
    connected: connected(ctx),
  });

/** What was typed at the checkout, kept with the cart: whoever comes back does not write it twice. Each field is cut to what it holds. */
const formOf = (fields: Readonly<Partial<Record<string, unknown>>>): Record<string, string> =>
  Object.fromEntries(
    ['email', 'name', 'company', 'phone', 'street', 'town', 'state', 'postcode', 'note'].flatMap((k) =>
      typeof fields[k] === 'string' && fields[k] ? [[k, fields[k].slice(0, 500)]] : [],
    ),
  );

/** Whether all of it can be had: each line, and each thing that several lines or bundles draw on. */
async function checkStock(
  shop: ShopNow,
  worked: WorkedSum,
  pieces: readonly Pieces[],
  orderId: string,
  w: StepWords,
): Promise<void> {
  // What the lines themselves have was asked when they were read.
  const known = new Map(worked.lines.map((l) => [l.variantId, l.available]));
  const free = pieces.every((p) => known.has(p.variantId)) ? known : await buyable(shop, pieces, orderId);
  const short = new Map(
    pieces.flatMap((p) => {
      const left = free.get(p.variantId) ?? null;
      return left !== null && left < p.quantity ? [[p.variantId, left] as const] : [];
    }),
  );
  const asked = new Map<string, number>();
  for (const l of worked.lines) asked.set(l.variantId, (asked.get(l.variantId) ?? 0) + l.quantity);
  const lines = worked.lines.filter(
    (l) => short.has(l.variantId) || (l.available !== null && l.available < (asked.get(l.variantId) ?? 0)),
  );
  const first = lines[0] ?? (short.size ? worked.lines[0] : undefined);
  if (!first) return;
  const left = short.get(first.variantId) ?? first.available ?? 0;
  throw conflict(fill(left === 0 ? w.justSold : w.onlyLeftOf, { n: left, x: first.name }), {
    short: lines.map((l) => ({ line: l.id, available: short.get(l.variantId) ?? l.available })),
  });
}

const samePieces = (a: WorkedSum, b: WorkedSum): boolean => {
  const key = (w: WorkedSum) =>
    JSON.stringify(w.lines.map((l) => [l.variantId ?? l.goodsId, l.particulars ?? [], l.unit, l.quantity]));
  return a.total === b.total && key(a) === key(b);
};

/** A payment page that is still open serves again: a double click must not make two. */
async function reusePayment(
  tx: Tx,
  orderId: string,
  provider: string,
  amount: number,
): Promise<string | undefined> {
  const [open] = await tx
    .select({ id: payments.id })
    .from(payments)
    .where(
      and(
        eq(payments.orderId, orderId),
        eq(payments.state, 'started'),
        eq(payments.provider, provider),
        eq(payments.amount, amount),
      ),
    )
    .orderBy(desc(payments.createdAt))
    .limit(1);
  return open?.id;
}

async function abandon(tx: Tx, orderId: string, now: Date): Promise<void> {
  await release(tx, orderId);
  await tx.update(orders).set({ state: 'failed' }).where(eq(orders.id, orderId));
  await addEvents(tx, { orderId, at: now, what: 'Left for another basket' });
}

/** A cart at the checkout: until the shopper has said where it goes, it is taken to go where the shop is. */
export async function atCheckout(ctx: Ctx, site: Site, token: string): Promise<CartView> {
  const cart = await readCart(ctx, site, token);
  const home =
    (await readRules(ctx.store.db, site.row.id)).tax.home.country || (site.row.setUp?.country ?? '');
  return cart.said.place || !home
    ? cart
    : setPlace(ctx, site, token, { country: home, state: '', postcode: '' }, '');
}

/** The sum for where the form says it goes; the rest of the form is not looked at yet, and kept as it was typed. */
export async function lookAgain(
  ctx: Ctx,
  site: Site,
  token: string,
  fields: Record<string, string>,
): Promise<CartView> {
  const { country = '', state = '', postcode = '', way = '', payBy = '' } = fields;
  const code = countryCode(country) ?? '';
  const known = addressForm(code).states.some((s) => s.code === state);
  return setPlace(
    ctx,
    site,
    token,
    code ? { country: code, state: known ? state : '', postcode: postcode.trim().slice(0, 20) } : null,
    way.slice(0, 40),
    { payBy: payBy.slice(0, 40), form: formOf(fields) },
  );
}

/** A checkout form checked against the shop's own rules and texts, and what its basket needs. @throws Refusal with a sentence to each field. */
export async function checkoutForm(
  ctx: Ctx,
  site: Site,
  token: string,
  fields: Readonly<Record<string, unknown>>,
): Promise<CheckoutInput> {
  const shop = await shopNow(ctx, ctx.store.db, site.row.id);
  const { rules } = shop;
  const lines = await kindsIn(shop, token);
  const country = countryCode(typeof fields.country === 'string' ? fields.country : '') ?? '';
  return parseCheckout(fields, {
    words: stepWordsIn(site.row.locale),
    rules,
    lang: site.row.locale,
    policies: policiesOf(ctx, site, rules),
    asked: addressAsked(rules, lines, country),
  });
}
