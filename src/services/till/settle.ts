import { and, asc, eq, sql } from 'drizzle-orm';
import { formatMoney } from '../../core/money/format';
import { minor } from '../../core/money/minor';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { Tx } from '../../data/database';
import { keep, keepInsert } from '../../data/kept-queries';
import { cartLines, orderEvents, orders, payments } from '../../data/schema';
import type { Lacks } from '../../data/schema/till';
import type { Ctx } from '../context';
import { lettersOfPaying, letterToOwner } from '../mail/occasions';
import { issueVouchers, type Missed, spendUses } from './codes';
import { issueInvoice, type Paid } from './documents';
import { nextOrderNumber } from './numbers';
import { release, sell } from './reserve';
import { isShort } from './short';
import { type ShopNow, shopNow } from './shop-now';
import { beginSubscriptions, chargePaid } from './subscription-state';

/**
 * What turns a basket into an order for good, and an order into a paid one; always within the transaction of whatever says so
 * (a notice, the owner, an order of nothing to pay), and done once however often it is said.
 */
type Order = typeof orders.$inferSelect;

export const addEvents = keepInsert(orderEvents);
export const event = (tx: Tx, orderId: string, at: Date, what: string, detail = '') =>
  addEvents(tx, { orderId, at, what, detail });
const makePaid = keep(
  { id: orders.id, number: orders.number, paidAt: orders.paidAt, short: orders.short },
  (q, { id, number, paidAt, short }) =>
    q.update(orders).set({ state: 'paid', number, paidAt, short }).where(eq(orders.id, id)),
);

/** Takes the pieces, spends vouchers and limits, empties the cart and gives the order its number. */
async function makeFirm(
  shop: ShopNow,
  tx: Tx,
  order: Order,
): Promise<{ number: number; gone: boolean; missed: Missed }> {
  const gone = await sell(shop, tx, order);
  const number = order.number ?? (await nextOrderNumber(tx, order.siteId, order.test));
  const missed = await spendUses(tx, order, shop.rules, shop.now);
  await emptyCart(tx, order);
  return { number, gone: gone.length > 0, missed };
}

/** Ordered for good, with the money still to come. */
export async function settlePlaced(ctx: Ctx, tx: Tx, orderId: string, how: string): Promise<void> {
  const order = await read(tx, orderId);
  const { number, gone } = await makeFirm(await shopNow(ctx, tx, order.siteId), tx, order);
  // Money may have come that it did not want: that is still to be looked into.
  const short = gone || order.short;
  await tx.update(orders).set({ state: 'placed', number, short }).where(eq(orders.id, orderId));
  await event(tx, orderId, ctx.now(), 'Ordered', how);
  await lettersOfPaying(ctx, tx, await read(tx, orderId), 'placed');
}

/**
 * Paid: by a notice, by the owner's word, or because nothing was left to pay. Where something that the
 * order was promised is not there any
 * more (money on a voucher, a use of a limited code), it is paid, and nothing of worth comes of it before
 * the owner has decided.
 */
export async function settle(
  ctx: Ctx,
  tx: Tx,
  order: Order,
  how: Paid & { readonly mandate: string },
): Promise<void> {
  const shop = await shopNow(ctx, tx, order.siteId);
  const { now } = shop;
  const wasPlaced = order.state === 'placed';
  const { number, gone, missed } = wasPlaced
    ? { number: order.number ?? 0, gone: false, missed: nothingMissed }
    : await makeFirm(shop, tx, order);
  const short = gone || order.short;
  const lacks = order.test ? null : lacksOf(missed, gone, how.mandate);
  await makePaid(tx, { id: order.id, number, paidAt: now, short: short || lacks !== null });
  await event(tx, order.id, now, `Paid ${moneyOf(shop, order, order.total)}`, how.detail);
  if (gone)
    await event(
      tx,
      order.id,
      now,
      'Paid too late',
      'The pieces had gone to others. Make more, or refund it.',
    );
  const paid: Order = { ...order, state: 'paid', number, paidAt: now, short };
  if (!lacks) return handOut(ctx, shop, tx, paid, how, wasPlaced);
  await tx
    .update(orders)
    .set({ lacks, worked: withoutMissed(order.worked, missed) })
    .where(eq(orders.id, order.id));
  await event(tx, order.id, now, 'Waits for you', lacksWords(shop, order, lacks));
  await letterToOwner(ctx, tx, paid);
}

/** All that a paid order brings with it: gift vouchers, subscriptions, the invoice, the letters. */
async function handOut(
  ctx: Ctx,
  shop: ShopNow,
  tx: Tx,
  paid: Order,
  { provider, detail, mandate }: Paid & { readonly mandate: string },
  wasPlaced: boolean,
): Promise<void> {
  const { now } = shop;
  // Nobody was charged for an order to try things out: nothing of worth comes of it that would outlast the trying.
  if (!paid.test) await issueVouchers(tx, paid, now);
  if (!paid.test)
    await (paid.subscriptionId
      ? chargePaid(tx, paid.subscriptionId, now)
      : beginSubscriptions(tx, paid, mandate, now));
  await issueInvoice(shop, tx, paid, { provider, detail });
  await lettersOfPaying(ctx, tx, paid, wasPlaced ? 'paid-later' : 'paid');
}

/**
 * The owner takes a paid order as it is, although something that it was promised had gone: it is handed out
 * like any other.
 */
export async function accept(ctx: Ctx, tx: Tx, order: Order, by: string): Promise<void> {
  const shop = await shopNow(ctx, tx, order.siteId);
  const [payment] = await tx
    .select()
    .from(payments)
    .where(and(eq(payments.orderId, order.id), eq(payments.state, 'paid')))
    .orderBy(asc(payments.createdAt))
    .limit(1);
  // Pieces that had gone to others are still to be looked into.
  await tx
    .update(orders)
    .set({ lacks: null, short: await isShort(tx, { ...order, lacks: null }) })
    .where(eq(orders.id, order.id));
  await event(tx, order.id, shop.now, 'Accepted', `By ${by}`);
  const how = {
    provider: payment?.provider ?? '',
    detail: payment?.detail ?? '',
    mandate: order.lacks?.mandate ?? '',
  };
  await handOut(ctx, shop, tx, order, how, false);
}

const nothingMissed: Missed = { vouchers: new Map(), over: [] };

function lacksOf({ vouchers, over }: Missed, gone: boolean, mandate: string): Lacks | null {
  const missing = [...vouchers.values()].reduce((n, m) => n + m, 0);
  return missing > 0 || over.length > 0 ? { missing, over, gone, mandate } : null;
}

const moneyOf = (shop: ShopNow, order: Order, amount: number): string =>
  formatMoney({ amount, currency: order.currency }, shop.locale);

/** What is missing, and what the owner can do, in plain words. */
function lacksWords(shop: ShopNow, order: Order, { missing, over }: Lacks): string {
  const says = [
    missing > 0 &&
      `${moneyOf(shop, order, missing)} of its gift voucher were spent elsewhere before this was paid`,
    ...over.map(
      (o) =>
        `\u201c${o.name}\u201d had been used as often as it may be, and takes ${moneyOf(shop, order, o.amount)} off`,
    ),
  ].filter(Boolean);
  return `${says.join('; ')}. Nothing was handed out yet: accept it as it is, or cancel it, which refunds what was paid.`;
}

/** A sum with what its vouchers truly gave: what did not come is due, and is on no invoice as paid. */
function withoutMissed(worked: WorkedSum, { vouchers }: Missed): WorkedSum {
  const missing = [...vouchers.values()].reduce((n, m) => n + m, 0);
  if (missing === 0) return worked;
  const { totals } = worked;
  return {
    ...worked,
    steps: worked.steps.map((s) =>
      s.kind === 'voucher' && s.id ? { ...s, amount: minor(s.amount + (vouchers.get(s.id) ?? 0)) } : s,
    ),
    ...(totals && {
      totals: { ...totals, paid: minor(totals.paid - missing), due: minor(totals.due + missing) },
    }),
  };
}

/** An order of which nothing is left to pay: vouchers or discounts cover it. Within the transaction that worked it out. */
export async function settleFree(ctx: Ctx, tx: Tx, orderId: string, paymentId: string): Promise<void> {
  const order = await read(tx, orderId);
  if (order.total !== 0) throw new Error('an order that costs something is not settled for nothing');
  await tx
    .update(payments)
    .set({ state: 'paid', provider: '', detail: 'nothing was left to pay' })
    .where(eq(payments.id, paymentId));
  await settle(ctx, tx, order, { provider: '', detail: 'nothing was left to pay', mandate: '' });
}

/** A payment that was declined: the order failed, unless another payment of it was approved, and gives back what it held. */
export async function decline(
  tx: Tx,
  orderId: string,
  paymentId: string,
  detail: string,
  now: Date,
): Promise<void> {
  await tx.update(payments).set({ state: 'declined', detail }).where(eq(payments.id, paymentId));
  const changed = await tx
    .update(orders)
    .set({ state: 'failed' })
    .where(and(eq(orders.id, orderId), eq(orders.state, 'waiting')))
    .returning({ id: orders.id });
  if (changed.length === 0) return;
  await release(tx, orderId);
  await event(tx, orderId, now, 'Payment declined', detail);
}

async function read(tx: Tx, orderId: string): Promise<Order> {
  const [order] = await tx.select().from(orders).where(eq(orders.id, orderId));
  if (!order) throw new Error('an order that is being settled is there');
  return order;
}

const takeOutOfCart = keep({ id: cartLines.id, bought: cartLines.quantity }, (q, { id, bought }) =>
  q.delete(cartLines).where(and(eq(cartLines.id, id), sql`${cartLines.quantity} <= ${bought}`)),
);
const leaveInCart = keep({ id: cartLines.id, bought: cartLines.quantity }, (q, { id, bought }) =>
  q
    .update(cartLines)
    .set({ quantity: sql`${cartLines.quantity} - ${bought}` })
    .where(eq(cartLines.id, id)),
);

/** Takes out of the cart what was bought; what was put in while paying stays. */
async function emptyCart(tx: Tx, order: Order): Promise<void> {
  for (const { id, quantity: bought } of order.worked.lines) {
    const { rowsAffected } = await takeOutOfCart(tx, { id, bought });
    if (rowsAffected === 0) await leaveInCart(tx, { id, bought });
  }
}
