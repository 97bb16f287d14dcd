import { minor } from '../../core/money/minor';
import { oldestKey } from '../../core/entries';
import { and, asc, eq, gt, inArray, isNull } from 'drizzle-orm';
import { type CategoryNode, categoryTree, isIn, pathsNow } from '../../core/goods/category';
import { type Order, sorted } from '../../core/goods/choose';
import { type Product, productInput, type ProductForm, type Variant } from '../../core/goods/product';
import type { Rating } from '../../core/goods/reviews';
import type { Db, Store, Tx } from '../../data/database';
import { goods, oldSlugs, sites, variants } from '../../data/schema';
import type { Ctx } from '../context';
import { categoriesOfGoods, rowsOf } from './categories';
import { GoodsIndex } from './find';
import { ratingsOf } from './ratings';
import { plainText, richText } from './rich-text';

/**
 * All goods of a site, in memory: read whole once, then only what changed since. Counts are those of the time it was read;
 * who needs today's asks for them ({@link stockOf}, availability).
 */
export interface Catalogue {
  readonly version: number;
  /** In the owner's order; hidden ones and those by link only are among them. */
  readonly all: readonly Product[];
  /** Those that stand in lists. */
  readonly shown: readonly Product[];
  readonly byId: ReadonlyMap<string, Product>;
  /** By address, former addresses too. */
  readonly bySlug: ReadonlyMap<string, Product>;
  /** Ways into the shown goods, empty ones left out. */
  readonly tree: readonly CategoryNode[];
  readonly index: GoodsIndex;
  /** What a path of a category means now, where the category was renamed or moved since. */
  readonly pathNow: (path: string) => string;
  /** Shown goods of a category ('' is all) in an order, as they stand at a moment; worked out once a minute at most. */
  readonly inOrder: (category: string, order: Order, at: number) => readonly Product[];
}

type GoodsRow = typeof goods.$inferSelect;
type VariantRow = typeof variants.$inferSelect;

const usual: Omit<ProductForm, 'name' | 'price'> = productInput.parse({ name: 'x', price: 0 });

export const variantOf = (v: VariantRow): Variant => ({
  id: v.id,
  values: v.values,
  price: v.price === null ? null : minor(v.price),
  difference: v.difference,
  sku: v.sku,
  gtin: v.gtin,
  stock: v.stock,
  weight: v.weight,
  picture: v.picture,
});

/** A product from its rows. What is kept is cleaned once more on its way out: rows may come from elsewhere. */
export function productOf(
  row: GoodsRow,
  own: readonly VariantRow[],
  categories: readonly string[],
  rating: Rating | null = null,
): Product {
  const details = { ...usual, ...row.details };
  const description = richText(details.description);
  return {
    ...details,
    id: row.id,
    slug: row.slug,
    name: row.name,
    price: minor(row.price),
    description,
    plain: plainText(description),
    sections: details.sections.map((s) => ({ ...s, text: richText(s.text) })),
    categories: [...categories],
    variants: own.map(variantOf),
    addedAt: row.createdAt.getTime(),
    order: row.order,
    rating,
  };
}

const kept = new WeakMap<Store, Map<string, { version: number; ready: Promise<Catalogue> }>>();

/** The goods of a site as they are now. @param site its row, where it was just read: it says which version that is. */
export async function catalogueOf(
  ctx: Ctx,
  siteId: string,
  site?: { readonly goodsVersion: number; readonly locale: string },
): Promise<Catalogue> {
  const [found] = site
    ? [site]
    : await ctx.store.db
        .select({ goodsVersion: sites.goodsVersion, locale: sites.locale })
        .from(sites)
        .where(eq(sites.id, siteId));
  const { goodsVersion: version, locale } = found ?? { goodsVersion: 0, locale: 'en' };
  const own = kept.get(ctx.store) ?? new Map<string, { version: number; ready: Promise<Catalogue> }>();
  kept.set(ctx.store, own);
  const known = own.get(siteId);
  // A row that was read before a change is answered with what is newer.
  if (known && known.version >= version) return known.ready;
  const ready = known
    ? known.ready.then((before) => renewed(ctx, siteId, version, locale, before))
    : renewed(ctx, siteId, version, locale, undefined);
  own.set(siteId, { version, ready });
  ready.catch(() => own.delete(siteId));
  return ready;
}

/** Rows asked for at once where products are named one by one; SQLite takes 32,766 parameters. */
const AT_ONCE = 500;

async function renewed(
  ctx: Ctx,
  siteId: string,
  version: number,
  lang: string,
  before: Catalogue | undefined,
): Promise<Catalogue> {
  const { db } = ctx.store;
  const [rows, categories, within, old] = await Promise.all([
    db
      .select()
      .from(goods)
      .where(
        and(eq(goods.siteId, siteId), before ? gt(goods.version, before.version) : isNull(goods.removedAt)),
      )
      .orderBy(asc(goods.order)),
    rowsOf(db, siteId),
    categoriesOfGoods(db, siteId),
    db.select().from(oldSlugs).where(eq(oldSlugs.siteId, siteId)),
  ]);
  const ids = before ? rows.map((r) => r.id) : undefined;
  const [own, ratings] = await Promise.all([variantsOf(db, siteId, ids), ratingsOf(db, siteId, ids)]);
  const fresh = rows
    .filter((r) => !r.removedAt)
    .map((r) => productOf(r, own.get(r.id) ?? [], within.get(r.id) ?? [], ratings.get(r.id) ?? null));
  const changed = new Set(rows.map((r) => r.id));
  const still =
    before?.all.filter((p) => !changed.has(p.id)).map((p) => withCategories(p, within.get(p.id) ?? [])) ?? [];
  const all = before ? [...still, ...fresh].sort((a, b) => a.order - b.order) : fresh;
  const byId = new Map(all.map((p) => [p.id, p]));
  const bySlug = new Map(
    old.flatMap((o): [string, Product][] =>
      byId.has(o.goodsId) ? [[o.slug, byId.get(o.goodsId) as Product]] : [],
    ),
  );
  for (const p of all) bySlug.set(p.slug, p);
  const shown = all.filter((p) => p.shows === 'shown');
  const index = before?.index ?? new GoodsIndex(lang);
  index.update(before ? fresh : all, before ? rows.filter((r) => r.removedAt).map((r) => r.id) : []);
  const now = pathsNow(categories);
  return {
    version,
    all,
    shown,
    byId,
    bySlug,
    index,
    pathNow: (path) => now.get(path) ?? path,
    tree: categoryTree(categories, shown, true),
    inOrder: ordering(shown, lang),
  };
}

/** Lists that are kept of a catalogue: orders, categories, minutes of offers. */
const LISTS = 120;

function ordering(shown: readonly Product[], lang: string): Catalogue['inOrder'] {
  const lists = new Map<string, readonly Product[]>();
  const keep = (key: string, make: () => readonly Product[]) => {
    const known = lists.get(key);
    if (known) return known;
    const made = make();
    if (lists.size >= LISTS) lists.delete(oldestKey(lists) ?? '');
    lists.set(key, made);
    return made;
  };
  return (category, order, at) => {
    const minute = Math.floor(at / 60_000);
    const whole = () => keep(`${order} ${minute}`, () => sorted(shown, { order, source: 'all' }, at, lang));
    return category
      ? keep(`${order} ${minute} ${category}`, () => whole().filter((p) => isIn(p, category)))
      : whole();
  };
}

/** A category that was renamed or moved shows in every product that is in it. */
const withCategories = (p: Product, now: readonly string[]): Product =>
  now.length === p.categories.length && now.every((c, i) => c === p.categories[i])
    ? p
    : { ...p, categories: [...now] };

async function variantsOf(
  db: Db | Tx,
  siteId: string,
  ids: readonly string[] | undefined,
): Promise<Map<string, VariantRow[]>> {
  const out = new Map<string, VariantRow[]>();
  const put = (rows: readonly VariantRow[]) => {
    for (const v of rows) out.set(v.goodsId, [...(out.get(v.goodsId) ?? []), v]);
  };
  if (!ids)
    put(
      (
        await db
          .select({ v: variants })
          .from(variants)
          .innerJoin(goods, eq(goods.id, variants.goodsId))
          .where(and(eq(goods.siteId, siteId), isNull(variants.removedAt)))
          .orderBy(asc(variants.order))
      ).map((r) => r.v),
    );
  for (let n = 0; n < (ids?.length ?? 0); n += AT_ONCE)
    put(
      await db
        .select()
        .from(variants)
        .where(and(inArray(variants.goodsId, ids?.slice(n, n + AT_ONCE) ?? []), isNull(variants.removedAt)))
        .orderBy(asc(variants.order)),
    );
  return out;
}

/** One product from the database itself, within a transaction. */
export async function productIn(tx: Tx, siteId: string, row: GoodsRow): Promise<Product> {
  return productOf(
    row,
    (await variantsOf(tx, siteId, [row.id])).get(row.id) ?? [],
    (await categoriesOfGoods(tx, siteId, row.id)).get(row.id) ?? [],
  );
}

/** The form that is kept of a product: columns of their own left out. */
export function detailsOf(form: ProductForm): GoodsRow['details'] {
  const { name: _, slug: __, price: ___, categories: ____, variants: _____, ...details } = form;
  return details;
}
