import { and, eq, inArray, isNotNull, isNull, lte, max, sql } from 'drizzle-orm';
import type { Tx } from '../../data/database';
import { keep, keepInsert, many } from '../../data/kept-queries';
import { orderEvents, orders, payments, reservations, stockMovements, variants } from '../../data/schema';
import type { Ctx } from '../context';
import { buyable, type Pieces } from '../goods/available';
import { releaseUses } from './codes';
import type { ShopNow } from './shop-now';

/** How long pieces are kept for a shopper who went to pay. */
export const HELD_MS = 30 * 60_000;

const countedAmong = keep({ ids: many(variants.id) }, (q, { ids }) =>
  q
    .select({ id: variants.id })
    .from(variants)
    .where(sql`${variants.id} in ${ids} and ${variants.stock} is not null`),
);
const insertHolds = keepInsert(reservations);

/** Keeps pieces for an order: those that somebody counts. */
export async function hold(tx: Tx, orderId: string, pieces: readonly Pieces[], now: Date): Promise<void> {
  const counted = new Set((await countedAmong(tx, { ids: pieces.map((p) => p.variantId) })).map((v) => v.id));
  const expiresAt = new Date(now.getTime() + HELD_MS);
  await insertHolds(
    tx,
    ...pieces
      .filter((p) => counted.has(p.variantId))
      .map((p) => ({ orderId, ...p, state: 'held' as const, expiresAt })),
  );
}

/** Gives back what an order held: pieces, uses of discounts, money on vouchers. */
export async function release(tx: Tx, orderId: string): Promise<void> {
  await letGo(tx, { orderId });
  await releaseUses(tx, orderId);
}
const letGo = keep({ orderId: reservations.orderId }, (q, { orderId }) =>
  q
    .update(reservations)
    .set({ state: 'released' })
    .where(and(eq(reservations.orderId, orderId), eq(reservations.state, 'held'))),
);
const holdsOf = keep({ orderId: reservations.orderId }, (q, { orderId }) =>
  q
    .select()
    .from(reservations)
    .where(and(eq(reservations.orderId, orderId), inArray(reservations.state, ['held', 'released']))),
);
const takeFromShelf = keep({ id: variants.id, pieces: variants.stock }, (q, { id, pieces }) =>
  q
    .update(variants)
    .set({ stock: sql`${variants.stock} - ${pieces}` })
    .where(and(eq(variants.id, id), isNotNull(variants.stock))),
);
const insertMovement = keepInsert(stockMovements);
const makeSold = keep({ id: reservations.id }, (q, { id }) =>
  q.update(reservations).set({ state: 'sold' }).where(eq(reservations.id, id)),
);

/**
 * Turns what an order holds into sold pieces: stock goes down once. A hold that ran out is honoured when the pieces
 * are still free. Returns what could no longer be had (paid too late, gone to others); stock goes below nought only where the owner sells on.
 */
export async function sell(
  shop: ShopNow,
  tx: Tx,
  { id: orderId }: { readonly id: string },
): Promise<Pieces[]> {
  const { now } = shop;
  const held = await holdsOf(tx, { orderId });
  const latest = new Map(held.map((h) => [h.variantId, h]));
  const valid = (h: (typeof held)[number]): boolean => h.state === 'held' && h.expiresAt > now;
  // What is held in time is theirs whatever there is.
  const free = held.every(valid)
    ? new Map<string, number | null>()
    : await buyable(shop, [...latest.values()], orderId);
  const gone: Pieces[] = [];
  for (const [variantId, h] of latest) {
    const { goodsId } = h;
    const left = free.get(variantId) ?? null;
    if (!valid(h) && left !== null && left < h.quantity) {
      gone.push({ goodsId, variantId, quantity: h.quantity });
      continue;
    }
    const { rowsAffected: counted } = await takeFromShelf(tx, { id: variantId, pieces: h.quantity });
    if (counted)
      await insertMovement(tx, {
        goodsId,
        variantId,
        delta: -h.quantity,
        reason: 'sold',
        ref: orderId,
        at: now,
      });
    await makeSold(tx, { id: h.id });
  }
  // Holds of what was taken twice, and of what could not be had.
  if (held.length > latest.size || gone.length) await letGo(tx, { orderId });
  return gone;
}

/**
 * Gives back what was held too long, and lets go of orders whose buyer never came back, whether or not they held anything. Runs in
 * the background; correctness does not depend on it, since holds are judged by their time.
 */
export async function releaseExpired(ctx: Ctx): Promise<number> {
  const now = ctx.now();
  const held = await ctx.store.db
    .select({ orderId: reservations.orderId, siteId: orders.siteId })
    .from(reservations)
    .innerJoin(orders, eq(orders.id, reservations.orderId))
    .where(and(eq(reservations.state, 'held'), lte(reservations.expiresAt, now)));
  const begun = await ctx.store.db
    .select({ orderId: orders.id, siteId: orders.siteId, since: max(payments.createdAt) })
    .from(orders)
    .leftJoin(payments, eq(payments.orderId, orders.id))
    .where(
      and(
        eq(orders.state, 'waiting'),
        lte(orders.createdAt, new Date(now.getTime() - HELD_MS)),
        isNull(orders.subscriptionId),
      ),
    )
    .groupBy(orders.id);
  const left = begun.filter((o) => (o.since?.getTime() ?? 0) <= now.getTime() - HELD_MS);
  const waiting = new Map([...held, ...left].map((d) => [d.orderId, d.siteId]));
  for (const [orderId, siteId] of waiting) {
    await ctx.store.write(async (tx) => {
      await tx
        .update(reservations)
        .set({ state: 'released' })
        .where(
          and(
            eq(reservations.orderId, orderId),
            eq(reservations.state, 'held'),
            lte(reservations.expiresAt, now),
          ),
        );
      const kept = await tx
        .select({ id: reservations.id })
        .from(reservations)
        .where(and(eq(reservations.orderId, orderId), eq(reservations.state, 'held')))
        .limit(1);
      if (kept.length) return;
      const changed = await tx
        .update(orders)
        .set({ state: 'failed' })
        .where(and(eq(orders.id, orderId), eq(orders.state, 'waiting')))
        .returning({ id: orders.id });
      if (changed.length)
        await tx.insert(orderEvents).values({
          orderId,
          at: now,
          what: 'Not paid within 30 minutes',
          detail: 'The pieces are for sale again',
        });
    });
    ctx.changed(siteId);
  }
  return waiting.size;
}
