import { and, asc, eq } from 'drizzle-orm';
import { type Category, namesIn, withPaths } from '../../core/goods/category';
import { slugOf } from '../../core/goods/product';
import type { Db, Tx } from '../../data/database';
import { categories, goods, goodsCategories } from '../../data/schema';
import type { Ctx } from '../context';
import { newId } from '../ids';

export const listCategories = (ctx: Ctx, siteId: string): Promise<Category[]> => rowsOf(ctx.store.db, siteId);

export const rowsOf = async (db: Db | Tx, siteId: string): Promise<Category[]> =>
  withPaths(await db.select({ id: categories.id, slug: categories.slug, name: categories.name, parent: categories.parent, order: categories.order }).from(categories).where(eq(categories.siteId, siteId)).orderBy(asc(categories.order)));

/** Paths of the categories each product is in, in the owner's order. */
export async function categoriesOfGoods(db: Db | Tx, siteId: string, goodsId?: string): Promise<Map<string, string[]>> {
  const all = await rowsOf(db, siteId);
  const out = new Map<string, string[]>();
  if (all.length === 0) return out;
  const paths = new Map(all.map((c) => [c.id, c.path]));
  const order = new Map(all.map((c, n) => [c.id, n]));
  const rows = await db.select({ goodsId: goodsCategories.goodsId, categoryId: goodsCategories.categoryId }).from(goodsCategories).innerJoin(goods, eq(goods.id, goodsCategories.goodsId)).where(and(eq(goods.siteId, siteId), goodsId ? eq(goods.id, goodsId) : undefined));
  for (const { goodsId, categoryId } of rows.sort((a, b) => (order.get(a.categoryId) ?? 0) - (order.get(b.categoryId) ?? 0))) {
    const path = paths.get(categoryId);
    if (path) out.set(goodsId, [...(out.get(goodsId) ?? []), path]);
  }
  return out;
}

/** Puts a product into the categories of these paths and out of all others; categories that are new are made. */
export async function setCategories(tx: Tx, siteId: string, goodsId: string, paths: readonly string[]): Promise<void> {
  const ids = new Set<string>();
  for (const path of paths) {
    const id = await categoryAt(tx, siteId, namesIn(path));
    if (id) ids.add(id);
  }
  await tx.delete(goodsCategories).where(eq(goodsCategories.goodsId, goodsId));
  for (const categoryId of ids) await tx.insert(goodsCategories).values({ goodsId, categoryId });
}

async function categoryAt(tx: Tx, siteId: string, names: readonly string[]): Promise<string | undefined> {
  let parent: string | null = null;
  for (const name of names) {
    const all: Category[] = await rowsOf(tx, siteId);
    const found: Category | undefined = all.find((c) => c.parent === parent && c.name.toLowerCase() === name.toLowerCase());
    const id: string = found?.id ?? newId();
    if (!found) {
      const taken = new Set(all.map((c) => c.slug));
      await tx.insert(categories).values({ id, siteId, name, parent, slug: slugOf(name, (s) => taken.has(s)), order: all.length + 1 });
    }
    parent = id;
  }
  return parent ?? undefined;
}

