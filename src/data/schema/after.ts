import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { goods } from './goods';
import { sites } from './site';
import { orders } from './till';

const at = () => integer({ mode: 'timestamp_ms' });

/** Ways to a file, one to each press of a button; the address is signed, and good in one browser alone. */
export const downloadLinks = sqliteTable(
  'download_links',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    goodsId: text()
      .notNull()
      .references(() => goods.id),
    variantId: text().notNull(),
    /** SHA-256 of the file. */
    file: text().notNull(),
    name: text().notNull(),
    createdAt: at().notNull(),
    expiresAt: at().notNull(),
    /** When its first byte was asked for: from then on it counts, however often it is resumed. */
    startedAt: at(),
  },
  (t) => [index('download_links_order').on(t.orderId, t.goodsId)],
);

/** Browsers that may fetch what an order bought: by the hash of what their cookie holds. */
export const orderBrowsers = sqliteTable(
  'order_browsers',
  {
    hash: text().notNull(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    createdAt: at().notNull(),
  },
  (t) => [primaryKey({ columns: [t.orderId, t.hash] })],
);

export const reviewStates = ['waiting', 'shown', 'hidden'] as const;
export type ReviewState = (typeof reviewStates)[number];

/** What a buyer says of what they bought: one to each product of an order. */
export const reviews = sqliteTable(
  'reviews',
  {
    id: text().primaryKey(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    goodsId: text()
      .notNull()
      .references(() => goods.id),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    /** As it is shown. */
    name: text().notNull(),
    /** 1 to 5. */
    rating: integer().notNull(),
    title: text().notNull().default(''),
    text: text().notNull().default(''),
    state: text({ enum: reviewStates }).notNull().default('waiting'),
    /** What the owner answers beneath it. */
    answer: text().notNull().default(''),
    createdAt: at().notNull(),
    decidedAt: at(),
  },
  (t) => [
    uniqueIndex('reviews_once').on(t.orderId, t.goodsId),
    index('reviews_goods').on(t.goodsId, t.state),
    index('reviews_site').on(t.siteId, t.createdAt),
  ],
);
