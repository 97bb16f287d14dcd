import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { sites } from './site';

export const goods = sqliteTable('goods', {
  id: text().primaryKey(),
  siteId: text().notNull().references(() => sites.id),
  slug: text().notNull(),
  name: text().notNull(),
  description: text().notNull(),
  /** Minor units of the shop's currency. */
  price: integer().notNull(),
  /** What it cost before, while it is on offer; in minor units. */
  was: integer(),
  /** Where the buyer names the amount: the least there is, in minor units. */
  openLeast: integer(),
  /** Pieces on hand, the sum of the product's movements; null when nobody counts. */
  stock: integer(),
  /** SHA-256 of the original picture in the blob store. */
  picture: text(),
  pictureAlt: text().notNull(),
  order: integer().notNull(),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  removedAt: integer({ mode: 'timestamp_ms' }),
}, (t) => [uniqueIndex('goods_slug').on(t.siteId, t.slug)]);

/** The ways into the catalogue, nested; in the owner's order. */
export const categories = sqliteTable('categories', {
  id: text().primaryKey(),
  siteId: text().notNull().references(() => sites.id),
  slug: text().notNull(),
  name: text().notNull(),
  parent: text(),
  order: integer().notNull(),
}, (t) => [uniqueIndex('categories_slug').on(t.siteId, t.slug)]);

export const goodsCategories = sqliteTable('goods_categories', {
  goodsId: text().notNull().references(() => goods.id),
  categoryId: text().notNull().references(() => categories.id, { onDelete: 'cascade' }),
}, (t) => [primaryKey({ columns: [t.goodsId, t.categoryId] })]);

/** The stock ledger: why the count is what it is. */
export const stockMovements = sqliteTable('stock_movements', {
  id: integer().primaryKey({ autoIncrement: true }),
  goodsId: text().notNull().references(() => goods.id),
  delta: integer().notNull(),
  reason: text({ enum: ['counted', 'sold', 'undone'] }).notNull(),
  /** The order, for a sale. */
  ref: text(),
  at: integer({ mode: 'timestamp_ms' }).notNull(),
}, (t) => [index('movements_goods').on(t.goodsId)]);

export interface LiveChangeDetail {
  readonly goodsId: string;
  readonly field: 'price' | 'was' | 'openLeast' | 'categories' | 'stock' | 'name' | 'description' | 'picture' | 'pictureAlt' | 'added' | 'removed';
  readonly from: string | number | null;
  readonly to: string | number | null;
}

/** Changes that went live at once, each with what is needed to undo it. */
export const liveChanges = sqliteTable('live_changes', {
  id: integer().primaryKey({ autoIncrement: true }),
  siteId: text().notNull().references(() => sites.id),
  detail: text({ mode: 'json' }).$type<LiveChangeDetail>().notNull(),
  by: text().notNull(),
  at: integer({ mode: 'timestamp_ms' }).notNull(),
  undoneAt: integer({ mode: 'timestamp_ms' }),
}, (t) => [index('live_changes_site').on(t.siteId, t.at)]);
