import { inArray, sql } from 'drizzle-orm';
import { freeOfBundle, mostOf } from '../../core/goods/stock';
import type { Product } from '../../core/goods/product';
import type { Db, Tx } from '../../data/database';
import { keep, many } from '../../data/kept-queries';
import { goods, reservations, variants } from '../../data/schema';
import type { Ctx } from '../context';
import type { Catalogue } from './catalogue';

/** Pieces of something that is sold: what leaves the shelf for a line, or is asked after. */
export interface Pieces {
  readonly goodsId: string;
  readonly variantId: string;
  readonly quantity: number;
}

/** A moment at which counts are asked for, and the goods as they are then. */
export interface Moment {
  readonly db: Db | Tx;
  readonly now: Date;
  readonly goods: Catalogue;
}

/** What is on hand and what others who are paying hold of it, by variant. */
const onHand = keep(
  { ids: many(variants.id), now: reservations.expiresAt, butOrder: reservations.orderId },
  (q, { ids, now, butOrder }) =>
    q
      .select({
        id: variants.id,
        stock: variants.stock,
        held: sql<number>`coalesce((select sum(r.quantity) from reservations r where r.variant_id = variants.id and r.state = 'held' and r.expires_at > ${now} and r.order_id <> ${butOrder}), 0)`,
      })
      .from(variants)
      .where(sql`${variants.id} in ${ids}`),
);

/**
 * Pieces of each variant that a buyer could have now: on hand, less what is held for others who are paying; of a bundle as
 * many as its parts allow. Null where nobody counts. What is not sold any more has none.
 * @param butOrder an order whose own holds do not count against it.
 */
export async function freeOf(
  at: Moment,
  wanted: readonly Omit<Pieces, 'quantity'>[],
  butOrder = '',
): Promise<Map<string, number | null>> {
  const asked = new Map<string, Product | undefined>();
  for (const w of wanted) asked.set(w.variantId, soldNow(at.goods, w));
  const bundles = [...asked].flatMap(([id, p]) => (p?.kind === 'bundle' ? [{ id, parts: p.bundle }] : []));
  const parts = new Map(
    bundles.flatMap((b) => b.parts.map((p) => [p.variantId, soldNow(at.goods, p)] as const)),
  );
  const rows = await onHand(at.db, {
    ids: [...new Set([...asked.keys(), ...parts.keys()])],
    now: at.now,
    butOrder,
  });
  const left = new Map(rows.map((r) => [r.id, r.stock === null ? null : r.stock - r.held]));
  const freeNow = (id: string, product: Product | undefined): number | null =>
    product && left.has(id) ? (left.get(id) ?? null) : 0;
  const out = new Map([...asked].map(([id, product]) => [id, freeNow(id, product)]));
  // Parts that may be sold on do not hold a bundle back.
  const ofParts = new Map(
    [...parts].map(([id, product]) => [id, product ? mostOf(freeNow(id, product), product.stockRule) : 0]),
  );
  for (const b of bundles) out.set(b.id, freeOfBundle(b.parts, ofParts));
  return out;
}

/** The product of a choice, while both are sold. */
export function soldNow(
  goods: Catalogue,
  { goodsId, variantId }: Omit<Pieces, 'quantity'>,
): Product | undefined {
  const product = goods.byId.get(goodsId);
  return product && product.shows !== 'hidden' && product.variants.some((v) => v.id === variantId)
    ? product
    : undefined;
}

/** The most of each variant that can be bought now: where the owner sells on, there is no limit. */
export async function buyable(
  at: Moment,
  wanted: readonly Omit<Pieces, 'quantity'>[],
  butOrder = '',
): Promise<Map<string, number | null>> {
  const free = await freeOf(at, wanted, butOrder);
  return new Map(
    wanted.map((w) => {
      const product = soldNow(at.goods, w);
      return [w.variantId, product ? mostOf(free.get(w.variantId) ?? null, product.stockRule) : 0];
    }),
  );
}

/**
 * The same for many products: one small query, remembered for a moment. Bundles are asked for with their parts.
 */
export async function freeOfProducts(
  ctx: Pick<Ctx, 'store' | 'memo' | 'now'>,
  siteId: string,
  products: readonly Product[],
  goods: Catalogue,
): Promise<ReadonlyMap<string, number | null>> {
  const at = { db: ctx.store.db, now: ctx.now(), goods };
  const shelf = ctx.memo?.of(siteId);
  if (!shelf) return askFree(at, products);
  const known = (shelf.get('free') ?? { counts: new Map(), asked: new Set(), misses: 0 }) as Remembered;
  shelf.set('free', known);
  const unknown = products.filter((p) => !known.asked.has(p));
  if (unknown.length === 0) return known.counts;
  // After a few pages of different goods, all of them are asked for: one larger question costs less than many.
  const ask = ++known.misses > MISSES ? goods.all.filter((p) => !known.asked.has(p)) : unknown;
  for (const [id, n] of await askFree(at, ask)) known.counts.set(id, n);
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

async function askFree(
  at: Moment & { readonly db: Db },
  products: readonly Product[],
): Promise<Map<string, number | null>> {
  const [bundles, single] = [
    products.filter((p) => p.kind === 'bundle'),
    products.filter((p) => p.kind !== 'bundle'),
  ];
  const ids = single.flatMap((p) => p.variants.map((v) => v.id));
  const [rows, bundled] = await Promise.all([
    // One row of JSON: fetching rows one by one costs more than all the rest.
    ids.length
      ? at.db.get<{ free: string }>(
          sql`SELECT json_group_object(v.id, v.stock - coalesce((SELECT sum(r.quantity) FROM reservations r WHERE r.variant_id = v.id AND r.state = 'held' AND r.expires_at > ${at.now.getTime()}), 0)) AS free FROM variants v WHERE v.id IN (SELECT value FROM json_each(${JSON.stringify(ids)})) AND v.removed_at IS NULL`,
        )
      : undefined,
    bundles.length
      ? freeOf(
          at,
          bundles.flatMap((p) => p.variants.map((v) => ({ goodsId: p.id, variantId: v.id }))),
        )
      : undefined,
  ]);
  const out = new Map(Object.entries(JSON.parse(rows?.free ?? '{}') as Record<string, number | null>));
  for (const [id, free] of bundled ?? []) if (!out.has(id)) out.set(id, free);
  return out;
}

/** What leaves the shelf for some lines: a bundle is its parts; the same thing from several lines is added up. */
export function piecesIn(
  lines: readonly Pieces[],
  partsOf: (goodsId: string) => readonly Pieces[] | undefined,
): Pieces[] {
  const out = new Map<string, Pieces>();
  const put = (p: Pieces) =>
    out.set(p.variantId, { ...p, quantity: p.quantity + (out.get(p.variantId)?.quantity ?? 0) });
  for (const { goodsId, variantId, quantity } of lines) {
    const parts = partsOf(goodsId);
    if (parts)
      for (const part of parts)
        put({ goodsId: part.goodsId, variantId: part.variantId, quantity: part.quantity * quantity });
    else put({ goodsId, variantId, quantity });
  }
  return [...out.values()];
}

/** The parts of a bundle that is sold. */
export const partsIn =
  (goods: Catalogue) =>
  (goodsId: string): readonly Pieces[] | undefined => {
    const product = goods.byId.get(goodsId);
    return product?.kind === 'bundle' ? product.bundle : undefined;
  };

/** {@link piecesIn} for lines of before, whose products may not be sold any more. */
export async function piecesOf(db: Db | Tx, lines: readonly Pieces[]): Promise<Pieces[]> {
  const details = new Map(
    (
      await db
        .select({ id: goods.id, details: goods.details })
        .from(goods)
        .where(inArray(goods.id, [...new Set(lines.map((l) => l.goodsId))]))
    ).map((g) => [g.id, g.details]),
  );
  return piecesIn(lines, (id) => (details.get(id)?.kind === 'bundle' ? details.get(id)?.bundle : undefined));
}
