import { and, asc, eq, inArray } from 'drizzle-orm';
import { type Category, namesIn, withPaths } from '../../core/goods/category';
import { slugOf } from '../../core/goods/product';
import type { Db, Tx } from '../../data/database';
import { categories, goods, goodsCategories } from '../../data/schema';
import type { Ctx } from '../context';
import { newId } from '../ids';

export const listCategories = (ctx: Ctx, siteId: string): Promise<Category[]> => rowsOf(ctx.store.db, siteId);

export const rowsOf = async (db: Db | Tx, siteId: string): Promise<Category[]> =>
  withPaths(
    await db
      .select({
        id: categories.id,
        slug: categories.slug,
        name: categories.name,
        parent: categories.parent,
        order: categories.order,
        former: categories.former,
      })
      .from(categories)
      .where(eq(categories.siteId, siteId))
      .orderBy(asc(categories.order)),
  );

/** Paths of the categories each product is in, in the owner's order. */
export async function categoriesOfGoods(
  db: Db | Tx,
  siteId: string,
  of?: string | readonly string[],
): Promise<Map<string, string[]>> {
  const all = await rowsOf(db, siteId);
  const out = new Map<string, string[]>();
  if (all.length === 0) return out;
  const paths = new Map(all.map((c) => [c.id, c.path]));
  const order = new Map(all.map((c, n) => [c.id, n]));
  const rows = await db
    .select({ goodsId: goodsCategories.goodsId, categoryId: goodsCategories.categoryId })
    .from(goodsCategories)
    .innerJoin(goods, eq(goods.id, goodsCategories.goodsId))
    .where(
      and(
        eq(goods.siteId, siteId),
        of === undefined ? undefined : inArray(goods.id, typeof of === 'string' ? [of] : [...of]),
      ),
    );
  for (const { goodsId, categoryId } of rows.sort(
    (a, b) => (order.get(a.categoryId) ?? 0) - (order.get(b.categoryId) ?? 0),
  )) {
    const path = paths.get(categoryId);
    if (path) out.set(goodsId, [...(out.get(goodsId) ?? []), path]);
  }
  return out;
}

/** Puts a product into the categories of these paths and out of all others; categories that are new are made. */
export async function setCategories(
  tx: Tx,
  siteId: string,
  goodsId: string,
  paths: readonly string[],
): Promise<void> {
  const ids = new Set((await categoryIds(tx, siteId, paths)).values());
  await tx.delete(goodsCategories).where(eq(goodsCategories.goodsId, goodsId));
  for (const categoryId of ids) await tx.insert(goodsCategories).values({ goodsId, categoryId });
}

/** The category of each path; those that are new are made, with those above them. Small and capital letters are the same. */
export async function categoryIds(
  tx: Tx,
  siteId: string,
  paths: readonly string[],
): Promise<Map<string, string>> {
  const out = new Map<string, string>();
  if (paths.length === 0) return out;
  const all = await rowsOf(tx, siteId);
  const keyOf = (parent: string | null, name: string) => `${parent ?? ''}/${name.toLowerCase()}`;
  const known = new Map(all.map((c) => [keyOf(c.parent, c.name), c.id]));
  const taken = new Set(all.map((c) => c.slug));
  for (const path of new Set(paths)) {
    let parent: string | null = null;
    for (const name of namesIn(path)) {
      const key: string = keyOf(parent, name);
      const id: string = known.get(key) ?? newId();
      if (!known.has(key)) {
        const slug = slugOf(name, (s) => taken.has(s));
        taken.add(slug);
        await tx.insert(categories).values({ id, siteId, name, parent, slug, order: known.size + 1 });
        known.set(key, id);
      }
      parent = id;
    }
    if (parent) out.set(path, parent);
  }
  return out;
}
