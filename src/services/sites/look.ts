import { eq } from 'drizzle-orm';
import type { Found } from '../../core/look/found/found';
import type { Look } from '../../core/look/look';
import { type Dressed, dress, type Wardrobe, wardrobeOf } from '../../core/look/wardrobe';
import { canonical } from '../../core/json';
import { looksMeasured } from '../../data/schema';
import type { KeptLook, PublishedLook } from '../../data/schema/site';
import { Recent } from '../cache';
import type { Ctx } from '../context';
import type { PagePath } from '../../core/site/paths';
import { readLook } from './read-look';
import { currentPublication, loadPage, loadSite, type Publication, type Site } from './site';

const computedLooks = new Recent<string, Promise<Found>>(30);
const dressedLooks = new Recent<string, Dressed>(60);

/** A site's look from its style sheets alone, made once for a snapshot. */
export async function computedLook(ctx: Ctx, site: Site): Promise<Found> {
  const { snapshotId, regions } = site.row;
  const make = () =>
    readLook({
      pages: site.reading.pages,
      paths: Object.keys(site.manifest) as PagePath[],
      load: (path) => loadPage(ctx, site, path),
      read: (path) => ctx.blobs.get(site.manifest[path] ?? ''),
    });
  return computedLooks.get(`${snapshotId} ${JSON.stringify(regions)}`, make);
}

/** What a browser measured of the snapshot, if one did. */
export async function measuredLook(ctx: Ctx, snapshotId: string): Promise<Found | undefined> {
  const [row] = await ctx.store.db
    .select()
    .from(looksMeasured)
    .where(eq(looksMeasured.snapshotId, snapshotId));
  return row?.found;
}

/** What was found of a site's look: as it was measured, else as its style sheets say. */
export const foundLook = async (ctx: Ctx, site: Site): Promise<Found> =>
  (await measuredLook(ctx, site.row.snapshotId)) ?? (await computedLook(ctx, site));

/** What a look is worn over: what it was published with, else the reading that it names, else the draft's own. */
export async function wardrobeFor(
  ctx: Ctx,
  site: Site,
  look: KeptLook | PublishedLook | null,
): Promise<Wardrobe> {
  if (look && 'wardrobe' in look) return look.wardrobe;
  const from = look?.from ?? site.row.snapshotId;
  const of = from === site.row.snapshotId ? site : await loadSite(ctx, { id: site.row.id }, from);
  return wardrobeOf(await foundLook(ctx, of));
}

/** The shop in a look of a state. */
export async function dressedIn(
  ctx: Ctx,
  site: Site,
  look: KeptLook | PublishedLook | null,
): Promise<Dressed> {
  const own = await wardrobeFor(ctx, site, look);
  const decisions = look?.decisions ?? {};
  return dressedLooks.get(canonical({ own, decisions }), () => dress(own, decisions));
}

/** The look of the draft. */
export const draftLook = async (ctx: Ctx, site: Site): Promise<Look> =>
  (await dressedIn(ctx, site, site.row.look)).look;

/**
 * The look of a publication. Those of before there were looks wear what their style sheets say, whatever was measured since:
 * nothing becomes live that was not published.
 */
export async function publishedLook(
  ctx: Ctx,
  site: Site,
  publication: Publication | undefined,
): Promise<PublishedLook | null> {
  if (!publication || publication.look) return publication?.look ?? null;
  const { placements, menu, shop } = publication;
  // Nothing of ours is live: nothing wears a look.
  if (placements.length === 0 && menu.length === 0 && shop === null) return null;
  const then = await loadSite(ctx, { id: site.row.id }, publication.snapshotId);
  return { decisions: {}, wardrobe: wardrobeOf(await computedLook(ctx, then)) };
}

const liveLooks = new Recent<string, Look>(60);

/** The look that shoppers meet: the published one. Where nothing was published yet there is but the draft's. */
export async function liveLook(ctx: Ctx, site: Site): Promise<Look> {
  const { publicationId } = site.row;
  if (!publicationId) return draftLook(ctx, site);
  const make = async (): Promise<Look> => {
    const look = await publishedLook(ctx, site, await currentPublication(ctx, site.row));
    return (await dressedIn(ctx, site, look)).look;
  };
  return liveLooks.get(publicationId, make);
}

/** Live pages wear the look that was published, those of the draft the draft's: they say whose they are by its key. */
export const lookFor = (ctx: Ctx, site: Site, draft: string | null | undefined): Promise<Look> =>
  draft === site.row.draftKey ? draftLook(ctx, site) : liveLook(ctx, site);
