import { and, asc, eq, isNull } from 'drizzle-orm';
import type { Placement } from '../../core/placement/placement';
import type { PagePath } from '../../core/site/paths';
import type { ShopAddress } from '../../core/site/set-up';
import { type ParsedPage, parsePageFile } from '../../core/site/read-page';
import type { RegionFact } from '../../core/site/regions';
import { type SiteReading, withOwnersWord } from '../../core/site/read-site';
import type { Db, Tx } from '../../data/database';
import { keep } from '../../data/kept-queries';
import { goods, placements, publications, sites, snapshots } from '../../data/schema';
import type { Manifest } from '../../data/schema/site';
import { Recent } from '../cache';
import type { Ctx } from '../context';
import { missing } from '../errors';

export type SiteRow = typeof sites.$inferSelect;
export type Publication = typeof publications.$inferSelect;

/** A site with what was read of it. */
export interface Site {
  readonly row: SiteRow;
  readonly manifest: Manifest;
  readonly reading: SiteReading;
  /** Where the shop is on the site as it is live; nothing while it has no page there. The draft may have moved it. */
  readonly liveShop: ShopAddress | null;
}

const snapshotCache = new Recent<string, { manifest: Manifest; reading: SiteReading }>(20);
/** What is published never changes. */
const liveShops = new Recent<string, ShopAddress | null>(60);
const pageCache = new Recent<string, ParsedPage>(60);

type SiteKey = { id: string } | { slug: string } | { draftKey: string };

const byId = keep({ id: sites.id }, (q, { id }) => q.select().from(sites).where(eq(sites.id, id)));
const bySlug = keep({ slug: sites.slug }, (q, { slug }) =>
  q.select().from(sites).where(eq(sites.slug, slug)),
);
const byDraftKey = keep({ draftKey: sites.draftKey }, (q, { draftKey }) =>
  q.select().from(sites).where(eq(sites.draftKey, draftKey)),
);

function rowsFor(db: Ctx['store']['db'], by: SiteKey): Promise<SiteRow[]> {
  if ('id' in by) return byId(db, by);
  return 'slug' in by ? bySlug(db, by) : byDraftKey(db, by);
}

/** A site with what was read of it; on another of its snapshots where one is named. */
export async function loadSite(ctx: Ctx, by: SiteKey, snapshotId?: string): Promise<Site> {
  const [found] = await rowsFor(ctx.store.db, by);
  if (!found) throw missing('There is no such site.');
  const row = snapshotId ? { ...found, snapshotId } : found;
  const snapshot = await snapshotCache.get(row.snapshotId, async () => {
    const [found] = await ctx.store.db.select().from(snapshots).where(eq(snapshots.id, row.snapshotId));
    if (!found) throw new Error(`snapshot ${row.snapshotId} is gone`);
    // Paths come from addresses that anybody may write: "constructor" is no file.
    const manifest = Object.assign(Object.create(null) as Manifest, found.manifest);
    return { manifest, reading: found.reading };
  });
  const liveShop = row.publicationId
    ? await liveShops.get(row.publicationId, async () => (await currentPublication(ctx, row))?.shop ?? null)
    : null;
  return { row, ...snapshot, liveShop };
}

const idsBySlug = new WeakMap<Ctx['store'], Map<string, string>>();

/**
 * A site for those who only read: remembered for a moment, dropped by any change here. What is written is decided by `loadSite`,
 * from the database.
 */
export async function siteForReading(ctx: Ctx, slug: string): Promise<Site> {
  if (!ctx.memo) return loadSite(ctx, { slug });
  const ids = idsBySlug.get(ctx.store) ?? new Map<string, string>();
  idsBySlug.set(ctx.store, ids);
  const id = ids.get(slug);
  const known = id && (await ctx.memo.get(id, 'site', () => loadSite(ctx, { id })).catch(() => undefined));
  // A slug may be another site's by now.
  if (known && known.row.slug === slug) return known;
  const found = await loadSite(ctx, { slug });
  ids.set(slug, found.row.id);
  return found;
}

/** One page of the owner's, parsed. Parsed pages are shared: nobody changes them. */
export async function loadPage(ctx: Ctx, site: Site, path: string): Promise<ParsedPage> {
  const hash = site.manifest[path];
  const facts = site.reading.pages.find((p) => p.path === path);
  if (!hash || !facts) throw missing(`This site has no page ${path}.`);
  return pageCache.get(`${site.row.snapshotId} ${path} ${JSON.stringify(site.row.regions)}`, async () => {
    const parsed = parsePageFile(
      path as PagePath,
      await ctx.blobs.get(hash),
      withOwnersWord(facts.regions, ownersWord(site.row, path)),
    );
    if ('problem' in parsed) throw missing(parsed.problem);
    return parsed.page;
  });
}

/** Where the owner said regions of a page are; nothing where there was no need to. */
function ownersWord(row: SiteRow, path: string): RegionFact[] | undefined {
  const regions = row.regions.filter((r) => r.pages.includes(path));
  return regions.length
    ? regions.map(({ region, path: at, from, to }) => ({
        region,
        path: at,
        confidence: 1,
        by: 'owner',
        ...(from !== undefined && { from }),
        ...(to !== undefined && { to }),
      }))
    : undefined;
}

export const draftPlacements = (ctx: Ctx, siteId: string): Promise<Placement[]> =>
  placementsIn(ctx.store.db, siteId);

/** The draft's placements, in their order; within a transaction as they are there. */
export const placementsIn = async (db: Db | Tx, siteId: string): Promise<Placement[]> =>
  (
    await db.select().from(placements).where(eq(placements.siteId, siteId)).orderBy(asc(placements.order))
  ).map(({ siteId: _, ...p }) => p);

export async function currentPublication(ctx: Ctx, site: SiteRow): Promise<Publication | undefined> {
  if (!site.publicationId) return undefined;
  return (await ctx.store.db.select().from(publications).where(eq(publications.id, site.publicationId)))[0];
}

export async function productNames(ctx: Ctx, siteId: string): Promise<Map<string, string>> {
  const rows = await ctx.store.db
    .select({ slug: goods.slug, name: goods.name })
    .from(goods)
    .where(and(eq(goods.siteId, siteId), isNull(goods.removedAt)));
  return new Map(rows.map((r) => [r.slug, r.name]));
}
