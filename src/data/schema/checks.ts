import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import type { Finding } from '../../core/checks/finding';
import type { SeenPage } from '../../core/checks/seen';
import type { LiveFacts } from '../../core/checks/subject';
import { sites } from './site';

/** Why the checks ran: somebody asked, before a publishing, by night. What runs after a change is no run of its own. */
export type RunWhy = 'asked' | 'publish' | 'night';

/** Runs over time, with what came and went since the one before. */
export const checkRuns = sqliteTable(
  'check_runs',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    why: text().$type<RunWhy>().notNull(),
    found: integer().notNull(),
    fresh: integer().notNull(),
    mended: integer().notNull(),
    back: integer().notNull(),
    pages: integer().notNull(),
    took: integer().notNull(),
    at: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('check_runs_site').on(t.siteId, t.at)],
);

/** What was ever found, by who it is. What is gone stays, so that it is known when it comes back. */
export const findings = sqliteTable(
  'findings',
  {
    siteId: text()
      .notNull()
      .references(() => sites.id),
    key: text().notNull(),
    finding: text({ mode: 'json' }).$type<Finding>().notNull(),
    firstAt: integer({ mode: 'timestamp_ms' }).notNull(),
    /** When it was no longer found; nothing while it is there. */
    goneAt: integer({ mode: 'timestamp_ms' }),
    /** How often it came back. */
    back: integer().notNull().default(0),
    /** Left so by the owner, as long as the facts are these. */
    leftState: text(),
    leftWord: text().notNull().default(''),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.key] })],
);

/** What a browser saw of pages of the draft. */
export const pagesSeen = sqliteTable(
  'pages_seen',
  {
    siteId: text()
      .notNull()
      .references(() => sites.id),
    path: text().notNull(),
    seen: text({ mode: 'json' }).$type<SeenPage>().notNull(),
    at: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.path] })],
);

/** What was met on the live site last. */
export const liveSeen = sqliteTable('live_seen', {
  siteId: text()
    .primaryKey()
    .references(() => sites.id),
  live: text({ mode: 'json' }).$type<LiveFacts>().notNull(),
  /** Milliseconds that the front page took, the latest last. */
  times: text({ mode: 'json' }).$type<number[]>().notNull().default([]),
  at: integer({ mode: 'timestamp_ms' }).notNull(),
});
