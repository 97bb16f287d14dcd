import { and, asc, eq, gt, inArray, isNull, ne, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BasketLine, type WorkedSum, workOut } from '../../core/till/worked-sum';
import { decimalText, formatMoney, parseMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import { fill, stepWordsIn, wordsIn } from '../../core/storefront/words';
import type { Db, Tx } from '../../data/database';
import { cartLines, carts, goods, idempotency, reservations } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing } from '../errors';
import { newId, newToken } from '../ids';
import type { Site } from '../sites/site';

/** More pieces of one thing than a shopper means to buy; refuses typing errors and nonsense. */
const MAX_PIECES = 999;
const MAX_LINES = 100;

export const addInput = z.object({
  goods: z.string().min(1).max(80),
  quantity: z.coerce.number().int().min(1).max(MAX_PIECES).default(1),
  /** A form sends an empty field where a program sends nothing. */
  placement: z.union([z.literal(''), z.string().regex(/^[a-z0-9]{8,16}$/)]).nullish().transform((v) => v || null),
  /** What the buyer names, as typed, where the product leaves it to them. */
  amount: z.string().max(30).nullish().transform((v) => v ?? null),
  page: z.string().max(500).nullish().transform((v) => v ?? null),
});
export type AddInput = Omit<z.infer<typeof addInput>, 'amount'> & { readonly amount?: string | null };

export interface CartView extends WorkedSum {
  readonly token: string;
  /** Pictures by line, as blob hashes. */
  readonly pictures: Readonly<Record<string, string | null>>;
}

/** Pieces of each product that this buyer could have: on hand, less what is held for others who are paying now. */
export async function availability(db: Db | Tx, ids: readonly string[], now: Date, butOrder = ''): Promise<Map<string, number | null>> {
  if (ids.length === 0) return new Map();
  const rows = await db.select({ id: goods.id, stock: goods.stock, removedAt: goods.removedAt }).from(goods).where(inArray(goods.id, [...ids]));
  const held = await db.select({ id: reservations.goodsId, pieces: sql<number>`sum(${reservations.quantity})` }).from(reservations)
    .where(and(inArray(reservations.goodsId, [...ids]), eq(reservations.state, 'held'), gt(reservations.expiresAt, now), ne(reservations.orderId, butOrder)))
    .groupBy(reservations.goodsId);
  const heldOf = new Map(held.map((h) => [h.id, h.pieces]));
  return new Map(rows.map((r) => [r.id, r.removedAt ? 0 : r.stock === null ? null : Math.max(0, r.stock - (heldOf.get(r.id) ?? 0))]));
}

export async function basketOf(db: Db | Tx, cart: string, now: Date, butOrder = ''): Promise<{ lines: (BasketLine & { placementId: string | null; page: string | null })[]; pictures: Record<string, string | null> }> {
  const rows = await db.select({ line: cartLines, product: goods }).from(cartLines).innerJoin(goods, eq(goods.id, cartLines.goodsId)).where(eq(cartLines.cart, cart)).orderBy(asc(cartLines.addedAt));
  const free = await availability(db, [...new Set(rows.map((r) => r.product.id))], now, butOrder);
  return {
    lines: rows.map(({ line, product }) => ({
      id: line.id, goodsId: product.id, slug: product.slug, name: product.name, unit: (product.openLeast !== null && line.named !== null ? line.named : product.price) as Minor, quantity: line.quantity,
      available: free.get(product.id) ?? null, placementId: line.placementId, page: line.page,
    })),
    pictures: Object.fromEntries(rows.map(({ line, product }) => [line.id, product.picture])),
  };
}

export async function readCart(ctx: Ctx, site: Site, token: string): Promise<CartView> {
  await mine(ctx.store.db, site, token);
  return viewOf(ctx.store.db, site, token, ctx.now());
}

async function viewOf(db: Db | Tx, site: Site, token: string, now: Date): Promise<CartView> {
  const { lines, pictures } = await basketOf(db, token, now);
  return { token, pictures, ...workOut(site.row.currency, lines.map(({ placementId: _, page: __, ...l }) => l)) };
}

/**
 * Puts pieces into a cart, making the cart when there is none. The same product from the same placement joins its
 * line. A repeated request with the same key is told what the first was told, and adds nothing.
 */
export async function addToCart(ctx: Ctx, site: Site, token: string | null, input: AddInput, key: string | null): Promise<CartView> {
  return ctx.store.write(async (tx) => {
    const now = ctx.now();
    const known = key ? await tx.select().from(idempotency).where(eq(idempotency.key, `cart ${key}`)) : [];
    const cart = known[0] ? String(known[0].answer) : token && (await exists(tx, site, token)) ? token : newToken();
    if (!known[0]) {
      await insertLine(tx, site, cart, input, now);
      if (key) await tx.insert(idempotency).values({ key: `cart ${key}`, answer: cart, at: now });
    }
    return viewOf(tx, site, cart, now);
  });
}

async function insertLine(tx: Tx, site: Site, cart: string, input: AddInput, now: Date): Promise<void> {
  const [product] = await tx.select().from(goods).where(and(eq(goods.siteId, site.row.id), eq(goods.slug, input.goods), isNull(goods.removedAt)));
  if (!product) throw missing(wordsIn(site.row.locale).gone);
  await tx.insert(carts).values({ token: cart, siteId: site.row.id, createdAt: now, updatedAt: now }).onConflictDoUpdate({ target: carts.token, set: { updatedAt: now } });
  const rows = await tx.select().from(cartLines).where(eq(cartLines.cart, cart));
  const inCart = rows.filter((r) => r.goodsId === product.id).reduce((n, r) => n + r.quantity, 0);
  const free = (await availability(tx, [product.id], now)).get(product.id) ?? null;
  if (free !== null && inCart + input.quantity > free) {
    const w = stepWordsIn(site.row.locale);
    throw conflict(fill(free === 0 ? w.soldOutOf : inCart >= free ? w.allInCart : w.leftOf, { n: free, x: product.name }), { available: free });
  }
  const named = product.openLeast === null ? null : namedAmount(site, input.amount ?? null, product.openLeast);
  const same = rows.find((r) => r.goodsId === product.id && r.placementId === input.placement && r.named === named);
  if (!same && rows.length >= MAX_LINES) throw invalid(`A cart holds at most ${MAX_LINES} different things.`);
  const quantity = (same?.quantity ?? 0) + input.quantity;
  if (quantity > MAX_PIECES) throw invalid(`At most ${MAX_PIECES} of one thing fit into a cart.`);
  if (same) await tx.update(cartLines).set({ quantity }).where(eq(cartLines.id, same.id));
  else await tx.insert(cartLines).values({ id: newId(), cart, goodsId: product.id, quantity, named, placementId: input.placement, page: input.page, addedAt: now });
}

/** What a buyer typed as the amount, in minor units. @throws Refusal when it is no amount, or less than the least. */
function namedAmount(site: Site, typed: string | null, least: number): number {
  const { currency, locale } = site.row;
  const parsed = parseMoney(typed ?? decimalText(least as Minor, currency), currency);
  if (!parsed.ok) throw invalid(parsed.error, { field: 'amount' });
  if (parsed.value < least) throw invalid(`The amount is at least ${formatMoney({ amount: least as Minor, currency }, locale)}.`, { field: 'amount' });
  return parsed.value;
}

/** Sets how many of a line; nought takes it out. More than there is becomes all there is, and the cart says so. */
export async function setQuantity(ctx: Ctx, site: Site, token: string, lineId: string, quantity: number): Promise<CartView> {
  if (!Number.isInteger(quantity) || quantity < 0 || quantity > MAX_PIECES) throw invalid(`Write a number of pieces from 0 to ${MAX_PIECES}.`);
  return ctx.store.write(async (tx) => {
    await mine(tx, site, token);
    const where = and(eq(cartLines.id, lineId), eq(cartLines.cart, token));
    if (quantity === 0) await tx.delete(cartLines).where(where);
    else await tx.update(cartLines).set({ quantity }).where(where);
    return viewOf(tx, site, token, ctx.now());
  });
}

const exists = async (db: Db | Tx, site: Site, token: string): Promise<boolean> =>
  (await db.select({ t: carts.token }).from(carts).where(and(eq(carts.token, token), eq(carts.siteId, site.row.id)))).length > 0;

async function mine(db: Db | Tx, site: Site, token: string): Promise<void> {
  if (!(await exists(db, site, token))) throw missing(stepWordsIn(site.row.locale).cartGone);
}
