import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import type { MenuChange } from '../../core/placement/menu-change';
import type { KeptSetUp, ShopAddress } from '../../core/site/set-up';
import type { Found } from '../../core/look/found/found';
import type { LookPlan } from '../../core/look/plan';
import type { Wardrobe } from '../../core/look/wardrobe';
import type { ArrivalState } from '../../core/placement/hand-out/arrival';
import type { Pasted } from '../../core/placement/hand-out/pasted';
import type { Plan } from '../../core/placement/plan';
import type { Validator } from '../../services/reading/live/read-live';
import type { Placement } from '../../core/placement/placement';
import type { Repair } from '../../core/placement/repair';
import type { SiteReading } from '../../core/site/read-site';
import type { PitchAddress } from '../../core/site/pitch';
import type { Reach } from '../../core/placement/reach';
import type { Delivery } from '../../services/sites/deliveries';
import type { Connection } from '../../services/sites/connections';
import type { Spelling } from '../../core/placement/spelling';
import { versioned } from '../versioned';
import { foundLifts, lookLifts, pastedLifts, publishedLookLifts, setUpLifts, shopLifts } from './lifts';

/** What the owner decided about the look. `from`: the snapshot whose reading it is worn over, where that is not the draft's own. */
export interface KeptLook {
  readonly decisions: LookPlan;
  readonly from?: string;
}

/** A look as it was published, with what it was made over: it is the same whatever becomes of the site. */
export interface PublishedLook extends KeptLook {
  readonly wardrobe: Wardrobe;
}

/** Path to SHA-256 of the bytes. */
export type Manifest = Record<string, string>;

export const sites = sqliteTable('sites', {
  id: text().primaryKey(),
  /** In public addresses: /withybed/goods/… */
  slug: text().notNull().unique(),
  name: text().notNull(),
  currency: text().notNull(),
  locale: text().notNull(),
  /** Where shoppers find the site, with a slash at the end. */
  liveUrl: text().notNull(),
  connection: text({ mode: 'json' }).$type<Connection>().notNull(),
  delivery: text({ mode: 'json' }).$type<Delivery>().notNull(),
  /** First label of the draft's host name; unguessable, because it is all that guards the draft. */
  draftKey: text().notNull().unique(),
  /** Changes to the menu as the draft has them, in their order. */
  menu: text({ mode: 'json' }).$type<MenuChange[]>().notNull().default([]),
  /** Small changes of the owner's own pages, as the draft has them. */
  repairs: text({ mode: 'json' }).$type<Repair[]>().notNull().default([]),
  /** The owner's word on where regions are. */
  regions: text({ mode: 'json' }).$type<Plan['regions']>().notNull().default([]),
  /** The shop's own page as the draft has it; nothing while only single widgets sell. */
  shop: versioned<ShopAddress>(shopLifts)(),
  setUp: versioned<KeptSetUp>(setUpLifts)(),
  /** The look as the draft has it; nothing while it is all as it was found. */
  look: versioned<KeptLook>(lookLifts)(),
  /** What the owner of a site that only they can write said of its host; nothing yet, or of other sites. */
  pasted: versioned<Pasted>(pastedLifts)(),
  /** Grows with every change of goods, stock aside: what is kept in memory of them is good while it stays. */
  goodsVersion: integer().notNull().default(0),
  snapshotId: text().notNull(),
  publicationId: text(),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
});

export const snapshots = sqliteTable('snapshots', {
  id: text().primaryKey(),
  siteId: text().notNull(),
  manifest: text({ mode: 'json' }).$type<Manifest>().notNull(),
  reading: text({ mode: 'json' }).$type<SiteReading>().notNull(),
  /** Files of a folder as they lay there when this was read, with what we had written into them: what publishing may write over. */
  found: text({ mode: 'json' }).$type<Manifest>(),
  /** What a live site's server said of its files, so that only what changed is sent again; by path. */
  validators: text({ mode: 'json' }).$type<Record<string, Validator>>(),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
});

/** The draft: what will stand on the pages after the next publishing. */
export const placements = sqliteTable(
  'placements',
  {
    id: text().primaryKey(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    kind: text().notNull(),
    settings: text({ mode: 'json' }).$type<Record<string, unknown>>().notNull(),
    spelling: text().$type<Spelling>().notNull().default('element'),
    pitch: text({ mode: 'json' }).$type<PitchAddress>().notNull(),
    pitchLabel: text().notNull(),
    reach: text({ mode: 'json' }).$type<Reach>().notNull(),
    order: integer().notNull(),
  },
  (t) => [index('placements_site').on(t.siteId)],
);

/** What stood on the slip when it was published, so that history can be read and rolled back. */
export const publications = sqliteTable(
  'publications',
  {
    id: text().primaryKey(),
    siteId: text()
      .notNull()
      .references(() => sites.id),
    snapshotId: text().notNull(),
    placements: text({ mode: 'json' }).$type<Placement[]>().notNull(),
    menu: text({ mode: 'json' }).$type<MenuChange[]>().notNull().default([]),
    repairs: text({ mode: 'json' }).$type<Repair[]>().notNull().default([]),
    shop: versioned<ShopAddress>(shopLifts)(),
    look: versioned<PublishedLook>(publishedLookLifts)(),
    manifest: text({ mode: 'json' }).$type<Manifest>().notNull(),
    changes: integer().notNull(),
    pages: integer().notNull(),
    by: text().notNull(),
    createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('publications_site').on(t.siteId, t.createdAt)],
);

/** What a browser measured of a snapshot's look; a reading without one needs not be kept. */
export const looksMeasured = sqliteTable('looks_measured', {
  snapshotId: text().primaryKey(),
  siteId: text()
    .notNull()
    .references(() => sites.id),
  found: versioned<Found>(foundLifts)().notNull(),
  at: integer({ mode: 'timestamp_ms' }).notNull(),
});

/** Labels of placements that ever were published: orders refer to them after they are gone. */
export const placementNames = sqliteTable(
  'placement_names',
  {
    siteId: text().notNull(),
    placementId: text().notNull(),
    name: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.placementId] })],
);

/** Widgets that were handed out to pages we do not write, where, and what was seen there last. */
export const handOuts = sqliteTable(
  'hand_outs',
  {
    siteId: text()
      .notNull()
      .references(() => sites.id),
    placementId: text().notNull(),
    kind: text().notNull(),
    spelling: text().$type<Spelling>().notNull(),
    url: text().notNull(),
    found: integer({ mode: 'boolean' }).notNull(),
    message: text('says').notNull(),
    /** How it stands there; nothing of looks before this was kept. */
    state: text().$type<ArrivalState>(),
    lookedAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.placementId, t.spelling, t.url] })],
);
