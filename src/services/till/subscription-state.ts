import { eq } from 'drizzle-orm';
import { chargeTime, nextTurn, retryTime } from '../../core/till/subscription';
import type { Tx } from '../../data/database';
import { orderEvents, type orders, subscriptions } from '../../data/schema';
import { newId } from '../ids';

/** What a payment means for subscriptions; within the transaction that acts on its notice. */
type Order = typeof orders.$inferSelect;

/** Lines that are charged again begin when they are paid for the first time. */
export async function beginSubscriptions(tx: Tx, order: Order, mandate: string, now: Date): Promise<void> {
  const lines = order.worked.lines.filter((l) => l.every);
  if (lines.length === 0) return;
  if (!mandate) {
    await tx.insert(orderEvents).values({
      orderId: order.id,
      at: now,
      what: 'Cannot be charged again',
      detail: 'The provider did not say that it may charge this card again',
    });
    return;
  }
  for (const line of lines) {
    if (!line.every) continue;
    const nextAt = chargeTime(now, line.every, 1);
    await tx.insert(subscriptions).values({
      id: newId(),
      siteId: order.siteId,
      orderId: order.id,
      line,
      currency: order.currency,
      buyer: order.buyer,
      mandate,
      startedAt: now,
      nextAt,
    });
    await tx.insert(orderEvents).values({
      orderId: order.id,
      at: now,
      what: `Subscription begun: ${line.name}`,
      detail: `Charged again on ${nextAt.toISOString().slice(0, 10)}`,
    });
  }
}

/** A charge went through: the next one is due at the next turn that lies ahead, counted from the beginning. */
export async function chargePaid(tx: Tx, id: string, now: Date): Promise<void> {
  const [s] = await tx.select().from(subscriptions).where(eq(subscriptions.id, id));
  if (!s?.line.every) return;
  const { turn, at } = nextTurn(s.startedAt, s.line.every, s.turn, now);
  await tx
    .update(subscriptions)
    .set({ charges: s.charges + 1, turn, nextAt: at, declined: 0, pending: null })
    .where(eq(subscriptions.id, id));
}

/** A charge was declined: tried again later, and after the last try the subscription is over. */
export async function chargeDeclined(tx: Tx, order: Order, why: string, now: Date): Promise<void> {
  if (!order.subscriptionId) return;
  const [s] = await tx.select().from(subscriptions).where(eq(subscriptions.id, order.subscriptionId));
  if (!s || s.pending !== order.id) return;
  const declined = s.declined + 1;
  const again = retryTime(now, declined);
  await tx
    .update(subscriptions)
    .set({
      declined,
      pending: null,
      ...(again
        ? { nextAt: again }
        : { state: 'stopped' as const, reason: `The card was declined ${declined} times: ${why}` }),
    })
    .where(eq(subscriptions.id, s.id));
  await tx.insert(orderEvents).values({
    orderId: s.orderId,
    at: now,
    what: again ? 'Charging again was declined' : 'Subscription stopped',
    detail: again
      ? `${why}; tried again on ${again.toISOString().slice(0, 10)}`
      : `Declined ${declined} times: ${why}`,
  });
}
