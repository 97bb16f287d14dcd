import { and, asc, desc, eq, inArray, isNull, max, sql } from 'drizzle-orm';
import { z } from 'zod';
import {
  formFaults,
  formOf,
  type Product,
  productFields,
  type ProductForm,
  productInput,
  type ProductInput,
  slugOf,
  type Variant,
} from '../../core/goods/product';
import {
  goods,
  goodsCategories,
  liveChanges,
  oldSlugs,
  priceHistory,
  stockMovements,
  variants,
} from '../../data/schema';
import { type GoodsChange, movementReasons } from '../../data/schema/goods';
import type { Tx } from '../../data/database';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import { newId } from '../ids';
import { liveChange } from './live-change';
import type { Site } from '../sites/site';
import { catalogueOf, detailsOf, productIn } from './catalogue';
import { categoryIds } from './categories';
import { takeTreeBack } from './category-tree';
import { takeRulesBack } from '../rules/rules';
import {
  changesBetween,
  moveStock,
  pricesFrom,
  record,
  rowOf,
  takeAllBack,
  type Writing,
  writeForm,
  writing,
} from './changes';
import { richText } from './rich-text';

/** All goods in the owner's order, with today's counts. */
export async function listGoods(ctx: Ctx, siteId: string): Promise<Product[]> {
  const { all } = await catalogueOf(ctx, siteId);
  const rows = await ctx.store.db
    .select({ id: variants.id, stock: variants.stock })
    .from(variants)
    .innerJoin(goods, eq(goods.id, variants.goodsId))
    .where(and(eq(goods.siteId, siteId), isNull(goods.removedAt)));
  const stock = new Map(rows.map((r) => [r.id, r.stock]));
  return all.map((p) =>
    p.variants.every((v) => stock.get(v.id) === v.stock)
      ? p
      : { ...p, variants: p.variants.map((v) => ({ ...v, stock: stock.get(v.id) ?? null })) },
  );
}

/** Checks what came from a form or a program; the first thing wrong is said in words, with the field to look at. */
export function parseProduct(input: unknown): ProductForm {
  const parsed = productInput.safeParse(input);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    throw invalid(issue?.message ?? 'This product cannot be kept.', {
      field: String(issue?.path[0] ?? ''),
      path: issue?.path,
    });
  }
  const form = {
    ...parsed.data,
    description: richText(parsed.data.description),
    sections: parsed.data.sections.map((s) => ({ ...s, text: richText(s.text) })),
    downloads: {
      ...parsed.data.downloads,
      releases: parsed.data.downloads.releases.map((r) => ({ ...r, notes: richText(r.notes) })),
    },
  };
  const fault = formFaults(form);
  if (fault) throw invalid(fault.message, { field: fault.field });
  return form;
}

/** Every address in use: of goods that were removed too, so that undoing brings them back to their own. */
export const slugsIn = async (tx: Tx, siteId: string): Promise<Set<string>> =>
  new Set(
    (await tx.select({ slug: goods.slug }).from(goods).where(eq(goods.siteId, siteId))).map((g) => g.slug),
  );

export async function addProduct(ctx: Ctx, site: Site, asked: ProductInput, by: string): Promise<Product> {
  const form = parseProduct(asked);
  const made = await ctx.store.write(async (tx) => {
    const w = await writing(ctx, tx, site, by);
    const [id = ''] = await insertProducts(w, [form], await slugsIn(tx, site.row.id));
    await record(w, { goodsId: id, field: 'added', from: null, to: null });
    return productIn(tx, site.row.id, await rowOf(w, id));
  });
  ctx.changed(site.row.id);
  return made;
}

/** Rows written with one statement: SQLite takes 32,766 parameters. */
const AT_ONCE = 400;

/** Puts products in, in their order, after those that are there. Many cost hardly more than one. @param taken addresses in use; new ones join them. */
export async function insertProducts(
  w: Writing,
  forms: readonly ProductForm[],
  taken: Set<string>,
): Promise<string[]> {
  const { tx, site } = w;
  const [last] = await tx
    .select({ order: max(goods.order) })
    .from(goods)
    .where(eq(goods.siteId, site.row.id));
  const made = forms.map((form, n) => {
    const slug =
      form.slug && !taken.has(form.slug) ? form.slug : slugOf(form.slug || form.name, (s) => taken.has(s));
    taken.add(slug);
    return {
      id: newId(),
      slug,
      form,
      order: (last?.order ?? 0) + 1 + n,
      own: form.variants.map((v): Variant => ({ ...v, id: newId() })),
    };
  });
  const all = async <T>(rows: readonly T[], insert: (some: T[]) => Promise<unknown>) => {
    for (let n = 0; n < rows.length; n += AT_ONCE) await insert(rows.slice(n, n + AT_ONCE));
  };
  await all(made, (some) =>
    tx.insert(goods).values(
      some.map((m) => ({
        id: m.id,
        siteId: site.row.id,
        slug: m.slug,
        name: m.form.name,
        price: m.form.price,
        details: detailsOf(m.form),
        order: m.order,
        version: w.version,
        createdAt: w.now,
      })),
    ),
  );
  await all(made, (some) =>
    tx.delete(oldSlugs).where(
      and(
        eq(oldSlugs.siteId, site.row.id),
        inArray(
          oldSlugs.slug,
          some.map((m) => m.slug),
        ),
      ),
    ),
  );
  await all(
    made.flatMap((m) => m.own.map((v, order) => ({ ...v, goodsId: m.id, order }))),
    (some) => tx.insert(variants).values(some),
  );
  await all(
    made.flatMap((m) =>
      m.own.flatMap((v) =>
        v.stock
          ? [{ goodsId: m.id, variantId: v.id, delta: v.stock, reason: 'counted' as const, at: w.now }]
          : [],
      ),
    ),
    (some) => tx.insert(stockMovements).values(some),
  );
  await all(
    made.flatMap((m) => pricesFrom(m.id, { ...m.form, variants: m.own }, w.now)),
    (some) => tx.insert(priceHistory).values(some),
  );
  const idOf = await categoryIds(
    tx,
    site.row.id,
    made.flatMap((m) => m.form.categories),
  );
  await all(
    made.flatMap((m) =>
      [...new Set(m.form.categories.flatMap((c) => idOf.get(c) ?? []))].map((categoryId) => ({
        goodsId: m.id,
        categoryId,
      })),
    ),
    (some) => tx.insert(goodsCategories).values(some),
  );
  return made.map((m) => m.id);
}

const count = z.object({
  variantId: z.string(),
  from: z.number().int().nullable(),
  to: z
    .number('Count whole pieces.')
    .int('Count whole pieces.')
    .min(0, 'Stock is not below nought.')
    .max(10_000_000)
    .nullable(),
  reason: z.enum(movementReasons).default('counted'),
  note: z.string().max(200).default(''),
});
/** Fields that changed, and counts as they were seen and written. */
export const productPatch = z.object({
  fields: z.record(z.string(), z.unknown()).default({}),
  counts: z.array(count).max(2_000).default([]),
});
export type ProductPatch = z.input<typeof productPatch>;

/** Whether a patch changes how much there is, and nothing else. */
export function countsOnly(input: unknown): boolean {
  const read = productPatch.safeParse(input);
  return read.success && Object.keys(read.data.fields).length === 0;
}

/** Fields that make sense only together are one line on the slip, and one undo. */
const together: readonly (readonly (keyof ProductForm)[])[] = [
  ['options', 'variants'],
  ['offer', 'was'],
  ['kind', 'event', 'bundle', 'link', 'every', 'voucherMonths', 'downloads'],
  ['openLeast', 'openSuggestions', 'price'],
];

/** Saves what changed of a product: each field a live change with its own undo, counts moved by what was seen and written. */
export async function saveProduct(
  ctx: Ctx,
  site: Site,
  id: string,
  asked: unknown,
  by: string,
): Promise<Product> {
  const patch = parsePatch(asked);
  const saved = await ctx.store.write(async (tx) => {
    const w = await writing(ctx, tx, site, by);
    for (const change of await patchProduct(w, id, patch)) await record(w, change);
    return productIn(tx, site.row.id, await rowOf(w, id));
  });
  ctx.changed(site.row.id);
  return saved;
}

function parsePatch(asked: unknown): z.output<typeof productPatch> {
  const parsed = productPatch.safeParse(asked);
  if (!parsed.success)
    throw invalid(parsed.error.issues[0]?.message ?? 'This cannot be kept.', {
      field: parsed.error.issues[0]?.path[0] === 'counts' ? 'stock' : undefined,
    });
  const unknown = Object.keys(parsed.data.fields).find(
    (f) => !productFields.includes(f as keyof ProductForm),
  );
  if (unknown) throw invalid(`A product has no field "${unknown}".`);
  return parsed.data;
}

/** Writes a patch within a transaction. @returns what changed, to be recorded. */
export async function patchProduct(
  w: Writing,
  id: string,
  { fields, counts }: z.output<typeof productPatch>,
): Promise<(GoodsChange | { act: string; changes: GoodsChange[] })[]> {
  const before = await productIn(w.tx, w.site.row.id, await rowOf(w, id));
  const form = parseProduct({ ...formOf(before), ...fields });
  const known = new Set(before.variants.map((v) => v.id));
  const after = {
    ...form,
    slug: await freeSlug(w, id, form.slug || before.slug, before.slug),
    variants: form.variants.map((v) => ({ ...v, id: v.id && known.has(v.id) ? v.id : newId() })),
  };
  const changes = changesBetween(id, formOf(before), after);
  if (changes.length) await writeForm(w, id, before, after);
  const moved: GoodsChange[] = [];
  for (const c of counts) {
    const change = await moveStock(w, id, c.variantId, c.from, c.to, c.reason, c.note);
    if (change) moved.push(change);
  }
  return [
    ...grouped(changes),
    ...(moved.length > 3 ? [{ act: `Stock of ${moved.length} variants`, changes: moved }] : moved),
  ];
}

function grouped(changes: readonly GoodsChange[]): (GoodsChange | { act: string; changes: GoodsChange[] })[] {
  const left = [...changes];
  const out: (GoodsChange | { act: string; changes: GoodsChange[] })[] = [];
  for (const group of together) {
    const own = left.filter((c) => group.includes(c.field as keyof ProductForm));
    if (own.length < 2) continue;
    for (const c of own) left.splice(left.indexOf(c), 1);
    out.push({
      act:
        { options: 'Options', offer: 'Offer', kind: 'Kind', openLeast: 'Amount named by the buyer' }[
          group[0] as 'options'
        ] ?? 'Changed',
      changes: own,
    });
  }
  return [...left, ...out];
}

async function freeSlug(w: Writing, id: string, wanted: string, was: string): Promise<string> {
  if (wanted === was) return was;
  const [other] = await w.tx
    .select({ id: goods.id, name: goods.name })
    .from(goods)
    .where(and(eq(goods.siteId, w.site.row.id), eq(goods.slug, wanted)));
  if (other && other.id !== id)
    throw conflict(`${other.name} has the address /${wanted} already. Choose another.`, { field: 'slug' });
  return wanted;
}

/** A product again, hidden until the owner has looked at it; counts begin at nought where they are counted. */
export async function duplicateProduct(ctx: Ctx, site: Site, id: string, by: string): Promise<Product> {
  const of = (await catalogueOf(ctx, site.row.id)).byId.get(id);
  if (!of) throw invalid('This product is gone.');
  const form = formOf(of);
  return addProduct(
    ctx,
    site,
    {
      ...form,
      name: `${form.name} (copy)`.slice(0, 140),
      slug: '',
      shows: 'hidden',
      variants: form.variants.map(({ id: _, ...v }) => ({
        ...v,
        sku: '',
        gtin: '',
        stock: v.stock === null ? null : 0,
      })),
    },
    by,
  );
}

export async function removeProduct(ctx: Ctx, site: Site, id: string, by: string): Promise<void> {
  await ctx.store.write(async (tx) => {
    const w = await writing(ctx, tx, site, by);
    await rowOf(w, id);
    await tx.update(goods).set({ removedAt: w.now, version: w.version }).where(eq(goods.id, id));
    await record(w, { goodsId: id, field: 'removed', from: null, to: null });
  });
  ctx.changed(site.row.id);
}

/** Undoes one live change, or all of one act, when nothing later stands on it. */
export async function undoLive(ctx: Ctx, site: Site, changeId: number, by: string): Promise<void> {
  const change = await liveChange(ctx, site, changeId);
  await ctx.store.write(async (tx) => {
    const w = await writing(ctx, tx, site, by);
    const { detail } = change;
    await takeAllBack(w, 'act' in detail ? detail.changes : [detail]);
    if ('act' in detail && detail.tree) await takeTreeBack(w, detail.tree);
    if ('act' in detail && detail.till) await takeRulesBack(ctx, tx, site.row.id, detail.till);
    await tx.update(liveChanges).set({ undoneAt: ctx.now() }).where(eq(liveChanges.id, changeId));
  });
  ctx.log.info({ changeId, by }, 'live change undone');
  ctx.changed(site.row.id);
}

/** Puts a product before another, or last. One line on the slip. */
export async function moveProduct(
  ctx: Ctx,
  site: Site,
  id: string,
  before: string | null,
  by: string,
): Promise<void> {
  await ctx.store.write(async (tx) => {
    const w = await writing(ctx, tx, site, by);
    const rows = await tx
      .select({ id: goods.id, order: goods.order })
      .from(goods)
      .where(and(eq(goods.siteId, site.row.id), isNull(goods.removedAt)))
      .orderBy(asc(goods.order));
    const left = rows.filter((r) => r.id !== id);
    if (left.length === rows.length) throw invalid('This product is gone.');
    const at = before === null ? left.length : left.findIndex((r) => r.id === before);
    const wanted = [
      ...left.slice(0, at < 0 ? left.length : at).map((r) => r.id),
      id,
      ...left.slice(at < 0 ? left.length : at).map((r) => r.id),
    ];
    const was = new Map(rows.map((r) => [r.id, r.order]));
    const changes = wanted.flatMap((g, n): GoodsChange[] =>
      was.get(g) === n + 1 ? [] : [{ goodsId: g, field: 'order', from: was.get(g), to: n + 1 }],
    );
    for (const c of changes)
      await tx
        .update(goods)
        .set({ order: Number(c.to), version: w.version })
        .where(eq(goods.id, c.goodsId));
    if (changes.length) await record(w, { act: 'Order', changes });
  });
  ctx.changed(site.row.id);
}

/** The ledger of a product, newest first. */
/** A movement of stock: when, how many, why. */
export type Movement = typeof stockMovements.$inferSelect;

export const movementsOf = async (ctx: Ctx, goodsId: string): Promise<Movement[]> =>
  ctx.store.db
    .select()
    .from(stockMovements)
    .where(eq(stockMovements.goodsId, goodsId))
    .orderBy(desc(stockMovements.id))
    .limit(200);

/** What the stock of a variant is the sum of; for checks and tests. */
export const ledgerSum = async (ctx: Ctx, variantId: string): Promise<number> =>
  (
    await ctx.store.db
      .select({ sum: sql<number>`coalesce(sum(${stockMovements.delta}), 0)` })
      .from(stockMovements)
      .where(eq(stockMovements.variantId, variantId))
  )[0]?.sum ?? 0;
