import { sql } from 'drizzle-orm';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { Place } from '../../core/till/place';
import type { TillRules } from '../../core/till/rules';
import type { WorkedLine, WorkedSum } from '../../core/till/worked-sum';
import { goods } from './goods';
import { sites } from './site';

export const carts = sqliteTable('carts', {
  token: text().primaryKey(),
  siteId: text().notNull().references(() => sites.id),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  updatedAt: integer({ mode: 'timestamp_ms' }).notNull(),
  /** Discount codes and gift vouchers, as they were typed. */
  codes: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
  /** Where it goes and by which way, as far as the shopper has said. */
  place: text({ mode: 'json' }).$type<Place>(),
  way: text().notNull().default(''),
});

/** What the owner set in the till; nothing until then. */
export const tills = sqliteTable('tills', {
  siteId: text().primaryKey().references(() => sites.id),
  rules: text({ mode: 'json' }).$type<TillRules>().notNull(),
  updatedAt: integer({ mode: 'timestamp_ms' }).notNull(),
});

const useStates = ['held', 'used', 'released'] as const;

/** Uses of discounts: held while their buyer pays, so that a limit is kept exactly. */
export const discountUses = sqliteTable('discount_uses', {
  id: integer().primaryKey({ autoIncrement: true }),
  siteId: text().notNull().references(() => sites.id),
  ruleId: text().notNull(),
  orderId: text().notNull().references(() => orders.id),
  email: text().notNull(),
  state: text({ enum: useStates }).notNull(),
  expiresAt: integer({ mode: 'timestamp_ms' }).notNull(),
}, (t) => [index('discount_uses_rule').on(t.siteId, t.ruleId, t.state), index('discount_uses_order').on(t.orderId)]);

/** Gift vouchers: what was put on each; what is left follows from their uses. */
export const vouchers = sqliteTable('vouchers', {
  id: text().primaryKey(),
  siteId: text().notNull().references(() => sites.id),
  /** Without hyphens, in capitals. */
  code: text().notNull(),
  amount: integer().notNull(),
  currency: text().notNull(),
  expiresAt: integer({ mode: 'timestamp_ms' }),
  /** The order it was bought with; nothing for one that the owner made. */
  orderId: text(),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
}, (t) => [uniqueIndex('vouchers_code').on(t.siteId, t.code), index('vouchers_order').on(t.orderId)]);

export const voucherUses = sqliteTable('voucher_uses', {
  id: integer().primaryKey({ autoIncrement: true }),
  voucherId: text().notNull().references(() => vouchers.id),
  orderId: text().notNull().references(() => orders.id),
  amount: integer().notNull(),
  state: text({ enum: useStates }).notNull(),
  expiresAt: integer({ mode: 'timestamp_ms' }).notNull(),
}, (t) => [index('voucher_uses_voucher').on(t.voucherId, t.state), index('voucher_uses_order').on(t.orderId)]);

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
  /** The subscription that this order is a charge of. */
  subscriptionId: text(),
  /** From when downloads count anew, where the owner let the buyer begin again. */
  downloadsSince: integer({ mode: 'timestamp_ms' }),
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

/** What is charged again, at the price it began with, until somebody stops it. */
export const subscriptions = sqliteTable('subscriptions', {
  id: text().primaryKey(),
  siteId: text().notNull().references(() => sites.id),
  /** The order it began with. */
  orderId: text().notNull().references(() => orders.id),
  line: text({ mode: 'json' }).$type<WorkedLine>().notNull(),
  currency: text().notNull(),
  buyer: text({ mode: 'json' }).$type<Buyer>().notNull(),
  /** The provider's word that it may charge again. */
  mandate: text().notNull(),
  state: text({ enum: ['running', 'stopped'] }).notNull().default('running'),
  /** Why it was stopped, in words. */
  reason: text().notNull().default(''),
  startedAt: integer({ mode: 'timestamp_ms' }).notNull(),
  nextAt: integer({ mode: 'timestamp_ms' }).notNull(),
  /** How often it was charged since it began, the first payment not among them. */
  charges: integer().notNull().default(0),
  /** The turn that is due next, counted from the beginning; turns that nobody could charge are left out. */
  turn: integer().notNull().default(1),
  /** Declined in a row. */
  declined: integer().notNull().default(0),
  /** The order of a charge that is under way. */
  pending: text(),
}, (t) => [index('subscriptions_due').on(t.state, t.nextAt), index('subscriptions_order').on(t.orderId), index('subscriptions_site').on(t.siteId)]);

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
