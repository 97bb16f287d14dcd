import { and, eq, inArray } from 'drizzle-orm';
import type { Db, Tx } from '../../data/database';
import { type orders, payments, reservations } from '../../data/schema';

/** Money of an order that is to go back, or is on its way. */
export const surplusOf = (db: Db | Tx, orderId: string): Promise<(typeof payments.$inferSelect)[]> =>
  db
    .select()
    .from(payments)
    .where(and(eq(payments.orderId, orderId), inArray(payments.state, ['surplus', 'returning'])));

/** Whether an order is still to be looked into: more money that nobody wanted, a promise that was not there, pieces that had gone. */
export async function isShort(tx: Tx, order: typeof orders.$inferSelect): Promise<boolean> {
  if ((await surplusOf(tx, order.id)).length > 0) return true;
  if (order.state !== 'paid') return false;
  if (order.lacks) return true;
  const held = await tx.select().from(reservations).where(eq(reservations.orderId, order.id));
  const sold = new Set(held.flatMap((h) => (h.state === 'sold' ? [h.variantId] : [])));
  return order.refunded === 0 && held.some((h) => !sold.has(h.variantId));
}
