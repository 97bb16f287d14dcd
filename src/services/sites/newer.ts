import { pastedShopPath } from './find-file';
import { eq } from 'drizzle-orm';
import { isBuilt } from '../../core/html/fence';
import { readSource } from '../../core/html/source';
import { idsOf, withoutOwn } from '../../core/placement/compute-page';
import { type Anchoring, reanchor, type SiteVersion } from '../../core/placement/reanchor';
import type { Placement } from '../../core/placement/placement';
import { isPagePath, type PagePath } from '../../core/site/paths';
import { bareLabel, type PitchAddress } from '../../core/site/pitch';
import { sites, snapshots } from '../../data/schema';
import type { KeptLook, Manifest } from '../../data/schema/site';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import { newId } from '../ids';
import { keepFiles, type Progress, readManifest } from './bring-in';
import { again, open, type Origin } from './connections';
import type { ReadBefore } from './connections/connection';
import { followShop, shopPagesOf } from './shop-places';
import { writeDraft } from './state';
import { currentPublication, draftPlacements, loadPage, loadSite, type Site } from './site';

/** What a newer version of the owner's site means for what stands on it. Nothing of it is live. */
export interface NewerReport {
  readonly pages: {
    readonly added: readonly string[];
    readonly removed: readonly string[];
    readonly changed: readonly string[];
    readonly renamed: readonly { readonly from: string; readonly to: string }[];
  };
  readonly files: { readonly added: number; readonly removed: number; readonly changed: number };
  /** Placements that stand again, and those that need the owner's word, with the likeliest spot. */
  readonly found: number;
  readonly moved: readonly {
    readonly id: string;
    readonly page: string;
    readonly from: string;
    readonly to: string;
  }[];
  readonly lost: readonly LostLine[];
}

export interface LostLine {
  readonly id: string;
  readonly page: string;
  readonly label: string;
  readonly why: string;
  readonly best?: { readonly label: string; readonly confidence: number; readonly pitch: PitchAddress };
}

/**
 * Brings in a newer version of the owner's files, into the draft alone. What Green Stall had written into them is taken
 * out again first, so that a site exported after publishing, or a folder that was published into, reads as the owner's own.
 */
export async function bringInNewer(
  ctx: Ctx,
  site: Site,
  origin: Origin,
  progress: Progress = () => {},
): Promise<NewerReport> {
  const placements = await draftPlacements(ctx, site.row.id);
  const opened = open(origin);
  const before = await readBefore(ctx, site);
  const { manifest: found, notes, live } = await keepFiles(ctx, opened, progress, new Set(), before);
  const manifest = await ownersOwn(ctx, site, found, placements);
  if (same(manifest, site.manifest))
    throw conflict('These files are what is here already: nothing changed in them.');
  const reading = await readManifest(ctx, manifest, { notes, live }, progress);
  if (reading.pages.length === 0)
    throw invalid(
      'No page was found in the newer version, so nothing was changed. Choose the folder or ZIP that holds index.html.',
    );
  const snapshotId = newId();
  await ctx.store.write((tx) =>
    tx.insert(snapshots).values({
      id: snapshotId,
      siteId: site.row.id,
      manifest,
      reading,
      createdAt: ctx.now(),
      ...(opened.delivery?.to === 'folder' && { found }),
      ...(live && { validators: live.validators }),
    }),
  );
  return moveTo(ctx, site, snapshotId, progress);
}

/** What was read before, and what its server said of it; nothing of a site that was not read over the network. */
async function readBefore(ctx: Ctx, site: Site): Promise<ReadBefore | undefined> {
  const [row] = await ctx.store.db
    .select({ validators: snapshots.validators })
    .from(snapshots)
    .where(eq(snapshots.id, site.row.snapshotId));
  return row?.validators ? { manifest: site.manifest, validators: row.validators } : undefined;
}

/** Reads a site once more from where it came. */
export async function readAgain(ctx: Ctx, site: Site, progress: Progress = () => {}): Promise<NewerReport> {
  const origin = again(site.row.connection);
  if ('handIn' in origin) throw conflict(origin.handIn);
  return bringInNewer(ctx, site, origin, progress);
}

/** The draft stands on another snapshot: every placement is looked for there. */
async function moveTo(
  ctx: Ctx,
  site: Site,
  snapshotId: string,
  progress: Progress = () => {},
): Promise<NewerReport> {
  const placements = await draftPlacements(ctx, site.row.id);
  const after = await loadSite(ctx, { id: site.row.id }, snapshotId);
  const done = await reanchor(versionOf(ctx, site), versionOf(ctx, after), placements, (n, all) =>
    progress('Finding widgets again', n, all),
  );
  await ctx.store.write(async (tx) => {
    await tx.update(sites).set({ snapshotId }).where(eq(sites.id, site.row.id));
    await writeDraft(tx, site, {
      placements: done.placements,
      menu: followShop(site.row.menu, shopPagesOf(site, site.row.shop), shopPagesOf(after, site.row.shop)),
      shop: site.row.shop,
      repairs: site.row.repairs,
      look: lookThen(site, snapshotId),
    });
  });
  ctx.changed(site.row.id);
  return reportOf(site, after, placements, done.anchorings, done.pages);
}

/** The shop goes on wearing what was found of the site before, until the owner has looked at what changed. */
function lookThen(site: Site, to: string): KeptLook | null {
  const { look, publicationId, snapshotId } = site.row;
  if (!look && !publicationId) return null;
  const from = look?.from ?? snapshotId;
  // Back where it was read of: it hangs on the site as it is again.
  const isBack = from === to;
  if (isBack && Object.keys(look?.decisions ?? {}).length === 0) return null;
  return { decisions: look?.decisions ?? {}, ...(!isBack && { from }) };
}

export const goBackToSnapshot = async (ctx: Ctx, site: Site, snapshotId: string): Promise<void> =>
  void (await moveTo(ctx, site, snapshotId));

const versionOf = (ctx: Ctx, site: Site): SiteVersion => ({
  reading: site.reading,
  load: (path) => loadPage(ctx, site, path),
});

function reportOf(
  before: Site,
  after: Site,
  placements: readonly Placement[],
  anchorings: readonly Anchoring[],
  pages: ReadonlyMap<PagePath, PagePath | undefined>,
): NewerReport {
  const renamed = [...pages].flatMap(([from, to]) => (to && to !== from ? [{ from, to }] : []));
  const isNew = new Set<string>(renamed.map((r) => r.to));
  const wasOld = new Set<string>(renamed.map((r) => r.from));
  const diff = diffOf(before.manifest, after.manifest);
  const labels = new Map(placements.map((p) => [p.id, p.pitchLabel]));
  return {
    pages: {
      renamed,
      added: diff.added.filter((p) => isPagePath(p) && !isNew.has(p)),
      removed: diff.removed.filter((p) => isPagePath(p) && !wasOld.has(p)),
      changed: diff.changed.filter(isPagePath),
    },
    files: { added: diff.added.length, removed: diff.removed.length, changed: diff.changed.length },
    found: anchorings.filter((a) => a.found).length,
    moved: anchorings.flatMap((a) =>
      a.found && bareLabel(a.label) !== bareLabel(labels.get(a.id) ?? '')
        ? [{ id: a.id, page: a.page, from: labels.get(a.id) ?? '', to: a.label }]
        : [],
    ),
    lost: anchorings.flatMap((a) =>
      a.found
        ? []
        : [
            {
              id: a.id,
              page: a.page ?? a.was,
              label: labels.get(a.id) ?? '',
              why: a.why,
              ...(a.best && {
                best: { label: a.best.label, confidence: a.confidence, pitch: a.best.address },
              }),
            },
          ],
    ),
  };
}

function diffOf(
  before: Manifest,
  after: Manifest,
): { added: string[]; removed: string[]; changed: string[] } {
  return {
    added: Object.keys(after).filter((p) => before[p] === undefined),
    removed: Object.keys(before).filter((p) => after[p] === undefined),
    changed: Object.keys(after).filter((p) => before[p] !== undefined && before[p] !== after[p]),
  };
}

const same = (a: Manifest, b: Manifest): boolean =>
  Object.values(diffOf(a, b)).every((list) => list.length === 0);

/**
 * Files as the owner made them: a file that is just what was published is what it was before publishing; in a page that
 * changed since, what we wrote is taken out by its marks; pages that we built are left out.
 */
async function ownersOwn(
  ctx: Ctx,
  site: Site,
  found: Manifest,
  placements: readonly Placement[],
): Promise<Manifest> {
  const publication = await currentPublication(ctx, site.row);
  const mine = idsOf([...placements, ...(publication?.placements ?? [])]);
  const out: Manifest = {};
  const shopPage = pastedShopPath(site);
  // A page that was made for the shop; one that was the owner's before stays theirs.
  const isMade = (path: string) => path === shopPage && site.manifest[path] === undefined;
  const owners = Object.entries(found).filter(([path]) => !isMade(path));
  for (const [path, hash] of owners) {
    if (publication && publication.manifest[path] === hash) {
      const own = site.manifest[path];
      if (own !== undefined) out[path] = own;
      continue;
    }
    if (!isPagePath(path)) {
      out[path] = hash;
      continue;
    }
    const bytes = await ctx.blobs.get(hash);
    if (isBuilt(readSource(bytes).structure)) continue;
    const bare = withoutOwn(bytes, mine);
    out[path] = bare === bytes ? hash : await ctx.blobs.put(Buffer.from(bare));
  }
  return out;
}
