import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { shippingKinds } from '../../core/till/goes';
import type { Invoice } from '../../core/till/invoice';
import type { Place } from '../../core/till/place';
import type { TillRules } from '../../core/till/rules';
import type { WorkedLine, WorkedSum } from '../../core/till/worked-sum';
import { versioned } from '../versioned';
import { goods } from './goods';
import { workedLifts } from './lifts';
import { sites } from './site';

export const carts = sqliteTable('carts', {
  token: text().primaryKey(),
  siteId: text()
    .notNull()
    .references(() => sites.id),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  updatedAt: integer({ mode: 'timestamp_ms' }).notNull(),
  /** Discount codes and gift vouchers, as they were typed. */
  codes: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
  /** Where it goes and by which way, as far as the shopper has said. */
  place: text({ mode: 'json' }).$type<Place>(),
  way: text().notNull().default(''),
  /** What the shopper wrote at the checkout, kept so that nobody has to write it twice. */
  said: text({ mode: 'json' }).$type<Record<string, string>>(),
  /** The way to pay that was chosen. */
  payBy: text().notNull().default(''),
  /** The shopper wants to be reminded, once, of what is left behind. */
  remind: integer({ mode: 'boolean' }).notNull().default(false),
});

/** What the owner set in the till; nothing until then. */
export const tills = sqliteTable('tills', {
  siteId: text()
    .primaryKey()
    .references(() => sites.id),
  rules: text({ mode: 'json' }).$type<TillRules>().notNull(),
  updatedAt: integer({ mode: 'timestamp_ms' }).notNull(),
});

const useStates = ['held', 'used', 'released'] as const;

/** Uses of discounts: held while their buyer pays, so that a limit is kept exactly. */
export const discountUses = sqliteTable(
  'discount_uses',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    ruleId: text().notNull(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    email: text().notNull(),
    state: text({ enum: useStates }).notNull(),
    expiresAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [
    index('discount_uses_rule').on(t.siteId, t.ruleId, t.state),
    index('discount_uses_order').on(t.orderId),
  ],
);

/** Gift vouchers: what was put on each; what is left follows from their uses. */
export const vouchers = sqliteTable(
  'vouchers',
  {
    id: text().primaryKey(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    /** Without hyphens, in capitals. */
    code: text().notNull(),
    amount: integer().notNull(),
    currency: text().notNull(),
    expiresAt: integer({ mode: 'timestamp_ms' }),
    /** The order it was bought with; nothing for one that the owner made. */
    orderId: text(),
    createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [uniqueIndex('vouchers_code').on(t.siteId, t.code), index('vouchers_order').on(t.orderId)],
);

export const voucherUses = sqliteTable(
  'voucher_uses',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    voucherId: text()
      .notNull()
      .references(() => vouchers.id),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    amount: integer().notNull(),
    state: text({ enum: useStates }).notNull(),
    expiresAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('voucher_uses_voucher').on(t.voucherId, t.state), index('voucher_uses_order').on(t.orderId)],
);

export const cartLines = sqliteTable(
  'cart_lines',
  {
    id: text().primaryKey(),
    cart: text()
      .notNull()
      .references(() => carts.token, { onDelete: 'cascade' }),
    goodsId: text()
      .notNull()
      .references(() => goods.id),
    variantId: text().notNull().default(''),
    quantity: integer().notNull(),
    /** What the buyer wrote, one text to each the product asks for. */
    texts: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
    /** What the buyer named, in minor units, where the product leaves it to them. */
    named: integer(),
    /** Key of the link whose price the buyer has; '' for the usual one. */
    linkPrice: text().notNull().default(''),
    /** The widget and the page it was put into the cart from. */
    placementId: text(),
    page: text(),
    addedAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('cart_lines_cart').on(t.cart)],
);

export interface Buyer {
  readonly email: string;
  readonly name: string;
  readonly street: string;
  readonly town: string;
  readonly postcode: string;
  /** ISO 3166-1 alpha-2; orders of before have a name. */
  readonly country: string;
  /** ISO 3166-2 without the country, where addresses have one. */
  readonly state?: string;
  readonly company?: string;
  readonly phone?: string;
}

/** A policy as it stood when the buyer agreed to it. */
export interface Agreed {
  readonly name: string;
  /** SHA-256 of its text. */
  readonly version: string;
  readonly at: string;
}

export interface Parcel {
  readonly carrier: string;
  readonly number: string;
  readonly at: string;
}

/** Waiting: its buyer is paying. Placed: ordered for good, the money comes later. Failed: nothing came of it. */
export const orderStates = ['waiting', 'placed', 'paid', 'failed', 'cancelled'] as const;
export type OrderState = (typeof orderStates)[number];

/** What an order was promised that others had used up when it was paid. */
export interface Lacks {
  /** Minor units that its vouchers no longer had. */
  readonly missing: number;
  /** Discounts whose limit was reached meanwhile, and what each took off. */
  readonly over: readonly { readonly name: string; readonly amount: number }[];
  /** Its pieces had gone to others as well: none were taken from the shelf. */
  readonly gone?: boolean;
  /** With which its card may be charged again, once it is handed out. */
  readonly mandate: string;
}

export const orders = sqliteTable(
  'orders',
  {
    id: text().primaryKey(),
    /** Unguessable; the shopper's way to thank-you and second try. */
    token: text().notNull().unique(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    cart: text().notNull(),
    /** Given when the order is for good, without gaps in a shop; orders to try things out have numbers of their own. */
    number: integer(),
    state: text().$type<OrderState>().notNull(),
    buyer: text({ mode: 'json' }).$type<Buyer>().notNull(),
    worked: versioned<WorkedSum>(workedLifts)().notNull(),
    total: integer().notNull(),
    currency: text().notNull(),
    /** Where the shopper goes back to: the site's own pages, or the ordinary ones. */
    way: text({ enum: ['site', 'ordinary'] }).notNull(),
    /** Paid after its pieces had gone to others: the owner has to decide. */
    short: integer({ mode: 'boolean' }).notNull().default(false),
    /**
     * What it was promised and no longer there when it was paid: nothing is handed out before the owner has
     * decided.
     */
    lacks: text({ mode: 'json' }).$type<Lacks>(),
    createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
    paidAt: integer({ mode: 'timestamp_ms' }),
    /** The subscription that this order is a charge of. */
    subscriptionId: text(),
    /** From when downloads count anew, where the owner let the buyer begin again. */
    downloadsSince: integer({ mode: 'timestamp_ms' }),
    /** Ordered while the owner was trying things out: no takings, no invoice. */
    test: integer({ mode: 'boolean' }).notNull().default(false),
    /** The id of the way to pay. */
    payBy: text().notNull().default('card'),
    /** How what is sent goes out; '' where nothing is sent. */
    goes: text({ enum: ['', ...shippingKinds] })
      .notNull()
      .default(''),
    /** What the buyer wrote with it. */
    note: text().notNull().default(''),
    policies: text({ mode: 'json' }).$type<Agreed[]>().notNull().default([]),
    packedAt: integer({ mode: 'timestamp_ms' }),
    sentAt: integer({ mode: 'timestamp_ms' }),
    collectedAt: integer({ mode: 'timestamp_ms' }),
    cancelledAt: integer({ mode: 'timestamp_ms' }),
    parcels: text({ mode: 'json' }).$type<Parcel[]>().notNull().default([]),
    /** Given back so far, in money and onto vouchers. */
    refunded: integer().notNull().default(0),
  },
  (t) => [
    index('orders_site').on(t.siteId, t.createdAt),
    uniqueIndex('orders_number').on(t.siteId, t.test, t.number),
    index('orders_state').on(t.state, t.createdAt),
    index('orders_cart').on(t.cart),
    index('orders_email').on(t.siteId, sql`lower(json_extract(buyer, '$.email'))`),
  ],
);

export const orderLines = sqliteTable(
  'order_lines',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
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
    /** When it was put into the cart; nothing for what is charged again, and for orders of before. */
    addedAt: integer({ mode: 'timestamp_ms' }),
  },
  (t) => [index('order_lines_order').on(t.orderId)],
);

/** Pieces kept for a shopper who went to pay. */
export const reservations = sqliteTable(
  'reservations',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    goodsId: text()
      .notNull()
      .references(() => goods.id),
    variantId: text().notNull().default(''),
    quantity: integer().notNull(),
    state: text({ enum: ['held', 'sold', 'released'] }).notNull(),
    expiresAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('reservations_variant').on(t.variantId, t.state), index('reservations_order').on(t.orderId)],
);

/** What is charged again, at the price it began with, until somebody stops it. */
export const subscriptions = sqliteTable(
  'subscriptions',
  {
    id: text().primaryKey(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    /** The order it began with. */
    orderId: text()
      .notNull()
      .references(() => orders.id),
    line: text({ mode: 'json' }).$type<WorkedLine>().notNull(),
    currency: text().notNull(),
    buyer: text({ mode: 'json' }).$type<Buyer>().notNull(),
    /** The provider's word that it may charge again. */
    mandate: text().notNull(),
    state: text({ enum: ['running', 'stopped'] })
      .notNull()
      .default('running'),
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
  },
  (t) => [
    index('subscriptions_due').on(t.state, t.nextAt),
    index('subscriptions_order').on(t.orderId),
    index('subscriptions_site').on(t.siteId),
  ],
);

export const payments = sqliteTable(
  'payments',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    /** Which provider it went to: "card", "wallet"; '' where the owner takes the money in person. */
    provider: text().notNull().default('card'),
    /** The provider's own id, once it answered. */
    providerRef: text(),
    amount: integer().notNull(),
    currency: text().notNull(),
    /** What pays for its order is paid; money that no order wanted is surplus until it has gone back. */
    state: text({ enum: ['started', 'paid', 'declined', 'surplus', 'returning', 'returned'] }).notNull(),
    detail: text(),
    /** When the provider was asked to give it back. */
    returningAt: integer({ mode: 'timestamp_ms' }),
    createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('payments_order').on(t.orderId), index('payments_state').on(t.state, t.createdAt)],
);

/** What was given back of an order, or is being given back. */
export const refunds = sqliteTable(
  'refunds',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    /** The payment it goes back to; nothing where the owner gives it back in person, or all of it goes onto vouchers. */
    paymentId: text(),
    /** All of it, in minor units. */
    amount: integer().notNull(),
    /** The part of it that goes back onto vouchers. */
    toVouchers: integer().notNull().default(0),
    lines: text({ mode: 'json' })
      .$type<{ readonly lineId: string; readonly quantity: number }[]>()
      .notNull()
      .default([]),
    restock: integer({ mode: 'boolean' }).notNull().default(false),
    reason: text().notNull().default(''),
    state: text({ enum: ['asked', 'done', 'failed'] }).notNull(),
    detail: text().notNull().default(''),
    createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('refunds_order').on(t.orderId), index('refunds_state').on(t.state)],
);

/** Invoices and credit notes: frozen as they were issued, each series numbered without gaps. */
export const documents = sqliteTable(
  'documents',
  {
    id: text().primaryKey(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    series: text({ enum: ['invoice', 'credit'] }).notNull(),
    number: integer().notNull(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    refundId: text(),
    issuedAt: integer({ mode: 'timestamp_ms' }).notNull(),
    content: text({ mode: 'json' }).$type<Invoice>().notNull(),
  },
  (t) => [
    uniqueIndex('documents_number').on(t.siteId, t.series, t.number),
    index('documents_order').on(t.orderId),
  ],
);

/** Letters to buyers and the owner: written first, sent by a round in the background, tried again when the mail server is away. */
export const letters = sqliteTable(
  'letters',
  {
    id: text().primaryKey(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    orderId: text(),
    kind: text().notNull(),
    /** One letter to each key. */
    key: text().notNull().unique(),
    to: text().notNull(),
    subject: text().notNull(),
    text: text().notNull(),
    html: text().notNull().default(''),
    /** An appointment, RFC 5545. */
    calendar: text().notNull().default(''),
    state: text({ enum: ['waiting', 'sent', 'given-up'] })
      .notNull()
      .default('waiting'),
    tries: integer().notNull().default(0),
    /** Not sent before: a moment in which an act can be taken back, and its letter with it. */
    notBefore: integer({ mode: 'timestamp_ms' }).notNull(),
    sentAt: integer({ mode: 'timestamp_ms' }),
  },
  (t) => [index('letters_due').on(t.state, t.notBefore), index('letters_order').on(t.orderId)],
);

/** Shoppers who set a password; others come by a letter with a link. */
export const shoppers = sqliteTable(
  'shoppers',
  {
    siteId: text()
      .notNull()
      .references(() => sites.id),
    /** In small letters. */
    email: text().notNull(),
    passwordHash: text().notNull(),
    createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.email] })],
);

/** Payment notices already acted on, by the id the sender gave them (Standard Webhooks: webhook-id). */
export const notices = sqliteTable('notices', {
  id: text().primaryKey(),
  receivedAt: integer({ mode: 'timestamp_ms' }).notNull(),
});

export const orderEvents = sqliteTable(
  'order_events',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    at: integer({ mode: 'timestamp_ms' }).notNull(),
    what: text().notNull(),
    detail: text().notNull().default(''),
  },
  (t) => [index('order_events_order').on(t.orderId)],
);

/** Answers to writes that carried an idempotency key, so that a repeated request is told the same. */
export const idempotency = sqliteTable('idempotency', {
  key: text().primaryKey(),
  answer: text({ mode: 'json' }).$type<unknown>().notNull(),
  /** A hash of what was asked with it: the same key with something else is a mistake, or somebody else. */
  asked: text().notNull().default(''),
  at: integer({ mode: 'timestamp_ms' }).notNull(),
});
