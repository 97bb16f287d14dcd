import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Minor } from '../../core/money/minor';
import { lineGross, worthOf } from '../../core/till/refund';
import type { Tx } from '../../data/database';
import {
  orders,
  payments,
  refunds,
  stockMovements,
  variants,
  vouchers,
  voucherUses,
} from '../../data/schema';
import type { Ctx } from '../context';
import { piecesOf } from '../goods/available';
import { letterOfRefund } from '../mail/occasions';
import { vouchersIn } from './codes';
import { issueCredit } from './documents';
import { moneyIn } from './order-money';
import { event } from './settle';
import { isShort } from './short';

type Refund = typeof refunds.$inferSelect;
type Order = typeof orders.$inferSelect;

/**
 * What becomes of a refund, once: the provider has said that the money is back, or that it cannot be. An amount that was asked for
 * counts as given back from the moment it was asked, so that two refunds at once never come to more than was paid.
 */
export async function actOnRefund(
  ctx: Ctx,
  tx: Tx,
  id: string,
  outcome: 'done' | 'failed',
  detail: string,
  provider: string,
): Promise<string | undefined> {
  const [found] = await tx
    .select({ refund: refunds, order: orders, provider: payments.provider })
    .from(refunds)
    .innerJoin(orders, eq(orders.id, refunds.orderId))
    .leftJoin(payments, eq(payments.id, refunds.paymentId))
    .where(eq(refunds.id, id));
  if (!found || (found.provider ?? '') !== provider) return undefined;
  const { refund, order } = found;
  if (refund.state !== 'asked') return undefined;
  await (outcome === 'done'
    ? finishRefund(ctx, tx, refund, order, detail)
    : failRefund(ctx, tx, refund, order, detail));
  return order.siteId;
}

async function failRefund(ctx: Ctx, tx: Tx, refund: Refund, order: Order, detail: string): Promise<void> {
  await tx.update(refunds).set({ state: 'failed', detail }).where(eq(refunds.id, refund.id));
  const refunded = order.refunded - refund.amount;
  // What the owner was to look into before is to be looked into again.
  await tx
    .update(orders)
    .set({ refunded, short: await isShort(tx, { ...order, refunded }) })
    .where(eq(orders.id, order.id));
  await event(
    tx,
    order.id,
    ctx.now(),
    'The refund did not go through',
    `${detail || 'The provider refused it'}. Nothing was given back; try again, or give it back by hand.`,
  );
}

/** The money is back: vouchers are filled again, pieces are back on the shelf where that was asked, and the papers follow. */
export async function finishRefund(
  ctx: Ctx,
  tx: Tx,
  refund: Refund,
  order: Order,
  detail: string,
): Promise<void> {
  const now = ctx.now();
  await tx.update(refunds).set({ state: 'done', detail }).where(eq(refunds.id, refund.id));
  if (refund.toVouchers > 0) await fillVouchers(tx, order.id, refund.toVouchers);
  if (refund.restock) await restock(tx, order, refund.lines, now);
  await stopVouchers(tx, order, refund.lines, now);
  await shrinkVouchers(tx, order, now);
  await event(
    tx,
    order.id,
    now,
    `Given back ${(await moneyIn(tx, order))(refund.amount)}`,
    [detail, refund.reason].filter(Boolean).join('; '),
  );
  if (refund.amount > 0) {
    await issueCredit(ctx, tx, order, refund, await returnedLines(tx, order, refund));
    await letterOfRefund(ctx, tx, order, refund);
  }
}

/** What each returned line is worth, pieces that came back before counted in. */
async function returnedLines(
  tx: Tx,
  order: Order,
  refund: Refund,
): Promise<{ lineId: string; quantity: number; gross: Minor }[]> {
  const earlier = (
    await tx
      .select()
      .from(refunds)
      .where(and(eq(refunds.orderId, order.id), eq(refunds.state, 'done')))
  ).filter((r) => r.id !== refund.id && r.createdAt <= refund.createdAt);
  return refund.lines.flatMap(({ lineId, quantity }) => {
    const line = order.worked.lines.find((l) => l.id === lineId);
    const before = earlier
      .flatMap((r) => r.lines)
      .filter((l) => l.lineId === lineId)
      .reduce((n, l) => n + l.quantity, 0);
    return line && quantity > 0 ? [{ lineId, quantity, gross: worthOf(line, before, quantity) }] : [];
  });
}

/** Puts an amount back onto the vouchers an order was paid with, the last one spent first: its use becomes smaller. */
async function fillVouchers(tx: Tx, orderId: string, amount: number): Promise<void> {
  let left = amount;
  const uses = (
    await tx
      .select()
      .from(voucherUses)
      .where(and(eq(voucherUses.orderId, orderId), eq(voucherUses.state, 'used')))
  ).reverse();
  for (const use of uses) {
    const back = Math.min(left, use.amount);
    if (back <= 0) continue;
    left -= back;
    await tx
      .update(voucherUses)
      .set({ amount: use.amount - back })
      .where(eq(voucherUses.id, use.id));
  }
}

/** Pieces of an order that left the shelf and have not come back, by variant: more cannot be put there again. */
async function takenBy(tx: Tx, orderId: string): Promise<Map<string, number>> {
  const moved = await tx
    .select({ variantId: stockMovements.variantId, out: sql<number>`-sum(${stockMovements.delta})` })
    .from(stockMovements)
    .where(and(eq(stockMovements.ref, orderId), inArray(stockMovements.reason, ['sold', 'returned'])))
    .groupBy(stockMovements.variantId);
  return new Map(moved.map((m) => [m.variantId, m.out]));
}

/**
 * Counted pieces go back on the shelf, with their reason in the ledger; of an order whose pieces had gone to others only those that
 * it truly took.
 */
export async function restock(
  tx: Tx,
  order: Order,
  lines: readonly { readonly lineId: string; readonly quantity: number }[],
  now: Date,
): Promise<void> {
  const back = lines.flatMap(({ lineId, quantity }) => {
    const line = order.worked.lines.find((l) => l.id === lineId);
    return line && quantity > 0 ? [{ ...line, quantity }] : [];
  });
  const taken = await takenBy(tx, order.id);
  for (const { quantity: asked, ...piece } of await piecesOf(tx, back)) {
    const quantity = Math.min(asked, taken.get(piece.variantId) ?? 0);
    if (quantity <= 0) continue;
    const [row] = await tx
      .select({ stock: variants.stock })
      .from(variants)
      .where(eq(variants.id, piece.variantId));
    if (!row || row.stock === null) continue;
    await tx
      .update(variants)
      .set({ stock: row.stock + quantity })
      .where(eq(variants.id, piece.variantId));
    await tx.insert(stockMovements).values({
      goodsId: piece.goodsId,
      variantId: piece.variantId,
      delta: quantity,
      reason: 'returned',
      ref: order.id,
      at: now,
    });
  }
}

/**
 * Gift vouchers that were bought with an order and are given back hold nothing any more: of each line as many as come back, those
 * that nobody used first. What was spent of one already cannot be had back; the owner is told.
 */
export async function stopVouchers(
  tx: Tx,
  order: Order,
  lines: readonly { readonly lineId: string; readonly quantity: number }[],
  now: Date,
): Promise<void> {
  const back = lines.flatMap(({ lineId, quantity }) => {
    const line = order.worked.lines.find((l) => l.id === lineId);
    return line?.voucher ? [{ unit: line.unit, quantity }] : [];
  });
  if (back.length === 0) return;
  const own = (await tx.select().from(vouchers).where(eq(vouchers.orderId, order.id))).filter(
    (v) => v.expiresAt === null || v.expiresAt > now,
  );
  const left = await balances(tx, order, own, now);
  const spentOf = (v: (typeof own)[number]): number => v.amount - (left.get(v.code) ?? 0);
  const stopped = back.flatMap(({ unit, quantity }) =>
    own
      .filter((v) => v.amount === unit)
      .sort((a, b) => spentOf(a) - spentOf(b))
      .slice(0, quantity),
  );
  if (stopped.length === 0) return;
  await tx
    .update(vouchers)
    .set({ expiresAt: now })
    .where(
      inArray(
        vouchers.id,
        stopped.map((v) => v.id),
      ),
    );
  const spent = stopped.reduce((n, v) => n + spentOf(v), 0);
  if (spent > 0) await tellSpent(tx, order, spent, now);
}

/**
 * Money that was given back by amount, beyond what the rest of the order cost, was paid for its gift
 * vouchers: they hold as much less, those
 * that nobody used first. Asked after each refund; what was taken off before counts.
 */
async function shrinkVouchers(tx: Tx, order: Order, now: Date): Promise<void> {
  const gifts = order.worked.lines.filter((l) => l.voucher);
  if (gifts.length === 0) return;
  const done = (await tx.select().from(refunds).where(eq(refunds.orderId, order.id))).filter(
    (x) => x.state === 'done',
  );
  const returned = new Map<string, number>();
  for (const l of done.flatMap((x) => x.lines))
    returned.set(l.lineId, (returned.get(l.lineId) ?? 0) + l.quantity);
  const byLine = gifts.reduce((n, l) => n + worthOf(l, 0, returned.get(l.id) ?? 0), 0);
  const paid = order.total + (order.worked.totals?.paid ?? 0);
  const forGifts = gifts.reduce((n, l) => n + lineGross(l), 0);
  const back = done.reduce((n, x) => n + x.amount, 0);
  const beyond = Math.max(0, back - byLine - (paid - forGifts));
  const own = (await tx.select().from(vouchers).where(eq(vouchers.orderId, order.id))).filter(
    (v) => v.expiresAt === null || v.expiresAt > now,
  );
  const bought = gifts.reduce((n, l) => n + l.unit * (l.quantity - (returned.get(l.id) ?? 0)), 0);
  const holds = own.reduce((n, v) => n + v.amount, 0);
  let off = holds - Math.max(0, bought - beyond);
  if (off <= 0) return;
  const left = await balances(tx, order, own, now);
  let spent = 0;
  for (const v of [...own].sort((a, b) => (left.get(b.code) ?? 0) - (left.get(a.code) ?? 0))) {
    const less = Math.min(off, v.amount);
    if (less <= 0) break;
    off -= less;
    spent += Math.max(0, less - (left.get(v.code) ?? 0));
    await tx
      .update(vouchers)
      .set({ amount: v.amount - less })
      .where(eq(vouchers.id, v.id));
  }
  if (spent > 0) await tellSpent(tx, order, spent, now);
}

/** What is left on some vouchers of an order, by code. */
const balances = async (
  tx: Tx,
  order: Order,
  own: readonly { readonly code: string }[],
  now: Date,
): Promise<Map<string, number>> =>
  new Map(
    (
      await vouchersIn(
        tx,
        order.siteId,
        own.map((v) => v.code),
        now,
        '',
      )
    ).map((v) => [v.code, v.balance]),
  );

const tellSpent = async (tx: Tx, order: Order, spent: number, now: Date): Promise<void> =>
  event(
    tx,
    order.id,
    now,
    'A voucher that was given back had been spent',
    `${(await moneyIn(tx, order))(spent)} of it went to other orders`,
  );
