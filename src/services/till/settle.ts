import { and, eq, sql } from 'drizzle-orm';
import { formatMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import type { Tx } from '../../data/database';
import { keep, keepInsert } from '../../data/kept-queries';
import { cartLines, orderEvents, orders, payments } from '../../data/schema';
import type { Ctx } from '../context';
import { lettersOfPaying } from '../letters/occasions';
import { issueVouchers, spendUses } from './codes';
import { issueInvoice, type Paid } from './documents';
import { nextOrderNumber } from './numbers';
import { release, sell } from './reserve';
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
): Promise<{ number: number; short: boolean; missing: number }> {
  const gone = await sell(shop, tx, order);
  const number = order.number ?? (await nextOrderNumber(tx, order.siteId, order.test));
  const missing = await spendUses(tx, order, shop.now);
  await emptyCart(tx, order);
  return { number, short: gone.length > 0, missing };
}

/** Ordered for good, with the money still to come. */
export async function settlePlaced(ctx: Ctx, tx: Tx, orderId: string, how: string): Promise<void> {
  const order = await read(tx, orderId);
  const { number, short } = await makeFirm(await shopNow(ctx, tx, order.siteId), tx, order);
  await tx.update(orders).set({ state: 'placed', number, short }).where(eq(orders.id, orderId));
  await event(tx, orderId, ctx.now(), 'Ordered', how);
  await lettersOfPaying(ctx, tx, await read(tx, orderId), 'placed');
}

/** Paid: by a notice, by the owner's word, or because nothing was left to pay. */
export async function settle(
  ctx: Ctx,
  tx: Tx,
  order: Order,
  { provider, detail, mandate }: Paid & { readonly mandate: string },
): Promise<void> {
  const shop = await shopNow(ctx, tx, order.siteId);
  const { now } = shop;
  const money = (amount: number) =>
    formatMoney({ amount: amount as Minor, currency: order.currency }, shop.locale);
  const wasPlaced = order.state === 'placed';
  const { number, short, missing } = wasPlaced
    ? { number: order.number ?? 0, short: order.short, missing: 0 }
    : await makeFirm(shop, tx, order);
  await makePaid(tx, { id: order.id, number, paidAt: now, short });
  // Nobody was charged for an order to try things out: nothing of worth comes of it that would outlast the trying.
  if (!order.test) await issueVouchers(tx, order, now);
  if (!order.test)
    await (order.subscriptionId
      ? chargePaid(tx, order.subscriptionId, now)
      : beginSubscriptions(tx, order, mandate, now));
  await event(tx, order.id, now, `Paid ${money(order.total)}`, detail);
  if (missing > 0)
    await event(
      tx,
      order.id,
      now,
      'A voucher had less on it',
      `${money(missing)} were spent by somebody else before this was paid. Ask for the rest, or let it be.`,
    );
  if (short && !wasPlaced)
    await event(
      tx,
      order.id,
      now,
      'Paid too late',
      'The pieces had gone to others. Make more, or give the money back.',
    );
  const paid: Order = { ...order, state: 'paid', number, paidAt: now, short };
  await issueInvoice(shop, tx, paid, { provider, detail });
  await lettersOfPaying(ctx, tx, paid, wasPlaced ? 'paid-later' : 'paid');
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
