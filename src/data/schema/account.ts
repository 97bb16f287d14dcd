import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { sites } from './site';

/** A shopper's way to their own orders: a letter with a link, then a session. Only hashes of both are kept. */
const passes = {
  siteId: text()
    .notNull()
    .references(() => sites.id),
  email: text().notNull(),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  expiresAt: integer({ mode: 'timestamp_ms' }).notNull(),
};

export const shopperLinks = sqliteTable(
  'shopper_links',
  { hash: text().primaryKey(), ...passes, usedAt: integer({ mode: 'timestamp_ms' }) },
  (t) => [index('shopper_links_email').on(t.siteId, t.email)],
);

export const shopperSessions = sqliteTable('shopper_sessions', { hash: text().primaryKey(), ...passes });
