import { sql } from 'drizzle-orm';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { WorkedSum } from '../../core/till/worked-sum';
import { goods } from './goods';
import { sites } from './site';

export const carts = sqliteTable('carts', {
  token: text().primaryKey(),
  siteId: text().notNull().references(() => sites.id),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  updatedAt: integer({ mode: 'timestamp_ms' }).notNull(),
});

export const cartLines = sqliteTable('cart_lines', {
  id: text().primaryKey(),
  cart: text().notNull().references(() => carts.token, { onDelete: 'cascade' }),
  goodsId: text().notNull().references(() => goods.id),
  variantId: text().notNull().default(''),
  quantity: integer().notNull(),
  /** What the buyer wrote, one text to each the product asks for. */
  texts: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
  /** What the buyer named, in minor units, where the product leaves it to them. */
  named: integer(),
  /** The widget and the page it was put into the cart from. */
  placementId: text(),
  page: text(),
  addedAt: integer({ mode: 'timestamp_ms' }).notNull(),
}, (t) => [index('cart_lines_cart').on(t.cart)]);

export interface Buyer {
  readonly email: string;
  readonly name: string;
  readonly street: string;
  readonly town: string;
  readonly postcode: string;
  readonly country: string;
}

export type OrderState = 'waiting' | 'paid' | 'failed';

export const orders = sqliteTable('orders', {
  id: text().primaryKey(),
  /** Unguessable; the shopper's way to thank-you and second try. */
  token: text().notNull().unique(),
  siteId: text().notNull().references(() => sites.id),
  cart: text().notNull(),
  /** Given when the order is paid, without gaps in a shop. */
  number: integer(),
  state: text().$type<OrderState>().notNull(),
  buyer: text({ mode: 'json' }).$type<Buyer>().notNull(),
  worked: text({ mode: 'json' }).$type<WorkedSum>().notNull(),
  total: integer().notNull(),
  currency: text().notNull(),
  /** Where the shopper goes back to: the site's own pages, or the ordinary ones. */
  way: text({ enum: ['site', 'ordinary'] }).notNull(),
  /** Paid after its pieces had gone to others: the owner has to decide. */
  short: integer({ mode: 'boolean' }).notNull().default(false),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  paidAt: integer({ mode: 'timestamp_ms' }),
}, (t) => [index('orders_site').on(t.siteId, t.createdAt), uniqueIndex('orders_number').on(t.siteId, t.number), index('orders_email').on(t.siteId, sql`lower(json_extract(buyer, '$.email'))`)]);

export const orderLines = sqliteTable('order_lines', {
  id: text().primaryKey(),
  orderId: text().notNull().references(() => orders.id),
  goodsId: text().notNull(),
  variantId: text().notNull().default(''),
  name: text().notNull(),
  /** Choice and texts, as the buyer saw them: "M, natural", "Initials: A. P.". */
  particulars: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
  unit: integer().notNull(),
  quantity: integer().notNull(),
  amount: integer().notNull(),
  placementId: text(),
  page: text(),
}, (t) => [index('order_lines_order').on(t.orderId)]);

/** Pieces kept for a shopper who went to pay. */
export const reservations = sqliteTable('reservations', {
  id: integer().primaryKey({ autoIncrement: true }),
  orderId: text().notNull().references(() => orders.id),
  goodsId: text().notNull().references(() => goods.id),
  variantId: text().notNull().default(''),
  quantity: integer().notNull(),
  state: text({ enum: ['held', 'sold', 'released'] }).notNull(),
  expiresAt: integer({ mode: 'timestamp_ms' }).notNull(),
}, (t) => [index('reservations_variant').on(t.variantId, t.state), index('reservations_order').on(t.orderId)]);

export const payments = sqliteTable('payments', {
  id: text().primaryKey(),
  orderId: text().notNull().references(() => orders.id),
  /** The provider's own id, once it answered. */
  providerRef: text(),
  amount: integer().notNull(),
  currency: text().notNull(),
  state: text({ enum: ['started', 'paid', 'declined'] }).notNull(),
  detail: text(),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
}, (t) => [index('payments_order').on(t.orderId)]);

/** Payment notices already acted on, by the id the sender gave them (Standard Webhooks: webhook-id). */
export const notices = sqliteTable('notices', {
  id: text().primaryKey(),
  receivedAt: integer({ mode: 'timestamp_ms' }).notNull(),
});

export const orderEvents = sqliteTable('order_events', {
  id: integer().primaryKey({ autoIncrement: true }),
  orderId: text().notNull().references(() => orders.id),
  at: integer({ mode: 'timestamp_ms' }).notNull(),
  what: text().notNull(),
  detail: text().notNull().default(''),
}, (t) => [index('order_events_order').on(t.orderId)]);

/** Answers to writes that carried an idempotency key, so that a repeated request is told the same. */
export const idempotency = sqliteTable('idempotency', {
  key: text().primaryKey(),
  answer: text({ mode: 'json' }).$type<unknown>().notNull(),
  at: integer({ mode: 'timestamp_ms' }).notNull(),
});
