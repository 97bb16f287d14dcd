import type { z } from 'zod';
import { and, asc, desc, eq, isNull, max, sql } from 'drizzle-orm';
import { type Product, type ProductInput, productInput, slugOf } from '../../core/goods/product';
import type { Minor } from '../../core/money/minor';
import { goods, liveChanges, stockMovements } from '../../data/schema';
import type { LiveChangeDetail } from '../../data/schema/goods';
import type { Tx } from '../../data/database';
import type { Ctx } from '../context';
import { conflict, invalid, missing } from '../errors';
import { newId } from '../ids';
import { liveChange } from '../sites/slip';
import { categoriesOfGoods, setCategories } from './categories';
import type { Site } from '../sites/site';

type Row = typeof goods.$inferSelect;

export const toProduct = (r: Row, categories: readonly string[]): Product => ({
  id: r.id, slug: r.slug, name: r.name, description: r.description, price: r.price as Minor, was: r.was as Minor | null, openLeast: r.openLeast as Minor | null,
  categories, addedAt: r.createdAt.getTime(), stock: r.stock, picture: r.picture, pictureAlt: r.pictureAlt,
});

export async function listGoods(ctx: Ctx, siteId: string): Promise<Product[]> {
  const [rows, within] = await Promise.all([
    ctx.store.db.select().from(goods).where(and(eq(goods.siteId, siteId), isNull(goods.removedAt))).orderBy(asc(goods.order)),
    categoriesOfGoods(ctx.store.db, siteId),
  ]);
  return rows.map((r) => toProduct(r, within.get(r.id) ?? []));
}

const asProduct = async (tx: Tx, site: Site, row: Row): Promise<Product> => toProduct(row, (await categoriesOfGoods(tx, site.row.id)).get(row.id) ?? []);

/** Checks what came from a form or a program; the first thing wrong is said in words. */
export function parseProduct(input: unknown): z.output<typeof productInput> {
  const parsed = productInput.safeParse(input);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    throw invalid(issue?.message ?? 'This product cannot be kept.', { field: issue?.path[0] });
  }
  return parsed.data;
}

export async function addProduct(ctx: Ctx, site: Site, asked: ProductInput, by: string): Promise<Product> {
  const id = newId();
  const { categories, ...input } = parseProduct(asked);
  const made = await ctx.store.write(async (tx) => {
    const taken = new Set((await tx.select({ slug: goods.slug }).from(goods).where(eq(goods.siteId, site.row.id))).map((g) => g.slug));
    const [last] = await tx.select({ order: max(goods.order) }).from(goods).where(eq(goods.siteId, site.row.id));
    const [row] = await tx.insert(goods).values({
      ...input, id, siteId: site.row.id, slug: slugOf(input.name, (s) => taken.has(s)), picture: null, order: (last?.order ?? 0) + 1, createdAt: ctx.now(),
    }).returning();
    if (input.stock !== null) await tx.insert(stockMovements).values({ goodsId: id, delta: input.stock, reason: 'counted', at: ctx.now() });
    await setCategories(tx, site.row.id, id, categories);
    await note(ctx, tx, site, by, { goodsId: id, field: 'added', from: null, to: null });
    return asProduct(tx, site, row as Row);
  });
  ctx.changed(site.row.id);
  return made;
}

const fields = ['name', 'description', 'price', 'was', 'openLeast', 'pictureAlt', 'stock'] as const;

/** Saves what changed of a product; each field is a live change with its own undo. */
export async function saveProduct(ctx: Ctx, site: Site, id: string, asked: ProductInput, by: string): Promise<Product> {
  const input = parseProduct(asked);
  const saved = await ctx.store.write(async (tx) => {
    const before = await mine(tx, site, id);
    for (const field of fields) {
      if (before[field] !== input[field]) await set(ctx, tx, site, by, { goodsId: id, field, from: before[field], to: input[field] }, 'counted');
    }
    const old = (await asProduct(tx, site, before)).categories;
    if (JSON.stringify(old) !== JSON.stringify(input.categories)) {
      await setCategories(tx, site.row.id, id, input.categories);
      await note(ctx, tx, site, by, { goodsId: id, field: 'categories', from: JSON.stringify(old), to: JSON.stringify(input.categories) });
    }
    return asProduct(tx, site, await mine(tx, site, id));
  });
  ctx.changed(site.row.id);
  return saved;
}

export async function setPicture(ctx: Ctx, site: Site, id: string, hash: string | null, by: string): Promise<Product> {
  const saved = await ctx.store.write(async (tx) => {
    const before = await mine(tx, site, id);
    // The picture that comes with a new product is part of adding it: one line on the slip, one undo.
    const [last] = await tx.select().from(liveChanges).where(eq(liveChanges.siteId, site.row.id)).orderBy(desc(liveChanges.id)).limit(1);
    const isNew = before.picture === null && last?.detail.goodsId === id && last.detail.field === 'added';
    if (isNew) await tx.update(goods).set({ picture: hash }).where(eq(goods.id, id));
    else if (before.picture !== hash) await set(ctx, tx, site, by, { goodsId: id, field: 'picture', from: before.picture, to: hash }, 'counted');
    return asProduct(tx, site, await mine(tx, site, id));
  });
  ctx.changed(site.row.id);
  return saved;
}

export async function removeProduct(ctx: Ctx, site: Site, id: string, by: string): Promise<void> {
  await ctx.store.write(async (tx) => {
    await mine(tx, site, id);
    await tx.update(goods).set({ removedAt: ctx.now() }).where(eq(goods.id, id));
    await note(ctx, tx, site, by, { goodsId: id, field: 'removed', from: null, to: null });
  });
  ctx.changed(site.row.id);
}

/** Undoes one live change, when nothing later stands on it. Stock is moved back by its difference: sales since then stay. */
export async function undoLive(ctx: Ctx, site: Site, changeId: number, by: string): Promise<void> {
  const change = await liveChange(ctx, site, changeId);
  const { goodsId, field, from, to } = change.detail;
  await ctx.store.write(async (tx) => {
    const [row] = await tx.select().from(goods).where(and(eq(goods.id, goodsId), eq(goods.siteId, site.row.id)));
    if (!row) throw missing('The product is gone.');
    if (field === 'added') await tx.update(goods).set({ removedAt: ctx.now() }).where(eq(goods.id, goodsId));
    else if (field === 'removed') await tx.update(goods).set({ removedAt: null }).where(eq(goods.id, goodsId));
    else if (field === 'categories') {
      if (JSON.stringify((await asProduct(tx, site, row)).categories) !== to) throw conflict('The categories were changed again since. Undo the later change first.');
      await setCategories(tx, site.row.id, goodsId, JSON.parse(String(from)) as string[]);
    } else if (field === 'stock') await moveBack(ctx, tx, row, from as number | null, to as number | null);
    else {
      if (row[field] !== to) throw conflict('This was changed again since. Undo the later change first.');
      await tx.update(goods).set({ [field]: from }).where(eq(goods.id, goodsId));
    }
    await tx.update(liveChanges).set({ undoneAt: ctx.now() }).where(eq(liveChanges.id, changeId));
  });
  ctx.log.info({ changeId, by }, 'live change undone');
  ctx.changed(site.row.id);
}

async function moveBack(ctx: Ctx, tx: Tx, row: Row, from: number | null, to: number | null): Promise<void> {
  if (from === null || to === null || row.stock === null) {
    if (row.stock !== to) throw conflict('Pieces were sold or counted since. Set the stock by hand.');
    await tx.update(goods).set({ stock: from }).where(eq(goods.id, row.id));
    return;
  }
  const stock = row.stock - to + from;
  if (stock < 0) throw conflict(`So many were sold since that undoing would leave ${stock}. Set the stock by hand.`);
  await tx.update(goods).set({ stock }).where(eq(goods.id, row.id));
  await tx.insert(stockMovements).values({ goodsId: row.id, delta: from - to, reason: 'undone', at: ctx.now() });
}

async function set(ctx: Ctx, tx: Tx, site: Site, by: string, detail: LiveChangeDetail, reason: 'counted'): Promise<void> {
  await tx.update(goods).set({ [detail.field]: detail.to }).where(eq(goods.id, detail.goodsId));
  if (detail.field === 'stock') {
    const delta = ((detail.to as number | null) ?? 0) - ((detail.from as number | null) ?? 0);
    await tx.insert(stockMovements).values({ goodsId: detail.goodsId, delta, reason, at: ctx.now() });
  }
  await note(ctx, tx, site, by, detail);
}

const note = (ctx: Ctx, tx: Tx, site: Site, by: string, detail: LiveChangeDetail) =>
  tx.insert(liveChanges).values({ siteId: site.row.id, detail, by, at: ctx.now() });

async function mine(tx: Tx, site: Site, id: string): Promise<Row> {
  const [row] = await tx.select().from(goods).where(and(eq(goods.id, id), eq(goods.siteId, site.row.id), isNull(goods.removedAt)));
  if (!row) throw missing('This product is gone. It may have been removed in another window.');
  return row;
}

/** What the stock of a product is the sum of; for checks and tests. */
export const ledgerSum = async (ctx: Ctx, goodsId: string): Promise<number> =>
  (await ctx.store.db.select({ sum: sql<number>`coalesce(sum(${stockMovements.delta}), 0)` }).from(stockMovements).where(eq(stockMovements.goodsId, goodsId)))[0]?.sum ?? 0;
