import { and, eq, inArray, isNull, lte, max } from 'drizzle-orm';
import type { Tx } from '../../data/database';
import { orderEvents, orders, payments, reservations, stockMovements, variants } from '../../data/schema';
import type { Ctx } from '../context';
import { buyable, type Pieces } from '../goods/available';
import { releaseUses } from './codes';

/** How long pieces are kept for a shopper who went to pay. */
export const HELD_MS = 30 * 60_000;

/** Keeps pieces for an order: those that somebody counts. */
export async function hold(tx: Tx, orderId: string, pieces: readonly Pieces[], now: Date): Promise<void> {
  const stock = new Map((await tx.select({ id: variants.id, stock: variants.stock }).from(variants).where(inArray(variants.id, pieces.map((p) => p.variantId)))).map((v) => [v.id, v.stock]));
  const counted = pieces.filter((p) => typeof stock.get(p.variantId) === 'number');
  if (counted.length === 0) return;
  const expiresAt = new Date(now.getTime() + HELD_MS);
  await tx.insert(reservations).values(counted.map((p) => ({ orderId, ...p, state: 'held' as const, expiresAt })));
}

/** Gives back what an order held: pieces, uses of discounts, money on vouchers. */
export async function release(tx: Tx, orderId: string): Promise<void> {
  await tx.update(reservations).set({ state: 'released' }).where(and(eq(reservations.orderId, orderId), eq(reservations.state, 'held')));
  await releaseUses(tx, orderId);
}

/**
 * Turns what an order holds into sold pieces: stock goes down once. A hold that ran out is honoured when the pieces
 * are still free. Returns what could no longer be had (paid too late, gone to others); stock goes below nought only where the owner sells on.
 */
export async function sell(tx: Tx, orderId: string, now: Date): Promise<Pieces[]> {
  const held = await tx.select().from(reservations).where(and(eq(reservations.orderId, orderId), inArray(reservations.state, ['held', 'released'])));
  const latest = new Map(held.map((h) => [h.variantId, h]));
  const free = await buyable(tx, [...latest.keys()], now, orderId);
  const gone: Pieces[] = [];
  for (const [variantId, h] of latest) {
    const { goodsId } = h;
    const valid = h.state === 'held' && h.expiresAt > now;
    const left = free.get(variantId) ?? null;
    if (!valid && left !== null && left < h.quantity) {
      gone.push({ goodsId, variantId, quantity: h.quantity });
      continue;
    }
    const [row] = await tx.select({ stock: variants.stock }).from(variants).where(eq(variants.id, variantId));
    if (row && row.stock !== null) {
      await tx.update(variants).set({ stock: row.stock - h.quantity }).where(eq(variants.id, variantId));
      await tx.insert(stockMovements).values({ goodsId, variantId, delta: -h.quantity, reason: 'sold', ref: orderId, at: now });
    }
    await tx.update(reservations).set({ state: 'sold' }).where(eq(reservations.id, h.id));
  }
  await release(tx, orderId);
  return gone;
}

/**
 * Gives back what was held too long, and lets go of orders whose buyer never came back, whether or not they held anything. Runs in
 * the background; correctness does not depend on it, since holds are judged by their time.
 */
export async function releaseExpired(ctx: Ctx): Promise<number> {
  const now = ctx.now();
  const held = await ctx.store.db.select({ orderId: reservations.orderId, siteId: orders.siteId }).from(reservations)
    .innerJoin(orders, eq(orders.id, reservations.orderId))
    .where(and(eq(reservations.state, 'held'), lte(reservations.expiresAt, now)));
  const begun = await ctx.store.db.select({ orderId: orders.id, siteId: orders.siteId, since: max(payments.createdAt) }).from(orders).leftJoin(payments, eq(payments.orderId, orders.id))
    .where(and(eq(orders.state, 'waiting'), lte(orders.createdAt, new Date(now.getTime() - HELD_MS)), isNull(orders.subscriptionId))).groupBy(orders.id);
  const left = begun.filter((o) => (o.since?.getTime() ?? 0) <= now.getTime() - HELD_MS);
  const waiting = new Map([...held, ...left].map((d) => [d.orderId, d.siteId]));
  for (const [orderId, siteId] of waiting) {
    await ctx.store.write(async (tx) => {
      await tx.update(reservations).set({ state: 'released' }).where(and(eq(reservations.orderId, orderId), eq(reservations.state, 'held'), lte(reservations.expiresAt, now)));
      const kept = await tx.select({ id: reservations.id }).from(reservations).where(and(eq(reservations.orderId, orderId), eq(reservations.state, 'held'))).limit(1);
      if (kept.length) return;
      const changed = await tx.update(orders).set({ state: 'failed' }).where(and(eq(orders.id, orderId), eq(orders.state, 'waiting'))).returning({ id: orders.id });
      if (changed.length) await tx.insert(orderEvents).values({ orderId, at: now, what: 'Not paid within 30 minutes', detail: 'The pieces are for sale again' });
    });
    ctx.changed(siteId);
  }
  return waiting.size;
}
