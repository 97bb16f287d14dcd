import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { CategoryRow } from '../../core/goods/category-acts';
import type { ProductForm, VariantInput } from '../../core/goods/product';
import type { Change } from '../../core/change';
import { versioned } from '../versioned';
import { liveChangeLifts } from './lifts';
import { sites } from './site';

/** What the form of a product holds beside columns of its own and its variants. */
export type GoodsDetails = Omit<ProductForm, 'name' | 'slug' | 'price' | 'categories' | 'variants'>;

export const goods = sqliteTable(
  'goods',
  {
    id: text().primaryKey(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    slug: text().notNull(),
    name: text().notNull(),
    /** Minor units of the shop's currency. */
    price: integer().notNull(),
    details: text({ mode: 'json' })
      .$type<GoodsDetails>()
      .notNull()
      .default({} as GoodsDetails),
    order: integer().notNull(),
    /** The site's goodsVersion of its last change: what is kept in memory asks only for what is newer. */
    version: integer().notNull().default(0),
    createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
    removedAt: integer({ mode: 'timestamp_ms' }),
  },
  (t) => [uniqueIndex('goods_slug').on(t.siteId, t.slug), index('goods_version').on(t.siteId, t.version)],
);

/** What can be bought of a product: one row to each choice; one to a product without options. */
export const variants = sqliteTable(
  'variants',
  {
    id: text().primaryKey(),
    goodsId: text()
      .notNull()
      .references(() => goods.id),
    order: integer().notNull(),
    values: text({ mode: 'json' }).$type<string[]>().notNull(),
    price: integer(),
    difference: integer(),
    sku: text().notNull(),
    gtin: text().notNull(),
    /** Pieces on hand, the sum of its movements; null when nobody counts. */
    stock: integer(),
    weight: integer(),
    picture: text(),
    removedAt: integer({ mode: 'timestamp_ms' }),
  },
  (t) => [index('variants_goods').on(t.goodsId)],
);

/** Addresses products had before; they lead on. */
export const oldSlugs = sqliteTable(
  'old_slugs',
  {
    siteId: text()
      .notNull()
      .references(() => sites.id),
    slug: text().notNull(),
    goodsId: text()
      .notNull()
      .references(() => goods.id),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.slug] })],
);

/** What a variant cost and from when, for the lowest price of the last thirty days. */
export const priceHistory = sqliteTable(
  'price_history',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    goodsId: text()
      .notNull()
      .references(() => goods.id),
    variantId: text().notNull(),
    price: integer().notNull(),
    at: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('price_history_goods').on(t.goodsId, t.at)],
);

/** The ways into the catalogue, nested; in the owner's order. */
export const categories = sqliteTable(
  'categories',
  {
    id: text().primaryKey(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    slug: text().notNull(),
    name: text().notNull(),
    parent: text(),
    order: integer().notNull(),
    /** Paths it had before. */
    former: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
  },
  (t) => [uniqueIndex('categories_slug').on(t.siteId, t.slug)],
);

export const goodsCategories = sqliteTable(
  'goods_categories',
  {
    goodsId: text()
      .notNull()
      .references(() => goods.id),
    categoryId: text()
      .notNull()
      .references(() => categories.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.goodsId, t.categoryId] })],
);

export const movementReasons = [
  'counted',
  'delivered',
  'damaged',
  'corrected',
  'sold',
  'returned',
  'undone',
] as const;
export type MovementReason = (typeof movementReasons)[number];

/** The stock ledger: why the count is what it is. */
export const stockMovements = sqliteTable(
  'stock_movements',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    goodsId: text()
      .notNull()
      .references(() => goods.id),
    variantId: text().notNull().default(''),
    delta: integer().notNull(),
    reason: text({ enum: movementReasons }).notNull(),
    /** The order, for a sale. */
    ref: text(),
    note: text().notNull().default(''),
    at: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [
    index('movements_goods').on(t.goodsId),
    index('movements_variant').on(t.variantId),
    index('stock_movements_ref').on(t.ref),
  ],
);

/** One field of a product that changed; for `stock`, of a variant. */
export interface GoodsChange {
  readonly goodsId: string;
  readonly field:
    | Exclude<keyof ProductForm, 'variants'>
    | 'variants'
    | 'stock'
    | 'order'
    | 'added'
    | 'removed';
  readonly variantId?: string;
  readonly from: unknown;
  readonly to: unknown;
}

/** All categories as they stood, and who was in those that an act took away. */
export interface TreeState {
  readonly rows: readonly CategoryRow[];
  readonly within: readonly { readonly goodsId: string; readonly categoryId: string }[];
}

/** What went live at once: a field of a product, or many in one act that has a name ("Prices of 12 products"); or the categories. */
export type LiveChangeDetail =
  | GoodsChange
  | {
      readonly act: string;
      readonly changes: readonly GoodsChange[];
      readonly tree?: {
        readonly from: TreeState;
        readonly to: TreeState;
      } /** Or a part of the till's rules. */;
      readonly till?: Change<unknown>;
    };
export type StoredVariant = VariantInput & { readonly id: string };

/** Changes that went live at once, each with what is needed to undo it. */
export const liveChanges = sqliteTable(
  'live_changes',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    detail: versioned<LiveChangeDetail>(liveChangeLifts)().notNull(),
    by: text().notNull(),
    at: integer({ mode: 'timestamp_ms' }).notNull(),
    undoneAt: integer({ mode: 'timestamp_ms' }),
  },
  (t) => [index('live_changes_site').on(t.siteId, t.at)],
);
