import { and, eq, gt, inArray, ne, sql } from 'drizzle-orm';
import { freeOfBundle, mostOf } from '../../core/goods/stock';
import type { Product } from '../../core/goods/product';
import type { Db, Tx } from '../../data/database';
import type { Ctx } from '../context';
import { goods, reservations, variants } from '../../data/schema';
import type { GoodsDetails } from '../../data/schema/goods';

/** Ids asked for in one query; SQLite takes 32,766 parameters. */
const AT_ONCE = 5_000;
const usualRule = { low: null, whenOut: 'refuse', expected: null } as const;

interface Counted {
  readonly id: string;
  readonly stock: number | null;
  readonly gone: boolean;
  readonly details: GoodsDetails;
}

/**
 * Pieces of each variant that a buyer could have now: on hand, less what is held for others who are paying; of a bundle as
 * many as its parts allow. Null where nobody counts. What is not sold any more has none.
 * @param butOrder an order whose own holds do not count against it.
 */
export async function freeOf(db: Db | Tx, ids: readonly string[], now: Date, butOrder = ''): Promise<Map<string, number | null>> {
  return freeAmong(db, await countedOf(db, ids), now, butOrder);
}

async function freeAmong(db: Db | Tx, rows: readonly Counted[], now: Date, butOrder: string): Promise<Map<string, number | null>> {
  const bundles = rows.filter((r) => r.details.kind === 'bundle' && !r.gone);
  const partIds = bundles.flatMap((b) => (b.details.bundle ?? []).map((p) => p.variantId)).filter((id) => !rows.some((r) => r.id === id));
  const all = partIds.length ? [...rows, ...(await countedOf(db, partIds))] : rows;
  const held = await heldOf(db, all.map((r) => r.id), now, butOrder);
  const out = new Map<string, number | null>();
  for (const r of all) out.set(r.id, r.gone ? 0 : r.stock === null ? null : r.stock - (held.get(r.id) ?? 0));
  // Parts that may be sold on do not hold a bundle back.
  const parts = new Map(all.map((r) => [r.id, mostOf(out.get(r.id) ?? null, r.details.stockRule ?? usualRule)]));
  for (const b of bundles) out.set(b.id, freeOfBundle(b.details.bundle ?? [], parts));
  return out;
}

/**
 * The same for products that are known: one small query, since what follows from the product needs no asking. Bundles are
 * asked for with their parts.
 */
export async function freeOfProducts(ctx: Pick<Ctx, 'store' | 'memo' | 'now'>, siteId: string, products: readonly Product[], all: readonly Product[] = products): Promise<ReadonlyMap<string, number | null>> {
  const shelf = ctx.memo?.of(siteId);
  if (!shelf) return askFree(ctx.store.db, products, ctx.now());
  const known = (shelf.get('free') ?? { counts: new Map(), asked: new Set(), misses: 0 }) as Remembered;
  shelf.set('free', known);
  const unknown = products.filter((p) => !known.asked.has(p));
  if (unknown.length === 0) return known.counts;
  // After a few pages of different goods, all of them are asked for: one larger question costs less than many.
  const ask = ++known.misses > MISSES ? all.filter((p) => !known.asked.has(p)) : unknown;
  for (const [id, n] of await askFree(ctx.store.db, ask, ctx.now())) known.counts.set(id, n);
  for (const p of ask) known.asked.add(p);
  return known.counts;
}

interface Remembered {
  readonly counts: Map<string, number | null>;
  readonly asked: Set<Product>;
  misses: number;
}
/** Chosen by hand. */
const MISSES = 3;

async function askFree(db: Db, products: readonly Product[], now: Date): Promise<Map<string, number | null>> {
  const [bundles, single] = [products.filter((p) => p.kind === 'bundle'), products.filter((p) => p.kind !== 'bundle')];
  const ids = single.flatMap((p) => p.variants.map((v) => v.id));
  const [rows, bundled] = await Promise.all([
    // One row of JSON: fetching rows one by one costs more than all the rest.
    ids.length ? db.get<{ free: string }>(sql`SELECT json_group_object(v.id, v.stock - coalesce((SELECT sum(r.quantity) FROM reservations r WHERE r.variant_id = v.id AND r.state = 'held' AND r.expires_at > ${now.getTime()}), 0)) AS free FROM variants v WHERE v.id IN (SELECT value FROM json_each(${JSON.stringify(ids)})) AND v.removed_at IS NULL`) : undefined,
    bundles.length ? freeOf(db, bundles.flatMap((p) => p.variants.map((v) => v.id)), now) : undefined,
  ]);
  const out = new Map(Object.entries(JSON.parse(rows?.free ?? '{}') as Record<string, number | null>));
  for (const [id, free] of bundled ?? []) if (!out.has(id)) out.set(id, free);
  return out;
}

/** The most of each variant that can be bought now: where the owner sells on, there is no limit. */
export async function buyable(db: Db | Tx, ids: readonly string[], now: Date, butOrder = ''): Promise<Map<string, number | null>> {
  const rows = await countedOf(db, ids);
  const free = await freeAmong(db, rows, now, butOrder);
  const rules = new Map(rows.map((r) => [r.id, r.gone ? usualRule : (r.details.stockRule ?? usualRule)]));
  return new Map(ids.map((id) => [id, mostOf(free.has(id) ? (free.get(id) ?? null) : 0, rules.get(id) ?? usualRule)]));
}

async function countedOf(db: Db | Tx, ids: readonly string[]): Promise<Counted[]> {
  const out: Counted[] = [];
  for (let n = 0; n < ids.length; n += AT_ONCE) {
    const rows = await db.select({ id: variants.id, stock: variants.stock, variantGone: variants.removedAt, goodsGone: goods.removedAt, details: goods.details }).from(variants).innerJoin(goods, eq(goods.id, variants.goodsId)).where(inArray(variants.id, ids.slice(n, n + AT_ONCE)));
    out.push(...rows.map((r) => ({ id: r.id, stock: r.stock, gone: r.variantGone !== null || r.goodsGone !== null || r.details.shows === 'hidden', details: r.details })));
  }
  return out;
}

async function heldOf(db: Db | Tx, ids: readonly string[], now: Date, butOrder: string): Promise<Map<string, number>> {
  const out = new Map<string, number>();
  for (let n = 0; n < ids.length; n += AT_ONCE) {
    const rows = await db.select({ id: reservations.variantId, pieces: sql<number>`sum(${reservations.quantity})` }).from(reservations)
      .where(and(inArray(reservations.variantId, ids.slice(n, n + AT_ONCE)), eq(reservations.state, 'held'), gt(reservations.expiresAt, now), ne(reservations.orderId, butOrder)))
      .groupBy(reservations.variantId);
    for (const r of rows) out.set(r.id, r.pieces);
  }
  return out;
}

export interface Pieces {
  readonly goodsId: string;
  readonly variantId: string;
  readonly quantity: number;
}

/** What leaves the shelf for some lines: a bundle is its parts; the same thing from several lines is added up. */
export async function piecesOf(db: Db | Tx, lines: readonly Pieces[]): Promise<Pieces[]> {
  const details = new Map((await db.select({ id: goods.id, details: goods.details }).from(goods).where(inArray(goods.id, [...new Set(lines.map((l) => l.goodsId))]))).map((g) => [g.id, g.details]));
  const out = new Map<string, Pieces>();
  const put = (p: Pieces) => out.set(p.variantId, { ...p, quantity: p.quantity + (out.get(p.variantId)?.quantity ?? 0) });
  for (const l of lines) {
    const d = details.get(l.goodsId);
    if (d?.kind === 'bundle') for (const part of d.bundle) put({ goodsId: part.goodsId, variantId: part.variantId, quantity: part.quantity * l.quantity });
    else put({ goodsId: l.goodsId, variantId: l.variantId, quantity: l.quantity });
  }
  return [...out.values()];
}
