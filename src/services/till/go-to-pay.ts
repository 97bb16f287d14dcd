import { and, desc, eq, inArray } from 'drizzle-orm';
import { formatMoney } from '../../core/money/format';
import { type Minor, zero } from '../../core/money/minor';
import { count, fill, stepWordsIn, type StepWords } from '../../core/languages/languages';
import { viaProvider } from '../../core/till/pay-kinds';
import type { PayWay } from '../../core/till/paying';
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
import { type BasketRow, bareLine, basketOf, linesOf } from './basket';
import { formOf, waysToPay } from './checkout';
import type { CheckoutInput } from './checkout-form';
import { holdUses } from './codes';
import { countryName } from '../rules/countries';
import { goesBy } from './order-facts';
import { keepAgreed, notAgreed, policiesOf } from './policies';
import { priced } from './pricing';
import { backTo, closePages, openPages, startPayment } from './providers';
import { HELD_MS, hold, release } from './reserve';
import { readRules } from '../rules/rules';
import { addEvents, settleFree, settlePlaced } from './settle';
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

/** What a checkout says beside the buyer's own address, and which is asked for again behind the gate. */
interface Going {
  readonly ctx: Ctx;
  readonly site: Site;
  readonly cart: string;
  readonly input: CheckoutInput;
  readonly way: Way;
  readonly now: Date;
  readonly policies: Order['policies'];
  readonly w: StepWords;
}

type Order = typeof orders.$inferSelect;

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
  const now = ctx.now();
  const w = stepWordsIn(site.row.locale);
  const rules = await readRules(ctx.store.db, site.row.id);
  const policies = await keepAgreed(ctx, rules, agreeTo(ctx, site, rules, input.agreed ?? {}, w), now);
  // Goods that were never read yet are read before the gate, not behind it.
  await catalogueOf(ctx, site.row.id, site.row);
  const going: Going = { ctx, site, cart, input, way, now, policies, w };
  const prepared = await ctx.store.writeTogether(async (tx) => {
    const weighed = await weighAgain(going, tx);
    const order = await writeOrder(going, tx, weighed);
    return beginPayment(going, tx, weighed, order);
  });
  ctx.changed(site.row.id);
  // Pages that were open for another basket are taken back; what is paid there all the same is judged when it is told.
  const closing = closePages(ctx, prepared.left);
  if (!prepared.provider) {
    await closing;
    return { url: backTo(ctx, site, way, 'thanks', prepared.token), order: prepared.token };
  }
  const [url] = await Promise.all([startPayment(ctx, site, { ...prepared, way }), closing]);
  return { url, order: prepared.token };
}

/** What is ordered as it stands behind the gate, where nothing changes any more. */
interface Weighed {
  readonly shop: ShopNow;
  readonly lines: readonly BasketRow[];
  readonly worked: WorkedSum;
  readonly pieces: readonly Pieces[];
  /** None where nothing is to pay. */
  readonly pay: PayWay | undefined;
  /** The order that was begun from this cart before, and whether it is still the same one. */
  readonly open: Order | undefined;
  readonly same: boolean;
}

/** The sum once more. @throws Refusal where it is not what the shopper saw, or cannot be had, sent or paid. */
async function weighAgain({ ctx, site, cart, input, w }: Going, tx: Tx): Promise<Weighed> {
  const { way = '', payBy = '', remind = false } = input;
  const place = { country: input.country, state: input.state ?? '', postcode: input.postcode };
  const shop = await shopNow(ctx, tx, site.row.id);
  const [open] = await begunFrom(tx, { cart, siteId: site.row.id });
  const form = { place, way, payBy, remind, said: formOf(input) };
  const [said] = await sayOfCart(tx, { token: cart, siteId: site.row.id, ...form });
  if (!said) throw missing(w.cartGone);
  const { lines } = await basketOf(shop, await linesOf(tx, { cart }), open?.id);
  if (lines.length === 0) throw conflict(w.cartIsEmpty);
  const asked = { codes: said.codes, place, way, email: input.email };
  const worked = await priced(shop, site, lines.map(bareLine), asked, open?.id);
  if (worked.noWay) throw notSent(worked.noWay, input.country, site, w);
  const pieces = piecesIn(worked.lines, partsIn(shop.goods));
  await checkStock(shop, worked, pieces, open?.id ?? '', w);
  if (worked.total !== input.total) throw totalChanged(worked, site, w);
  const pay = worked.total === 0 ? undefined : payWayOf(ctx, shop.rules, worked, input.country, payBy, w);
  const same = !!open && samePieces(open.worked, worked) && open.test === shop.rules.pay.test;
  return { shop, lines, worked, pieces, pay, open, same };
}

function notSent(why: NonNullable<WorkedSum['noWay']>, country: string, site: Site, w: StepWords): Refusal {
  const x = countryName(country, site.row.locale);
  const fields = { country: fill(w.notSentThere, { x }) };
  return conflict(fill(why === 'no-region' ? w.notSentThere : w.tooMuchToSend, { x }), { fields });
}

const totalChanged = (worked: WorkedSum, site: Site, w: StepWords): Refusal =>
  conflict(
    fill(w.totalChanged, {
      x: formatMoney({ amount: worked.total, currency: worked.currency }, site.row.locale),
    }),
    { changed: true },
  );

/** The order with its lines; the same one again where nothing of it changed. What it is promised is held. */
async function writeOrder(
  { site, cart, input, way, now, policies }: Going,
  tx: Tx,
  { shop, lines, worked, pieces, pay, open, same }: Weighed,
): Promise<{ readonly id: string; readonly token: string }> {
  if (open && !same) await abandon(tx, open.id, now);
  const { note = '' } = input;
  const buyer = buyerIn(input);
  const values = {
    state: 'waiting' as const,
    buyer,
    way,
    worked,
    total: worked.total,
    note,
    policies,
    payBy: pay?.id ?? '',
    test: shop.rules.pay.test,
    goes: goesBy({ worked }) ?? ('' as const),
  };
  const order = open && same ? open : { id: newId(), token: newToken() };
  if (same) {
    await release(tx, order.id);
    await tx.update(orders).set(values).where(eq(orders.id, order.id));
  } else {
    const { currency } = worked;
    const { id, token } = order;
    await insertOrder(tx, { ...values, id, token, siteId: site.row.id, cart, currency, createdAt: now });
    await insertOrderLines(tx, ...lines.map((l, i) => lineOf(l, id, worked.lines[i]?.amount)));
  }
  await hold(tx, order.id, pieces, now);
  await holdUses(tx, site.row.id, order.id, buyer.email, worked, new Date(now.getTime() + HELD_MS));
  return order;
}

/** Who buys: all of the form but what it says of the order. */
const buyerIn = ({
  total: _,
  way: __,
  payBy: ___,
  note: ____,
  remind: _____,
  agreed: ______,
  ...buyer
}: CheckoutInput) => buyer;

const lineOf = (l: BasketRow, orderId: string, amount: Minor | undefined) => ({
  id: newId(),
  orderId,
  goodsId: l.goodsId,
  variantId: l.variantId,
  name: l.name,
  particulars: [...l.particulars],
  unit: l.unit,
  quantity: l.quantity,
  amount: amount ?? zero,
  placementId: l.placementId,
  page: l.page,
  addedAt: l.addedAt,
});

/** The payment that is asked for, with what happened so far; an order that waits for no provider is settled as far as it can be. */
async function beginPayment(
  { ctx, now }: Going,
  tx: Tx,
  { shop, lines, worked, pay, open, same }: Weighed,
  { id: orderId, token }: { readonly id: string; readonly token: string },
) {
  const provider = pay && viaProvider(pay.kind) ? pay.kind : '';
  const paymentId = (same && (await reusePayment(tx, orderId, provider, worked.total))) || newId();
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
  await addEvents(
    tx,
    ...(same ? [] : lines.map((l) => addedToCart(l, orderId))),
    ...(provider ? [{ orderId, at: now, what: 'Went to pay', detail: pay?.name || provider }] : []),
  );
  if (!pay) await settleFree(ctx, tx, orderId, paymentId);
  else if (!provider) await settlePlaced(ctx, tx, orderId, pay.name || pay.kind);
  return { orderId, token, paymentId, worked, provider, test: shop.rules.pay.test, left };
}

const addedToCart = (l: BasketRow, orderId: string) => ({
  orderId,
  at: l.addedAt,
  what: `${l.name} in the cart`,
  detail: l.quantity === 1 ? '1 piece' : `${l.quantity} pieces`,
});

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
    JSON.stringify(w.lines.map((l) => [l.variantId ?? l.goodsId, l.particulars, l.unit, l.quantity]));
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
