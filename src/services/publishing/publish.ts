import { basename, join } from 'node:path';
import { and, desc, eq, isNotNull } from 'drizzle-orm';
import { UNWRITTEN } from '../../core/placement/kinds/notice';
import { describePlacement, standsWhere } from '../../core/placement/placement';
import { placementNames, publications, sites, snapshots } from '../../data/schema';
import type { Manifest } from '../../data/schema/site';
import type { Ctx } from '../context';
import { namesIn } from '../../core/change';
import { isPagePath } from '../../core/site/paths';
import { conflict, missing } from '../errors';
import { newId } from '../ids';
import { forgetJournal, journalsIn, readJournal, recover } from '../sites/in-place';
import { deliveryOf, type DeliveryName } from '../sites/deliveries';
import { renderPage, rendering } from './render';
import { publishedLook, wardrobeFor } from '../sites/look';
import { lookLines } from '../sites/look-lines';
import { placeName } from '../sites/names';
import { isNewer, menuLines, newerLines, repairLines, shopLines } from '../sites/slip';
import {
  difference,
  draftState,
  isUntouched,
  publishedState,
  setDraft,
  type SiteState,
  untouched,
  writeDraft,
} from '../sites/state';
import { currentPublication, loadSite, type Publication, type Site } from '../sites/site';

export interface Published {
  readonly id: string;
  readonly changes: number;
  readonly pages: number;
  /** Where it went. */
  readonly delivered: DeliveryName;
  /** Nothing is live yet: the owner puts it up. */
  readonly byHand: boolean;
  readonly liveUrl: string;
  /** Placements that are on the slip but found no sure place on a page. */
  readonly lost: readonly { readonly page: string; readonly why: string }[];
}

/** Computes the site as a state has it, as a manifest over the blob store. The owner's files stay shared. */
export async function computeManifest(
  ctx: Ctx,
  site: Site,
  state: SiteState,
): Promise<{ manifest: Manifest; lost: Published['lost'] }> {
  const manifest: Manifest = { ...site.manifest };
  const lost: { page: string; why: string }[] = [];
  if (isUntouched(state)) return { manifest, lost };
  const r = await rendering(ctx, site, state);
  const built = new Set<string>(r.shopPages.map((p) => p.path));
  for (const path of new Set([...site.reading.pages.map((p) => p.path), ...built])) {
    const out = await renderPage(ctx, r, path);
    if (out.edits.length || built.has(path)) manifest[path] = await ctx.blobs.put(out.bytes);
    lost.push(...out.lost.map((l) => ({ page: path, why: l.why })));
    if (out.menuProblem) lost.push({ page: path, why: `the menu stayed as it is: ${out.menuProblem}` });
    await new Promise(setImmediate);
  }
  return { manifest, lost };
}

/** How many lines of the slip lie between two states. */
async function countChanges(
  ctx: Ctx,
  site: Site,
  publication: Publication | undefined,
  draft: SiteState,
): Promise<number> {
  const before = publishedState(publication);
  return (
    namesIn(difference(before.placements, draft.placements, isNewer(site, publication))).length +
    menuLines(before.menu, draft.menu).length +
    repairLines(before.repairs, draft.repairs).length +
    shopLines(before.shop, draft.shop).length +
    (await lookLines(ctx, site, await publishedLook(ctx, site, publication), draft.look)).length +
    newerLines(site, publication).length
  );
}

/**
 * Puts the draft on the live site in one step: compute, store, deliver, record. When delivering fails nothing is
 * recorded and the slip stays as it is.
 */
export async function publish(ctx: Ctx, site: Site, by: string): Promise<Published> {
  await resumePublishing(ctx, site.row.id);
  const state = await draftState(ctx, site);
  const before = await currentPublication(ctx, site.row);
  const changes = await countChanges(ctx, site, before, state);
  if (changes === 0) throw conflict('Nothing waits on the slip: the live site is as the draft has it.');
  refuseUnwritten(site, state);
  // Where the owner pastes code, no page of theirs is written.
  const { manifest, lost } =
    site.row.delivery.to === 'paste'
      ? { manifest: { ...site.manifest }, lost: [] }
      : await computeManifest(ctx, site, state);
  const { id, pages } = await bringOut(ctx, site, { state, manifest, changes, by });
  return { ...wentTo(site), id, changes, pages, lost };
}

/** Words that only hold a place are not the owner's: nobody wants them live. */
function refuseUnwritten(site: Site, { placements }: SiteState): void {
  const unwritten = placements.find((p) => p.kind === 'notice' && p.settings.text === UNWRITTEN);
  if (unwritten)
    throw conflict(
      `The notice on ${placeName(site, unwritten)} still says \u201c${UNWRITTEN}\u201d Write what it shall say, or take it away; then publish.`,
    );
}

const wentTo = ({ row }: Site): Pick<Published, 'delivered' | 'byHand' | 'liveUrl'> => ({
  delivered: row.delivery.to,
  byHand: deliveryOf(row.delivery).byHand,
  liveUrl: row.liveUrl,
});

interface Bringing {
  readonly state: SiteState;
  readonly manifest: Manifest;
  readonly changes: number;
  readonly by: string;
  /** The draft becomes what is published, in the same transaction that records it: the owner's files of then with it, or what is placed alone. */
  readonly takesDraft?: TakesDraft;
}

/** Delivers a manifest and records it as what is live now. */
async function bringOut(
  ctx: Ctx,
  site: Site,
  { state, manifest, changes, by, takesDraft }: Bringing,
): Promise<{ id: string; pages: number }> {
  const previous = await lastKnown(ctx, site);
  const pages = changedPaths(previous, manifest);
  const row: PublicationRow = {
    id: newId(),
    siteId: site.row.id,
    snapshotId: site.row.snapshotId,
    placements: [...state.placements],
    menu: [...state.menu],
    shop: state.shop,
    repairs: [...state.repairs],
    look: isUntouched(state) ? null : await lookToPublish(ctx, site, state.look),
    manifest,
    changes,
    pages: pages.length,
    by,
    ...(takesDraft && { takesDraft }),
  };
  await deliveryOf(site.row.delivery).deliver(ctx, site.row.delivery, {
    previous,
    manifest: row.manifest,
    journal: journalOf(ctx, site.row.id),
    note: row,
  });
  await record(ctx, site, row);
  await forgetJournal(journalOf(ctx, site.row.id));
  return { id: row.id, pages: pages.length };
}

/** A look with what it is worn over, so that it stays what it is. */
const lookToPublish = async (
  ctx: Ctx,
  site: Site,
  look: SiteState['look'],
): Promise<PublicationRow['look']> => ({
  ...look,
  decisions: look?.decisions ?? {},
  wardrobe: await wardrobeFor(ctx, site, look),
});

/** What lies on the live site as far as we know: what was published, or what a newer reading of its folder found there since. */
async function lastKnown(ctx: Ctx, site: Site): Promise<Manifest> {
  const publication = await currentPublication(ctx, site.row);
  return (await foundSince(ctx, site, publication)) ?? publication?.manifest ?? site.manifest;
}

/** What lay in the site's folder when it was read again after a publication; nothing where it was not. */
async function foundSince(
  ctx: Ctx,
  site: Site,
  publication: Publication | undefined,
): Promise<Manifest | undefined> {
  const [snapshot] = await ctx.store.db
    .select({ found: snapshots.found, at: snapshots.createdAt })
    .from(snapshots)
    .where(and(eq(snapshots.siteId, site.row.id), isNotNull(snapshots.found)))
    .orderBy(desc(snapshots.createdAt))
    .limit(1);
  return snapshot?.found && (!publication || snapshot.at > publication.createdAt)
    ? snapshot.found
    : undefined;
}

/**
 * Puts an earlier publication back on the live site, byte for byte as it was then, and makes the draft that state, so that
 * nothing is left waiting. It is a publication of its own: what was live until now can be gone back to likewise.
 */
export async function rollBack(ctx: Ctx, site: Site, publicationId: string, by: string): Promise<Published> {
  await resumePublishing(ctx, site.row.id);
  const [to] = await ctx.store.db
    .select()
    .from(publications)
    .where(and(eq(publications.siteId, site.row.id), eq(publications.id, publicationId)));
  if (!to) throw missing('This publication is no longer kept.');
  if (to.id === site.row.publicationId) throw conflict('This is what is live now.');
  const then: Site = { ...site, row: { ...site.row, snapshotId: to.snapshotId } };
  const state = publishedState(to);
  const { id, pages } = await bringOut(ctx, then, {
    state,
    manifest: to.manifest,
    changes: to.changes,
    by,
    takesDraft: 'whole',
  });
  return { ...wentTo(site), id, changes: to.changes, pages, lost: [] };
}

export interface Proof {
  /** Files whose SHA-256 is that of the owner's own, and all of the owner's. */
  readonly same: number;
  readonly all: number;
  /** A few of them, for the eye. */
  readonly files: readonly { readonly path: string; readonly was: string; readonly now: string }[];
  /** Files that Green Stall had added, and that are gone. */
  readonly removed: readonly string[];
}

/**
 * Takes everything of Green Stall out of the live site, and shows the proof: the hash of each file as the owner gave it
 * beside that of what is live now, read back from where it lies where that can be read.
 */
export async function leave(ctx: Ctx, site: Site, by: string): Promise<Proof> {
  await resumePublishing(ctx, site.row.id);
  const before = await currentPublication(ctx, site.row);
  const own = await ownersFilesLive(ctx, site, before);
  if (before && !isUntouched(publishedState(before)))
    // The draft is given up when the live site is bare again, and not before: a host that refuses leaves all as it was.
    await bringOut(ctx, own, {
      state: untouched,
      manifest: { ...own.manifest },
      changes: await countChanges(ctx, own, before, untouched),
      by,
      takesDraft: 'placements',
    });
  else await setDraft(ctx, site, untouched);
  return proofOf(
    ctx,
    { ...own, row: (await loadSite(ctx, { id: site.row.id })).row },
    Object.keys(before?.manifest ?? {}),
  );
}

/**
 * The owner's own files as they are live: those of the last publication, and not a newer version that waits in the draft; in a
 * folder that was read again since, what lies there is the newer already.
 */
async function ownersFilesLive(ctx: Ctx, site: Site, before: Publication | undefined): Promise<Site> {
  if (!before || before.snapshotId === site.row.snapshotId || (await foundSince(ctx, site, before)))
    return site;
  return loadSite(ctx, { id: site.row.id }, before.snapshotId);
}

/** Every file of the owner's, by its hash as it was brought in and as it is live. */
async function proofOf(ctx: Ctx, site: Site, wasLive: readonly string[]): Promise<Proof> {
  const { delivery } = site.row;
  const live = (await currentPublication(ctx, site.row))?.manifest ?? site.manifest;
  const hashNow = async (path: string): Promise<string> =>
    deliveryOf(delivery).hashThere(delivery, path) ?? live[path] ?? '';
  const files = await Promise.all(
    Object.entries(site.manifest).map(async ([path, was]) => ({ path, was, now: await hashNow(path) })),
  );
  const pagesFirst = [...files].sort(
    (a, b) =>
      Number(b.was !== b.now) - Number(a.was !== a.now) ||
      Number(isPagePath(b.path)) - Number(isPagePath(a.path)) ||
      (a.path < b.path ? -1 : 1),
  );
  return {
    same: files.filter((f) => f.was === f.now).length,
    all: files.length,
    files: pagesFirst.slice(0, 200),
    removed: wasLive.filter((p) => site.manifest[p] === undefined && live[p] === undefined).sort(),
  };
}

type PublicationRow = Omit<Publication, 'createdAt'> & { readonly takesDraft?: TakesDraft };
type TakesDraft = 'whole' | 'placements';
const journalOf = (ctx: Ctx, siteId: string): string => join(ctx.journals, siteId);

export const changedPaths = (from: Manifest, to: Manifest): string[] =>
  [...new Set([...Object.keys(from), ...Object.keys(to)])].filter((p) => from[p] !== to[p]);

async function record(ctx: Ctx, site: Site, { takesDraft, ...row }: PublicationRow): Promise<void> {
  const named = row.placements.map((x) => ({
    siteId: site.row.id,
    placementId: x.id,
    name: `${placeName(site, x)}, ${describePlacement(x, () => undefined)
      .split(':')[0]
      ?.toLowerCase()} ${standsWhere(x)}`,
  }));
  await ctx.store.write(async (tx) => {
    await tx
      .insert(publications)
      .values({ ...row, createdAt: ctx.now() })
      .onConflictDoNothing();
    await tx.update(sites).set({ publicationId: row.id }).where(eq(sites.id, site.row.id));
    if (takesDraft) {
      if (takesDraft === 'whole')
        await tx.update(sites).set({ snapshotId: row.snapshotId }).where(eq(sites.id, site.row.id));
      await writeDraft(tx, site, row);
    }
    for (const n of named) {
      await tx
        .insert(placementNames)
        .values(n)
        .onConflictDoUpdate({
          target: [placementNames.siteId, placementNames.placementId],
          set: { name: n.name },
        });
    }
  });
  ctx.changed(site.row.id);
}

/**
 * A publishing into a folder that was cut off (the journal is still there) is finished and recorded: the owner had
 * pressed Publish. Where somebody changed a file of it meanwhile, it stays as it is, and the owner is told.
 */
export async function resumePublishing(ctx: Ctx, siteId: string): Promise<boolean> {
  const journal = journalOf(ctx, siteId);
  const begun = await readJournal(journal);
  if (!begun) return false;
  await recover({ folder: begun.folder, journal, read: ctx.blobs.get }, 'finish');
  await record(ctx, await loadSite(ctx, { id: siteId }), begun.note as PublicationRow);
  await forgetJournal(journal);
  return true;
}

/** At start: every publishing that the last run left unfinished. One that cannot be finished does not keep the rest shut. */
export async function resumePublishings(ctx: Ctx): Promise<void> {
  for (const journal of await journalsIn(ctx.journals)) {
    const siteId = basename(journal);
    await resumePublishing(ctx, siteId).then(
      (done) => done && ctx.log.warn({ siteId }, 'a publishing that was cut off has been finished'),
      (error: unknown) =>
        ctx.log.error(
          { siteId, error: String(error) },
          'a publishing that was cut off could not be finished',
        ),
    );
  }
}
