import { and, eq, inArray, lte } from 'drizzle-orm';
import type { Tx } from '../../data/database';
import { goods, orderEvents, orders, reservations, stockMovements } from '../../data/schema';
import type { Ctx } from '../context';
import { availability } from './cart';

/** How long pieces are kept for a shopper who went to pay. */
export const HELD_MS = 30 * 60_000;

export async function hold(tx: Tx, orderId: string, lines: readonly { goodsId: string; quantity: number; available: number | null }[], now: Date): Promise<void> {
  const counted = lines.filter((l) => l.available !== null);
  if (counted.length === 0) return;
  const expiresAt = new Date(now.getTime() + HELD_MS);
  await tx.insert(reservations).values(counted.map((l) => ({ orderId, goodsId: l.goodsId, quantity: l.quantity, state: 'held' as const, expiresAt })));
}

export const release = (tx: Tx, orderId: string) =>
  tx.update(reservations).set({ state: 'released' }).where(and(eq(reservations.orderId, orderId), eq(reservations.state, 'held')));

/**
 * Turns what an order holds into sold pieces: stock goes down once. A hold that ran out is honoured when the pieces
 * are still free. Returns what could no longer be had (paid too late, gone to others); stock never goes below nought.
 */
export async function sell(tx: Tx, orderId: string, now: Date): Promise<{ goodsId: string; quantity: number }[]> {
  const held = await tx.select().from(reservations).where(and(eq(reservations.orderId, orderId), inArray(reservations.state, ['held', 'released'])));
  const latest = new Map(held.map((h) => [h.goodsId, h]));
  const free = await availability(tx, [...latest.keys()], now, orderId);
  const gone: { goodsId: string; quantity: number }[] = [];
  for (const [goodsId, h] of latest) {
    const valid = h.state === 'held' && h.expiresAt > now;
    const left = free.get(goodsId) ?? null;
    if (!valid && left !== null && left < h.quantity) {
      gone.push({ goodsId, quantity: h.quantity });
      continue;
    }
    const [row] = await tx.select({ stock: goods.stock }).from(goods).where(eq(goods.id, goodsId));
    if (row && row.stock !== null) {
      await tx.update(goods).set({ stock: row.stock - h.quantity }).where(eq(goods.id, goodsId));
      await tx.insert(stockMovements).values({ goodsId, delta: -h.quantity, reason: 'sold', ref: orderId, at: now });
    }
    await tx.update(reservations).set({ state: 'sold' }).where(eq(reservations.id, h.id));
  }
  await release(tx, orderId);
  return gone;
}

/** Gives back what was held too long. Runs in the background; correctness does not depend on it, since holds are judged by their time. */
export async function releaseExpired(ctx: Ctx): Promise<number> {
  const now = ctx.now();
  const due = await ctx.store.db.select({ orderId: reservations.orderId, siteId: orders.siteId }).from(reservations)
    .innerJoin(orders, eq(orders.id, reservations.orderId))
    .where(and(eq(reservations.state, 'held'), lte(reservations.expiresAt, now)));
  const waiting = new Map(due.map((d) => [d.orderId, d.siteId]));
  for (const [orderId, siteId] of waiting) {
    await ctx.store.write(async (tx) => {
      await tx.update(reservations).set({ state: 'released' }).where(and(eq(reservations.orderId, orderId), eq(reservations.state, 'held'), lte(reservations.expiresAt, now)));
      const changed = await tx.update(orders).set({ state: 'failed' }).where(and(eq(orders.id, orderId), eq(orders.state, 'waiting'))).returning({ id: orders.id });
      if (changed.length) await tx.insert(orderEvents).values({ orderId, at: now, what: 'Not paid within 30 minutes', detail: 'The pieces are for sale again' });
    });
    ctx.changed(siteId);
  }
  return waiting.size;
}
