import { and, eq, inArray, max } from 'drizzle-orm';
import { fullPrice, offered, offerRuns } from '../../core/goods/price';
import {
  formOf,
  type Product,
  type ProductForm,
  productFields,
  type Variant,
} from '../../core/goods/product';
import type { Minor } from '../../core/money/minor';
import type { Tx } from '../../data/database';
import {
  goods,
  liveChanges,
  oldSlugs,
  priceHistory,
  sites,
  stockMovements,
  variants,
} from '../../data/schema';
import type { GoodsChange, LiveChangeDetail, MovementReason } from '../../data/schema/goods';
import type { Ctx } from '../context';
import { conflict, missing } from '../errors';
import { apply, changeBetween, invert, rebase } from '../../core/change';
import { canonical, sameJson } from '../../core/json';
import type { Site } from '../sites/site';
import { setCategories } from './categories';
import { detailsOf, productIn } from './catalogue';

/**
 * Every change of goods passes here: it is written, recorded with what undoes it, and the goods' version grows, so that
 * nobody reads yesterday's. Within one write transaction.
 */
export interface Writing {
  readonly ctx: Ctx;
  readonly tx: Tx;
  readonly site: Site;
  readonly by: string;
  readonly now: Date;
  /** The goods' version that this transaction makes. */
  readonly version: number;
}

export async function writing(ctx: Ctx, tx: Tx, site: Site, by: string): Promise<Writing> {
  const [row] = await tx.select({ version: sites.goodsVersion }).from(sites).where(eq(sites.id, site.row.id));
  const version = (row?.version ?? 0) + 1;
  await tx.update(sites).set({ goodsVersion: version }).where(eq(sites.id, site.row.id));
  return { ctx, tx, site, by, now: ctx.now(), version };
}

export async function rowOf(
  { tx, site }: Pick<Writing, 'tx' | 'site'>,
  id: string,
  removedToo = false,
): Promise<typeof goods.$inferSelect> {
  const [row] = await tx
    .select()
    .from(goods)
    .where(and(eq(goods.id, id), eq(goods.siteId, site.row.id)));
  if (!row || (row.removedAt && !removedToo))
    throw missing('This product is gone. It may have been removed in another window.');
  return row;
}

export const record = (w: Writing, detail: LiveChangeDetail) =>
  w.tx.insert(liveChanges).values({ siteId: w.site.row.id, detail, by: w.by, at: w.now });

/** Fields in which two forms differ; variants without their counts, which the ledger keeps. */
export function changesBetween(id: string, before: ProductForm, after: ProductForm): GoodsChange[] {
  return productFields
    .filter((f) => !sameJson(comparable(before, f), comparable(after, f)))
    .map((field) => ({ goodsId: id, field, from: before[field], to: after[field] }));
}
const comparable = (form: ProductForm, field: keyof ProductForm): unknown =>
  field === 'variants' ? withoutCounts(form.variants) : form[field];
const withoutCounts = (variants: readonly { readonly stock?: unknown }[]) =>
  variants.map(({ stock: _, ...v }) => v);
/** Whether two values of a field are the same; of variants without their counts. */
const sameField =
  (field: keyof ProductForm) =>
  (a: unknown, b: unknown): boolean =>
    field === 'variants' && Array.isArray(a) && Array.isArray(b)
      ? sameJson(withoutCounts(a), withoutCounts(b))
      : sameJson(a, b);

/** Writes a form over a product. Variants are told apart by their ids; those that are new begin with the count they name. */
export async function writeForm(w: Writing, id: string, before: Product, after: ProductForm): Promise<void> {
  await w.tx
    .update(goods)
    .set({
      name: after.name,
      slug: after.slug,
      price: after.price,
      details: detailsOf(after),
      version: w.version,
    })
    .where(eq(goods.id, id));
  if (after.slug !== before.slug) {
    await w.tx.delete(oldSlugs).where(and(eq(oldSlugs.siteId, w.site.row.id), eq(oldSlugs.slug, after.slug)));
    await w.tx
      .insert(oldSlugs)
      .values({ siteId: w.site.row.id, slug: before.slug, goodsId: id })
      .onConflictDoUpdate({ target: [oldSlugs.siteId, oldSlugs.slug], set: { goodsId: id } });
  }
  if (!sameJson(after.categories, before.categories))
    await setCategories(w.tx, w.site.row.id, id, after.categories);
  await writeVariants(w, id, after.variants as readonly Variant[]);
  await notePrices(w, id, after, before);
}

async function writeVariants(w: Writing, goodsId: string, wanted: readonly Variant[]): Promise<void> {
  const known = new Map(
    (await w.tx.select().from(variants).where(eq(variants.goodsId, goodsId))).map((v) => [v.id, v]),
  );
  const keep = new Set(wanted.map((v) => v.id));
  const gone = [...known.values()].filter((v) => !keep.has(v.id) && !v.removedAt).map((v) => v.id);
  for (let n = 0; n < gone.length; n += 500)
    await w.tx
      .update(variants)
      .set({ removedAt: w.now })
      .where(inArray(variants.id, gone.slice(n, n + 500)));
  const fresh = wanted.flatMap((v, order) => (known.has(v.id) ? [] : [{ ...v, goodsId, order }]));
  for (let n = 0; n < fresh.length; n += 200) await w.tx.insert(variants).values(fresh.slice(n, n + 200));
  const counted = fresh.flatMap((v) =>
    v.stock ? [{ goodsId, variantId: v.id, delta: v.stock, reason: 'counted' as const, at: w.now }] : [],
  );
  for (let n = 0; n < counted.length; n += 200)
    await w.tx.insert(stockMovements).values(counted.slice(n, n + 200));
  for (const [order, v] of wanted.entries()) {
    const was = known.get(v.id);
    if (!was) continue;
    const { id, stock: _, ...fields } = v;
    const same =
      was.order === order &&
      !was.removedAt &&
      canonical(fields) ===
        canonical({
          values: was.values,
          price: was.price,
          difference: was.difference,
          sku: was.sku,
          gtin: was.gtin,
          weight: was.weight,
          picture: was.picture,
        });
    if (!same)
      await w.tx
        .update(variants)
        .set({ ...fields, order, removedAt: null })
        .where(eq(variants.id, id));
  }
}

type Priced = Pick<ProductForm, 'price' | 'offer'> & {
  readonly variants: readonly (Pick<Variant, 'price' | 'difference'> & {
    readonly id?: string | undefined;
  })[];
};

const costs = (form: Priced, v: Pick<Variant, 'price' | 'difference'>, at: number): Minor => {
  const full = fullPrice(form, v);
  return offerRuns(form.offer, at) ? offered(full, form.offer) : full;
};

/** What each variant costs from now on, where that differs from before; an offer with dates is worked out from them when it is asked for. */
export function pricesFrom(
  goodsId: string,
  after: Priced,
  now: Date,
  before?: Priced,
): (typeof priceHistory.$inferInsert)[] {
  const at = now.getTime();
  const known = new Map((before?.variants ?? []).map((v) => [v.id ?? '', costs(before as Priced, v, at)]));
  return after.variants.flatMap((v) =>
    v.id && known.get(v.id) !== costs(after, v, at)
      ? [{ goodsId, variantId: v.id, price: costs(after, v, at), at: now }]
      : [],
  );
}

/**
 * An offer with dates began and ended by the clock, with nobody writing it down. Before it is changed, what it was is written
 * into the history: the lowest price of thirty days must know of it.
 */
async function offerPoints(
  w: Writing,
  goodsId: string,
  before: Priced,
): Promise<(typeof priceHistory.$inferInsert)[]> {
  const { offer } = before;
  if (!offer?.from && !offer?.until) return [];
  const known = new Map(
    (
      await w.tx
        .select({ id: priceHistory.variantId, at: max(priceHistory.at) })
        .from(priceHistory)
        .where(eq(priceHistory.goodsId, goodsId))
        .groupBy(priceHistory.variantId)
    ).map((r) => [r.id, r.at?.getTime() ?? 0]),
  );
  const turns = [offer.from, offer.until].flatMap((iso) =>
    iso && Date.parse(iso) <= w.now.getTime() ? [Date.parse(iso)] : [],
  );
  return before.variants.flatMap((v) =>
    turns.flatMap((at) =>
      v.id && at > (known.get(v.id) ?? 0)
        ? [{ goodsId, variantId: v.id, price: costs(before, v, at), at: new Date(at) }]
        : [],
    ),
  );
}

async function notePrices(w: Writing, goodsId: string, after: Priced, before: Priced): Promise<void> {
  const rows = [...(await offerPoints(w, goodsId, before)), ...pricesFrom(goodsId, after, w.now, before)];
  for (let n = 0; n < rows.length; n += 200) await w.tx.insert(priceHistory).values(rows.slice(n, n + 200));
}

/**
 * Moves the count of a variant by what the owner saw and wrote: sales in between stay. From or to "nobody counts" the count
 * is set.
 */
export async function moveStock(
  w: Writing,
  goodsId: string,
  variantId: string,
  from: number | null,
  to: number | null,
  reason: MovementReason,
  note = '',
): Promise<GoodsChange | undefined> {
  const [row] = await w.tx
    .select({ stock: variants.stock })
    .from(variants)
    .where(and(eq(variants.id, variantId), eq(variants.goodsId, goodsId)));
  if (!row) throw missing('This variant is gone. It may have been removed in another window.');
  const now = from === null || to === null || row.stock === null ? to : row.stock + to - from;
  if (now === row.stock) return undefined;
  if (now !== null && now < 0)
    throw conflict(`So many were sold meanwhile that this would leave ${now}. Look at the count again.`, {
      field: 'stock',
    });
  await w.tx.update(variants).set({ stock: now }).where(eq(variants.id, variantId));
  await w.tx.update(goods).set({ version: w.version }).where(eq(goods.id, goodsId));
  await w.tx
    .insert(stockMovements)
    .values({ goodsId, variantId, delta: (now ?? 0) - (row.stock ?? 0), reason, note, at: w.now });
  return { goodsId, variantId, field: 'stock', from: row.stock, to: now };
}

/** Takes many back, the last first; goods that were added or removed together go or come together. */
export async function takeAllBack(w: Writing, changes: readonly GoodsChange[]): Promise<void> {
  for (const field of ['added', 'removed'] as const) {
    const ids = changes.filter((c) => c.field === field).map((c) => c.goodsId);
    for (let n = 0; n < ids.length; n += 500) {
      await w.tx
        .update(goods)
        .set({ removedAt: field === 'added' ? w.now : null, version: w.version })
        .where(and(eq(goods.siteId, w.site.row.id), inArray(goods.id, ids.slice(n, n + 500))));
    }
  }
  for (const c of [...changes].reverse())
    if (c.field !== 'added' && c.field !== 'removed') await takeBack(w, c);
}

/** Takes one change back, when nothing later stands on it. */
async function takeBack(w: Writing, c: GoodsChange): Promise<void> {
  const row = await rowOf(w, c.goodsId, true);
  if (c.field === 'added' || c.field === 'removed') throw new Error('taken back with all of their kind');
  if (c.field === 'stock') return takeStockBack(w, c);
  if (c.field === 'order') {
    if (row.order !== c.to) throw conflict('The order was changed again since. Undo the later change first.');
    await w.tx
      .update(goods)
      .set({ order: Number(c.from), version: w.version })
      .where(eq(goods.id, c.goodsId));
    return;
  }
  const now = await productIn(w.tx, w.site.row.id, row);
  const form = formOf(now);
  const { field } = c;
  const change = changeBetween({ [field]: c.from }, { [field]: c.to }, () => false);
  const back = rebase(invert(change), { [field]: form[field] }, sameField(field));
  if (!back.ok) throw conflict(`${row.name} was changed again since. Undo the later change first.`);
  await writeForm(w, c.goodsId, now, { ...form, ...apply({ [field]: form[field] }, back.value) });
}

async function takeStockBack(w: Writing, c: GoodsChange): Promise<void> {
  const [from, to] = [c.from as number | null, c.to as number | null];
  const [row] = await w.tx
    .select({ stock: variants.stock })
    .from(variants)
    .where(eq(variants.id, c.variantId ?? ''));
  if (!row) throw missing('This variant is gone.');
  if ((from === null || to === null || row.stock === null) && row.stock !== to)
    throw conflict('Pieces were sold or counted since. Set the stock by hand.');
  const stock = from === null || to === null || row.stock === null ? from : row.stock - to + from;
  if (stock !== null && stock < 0)
    throw conflict(`So many were sold since that undoing would leave ${stock}. Set the stock by hand.`);
  await w.tx
    .update(variants)
    .set({ stock })
    .where(eq(variants.id, c.variantId ?? ''));
  await w.tx.update(goods).set({ version: w.version }).where(eq(goods.id, c.goodsId));
  await w.tx.insert(stockMovements).values({
    goodsId: c.goodsId,
    variantId: c.variantId ?? '',
    delta: (stock ?? 0) - (row.stock ?? 0),
    reason: 'undone',
    at: w.now,
  });
}
