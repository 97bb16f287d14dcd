import { basename, join } from 'node:path';
import { eq } from 'drizzle-orm';
import { describePlacement } from '../../core/placement/placement';
import { placementNames, publications, sites } from '../../data/schema';
import type { Manifest } from '../../data/schema/site';
import type { Ctx } from '../context';
import { conflict } from '../errors';
import { newId } from '../ids';
import { packZip, sendToHost } from './host';
import { forgetJournal, journalsIn, readJournal, recover, writeInPlace } from './in-place';
import { renderPage, rendering } from './render';
import { difference, menuLines, placeName } from './slip';
import { currentPublication, draftPlacements, loadSite, type Publication, type Site } from './site';

export interface Published {
  readonly id: string;
  readonly changes: number;
  readonly pages: number;
  /** Placements that are on the slip but found no sure place on a page. */
  readonly lost: readonly { readonly page: string; readonly why: string }[];
}

/** Computes the site as the draft has it, as a manifest over the blob store. The owner's files stay shared. */
export async function computeManifest(ctx: Ctx, site: Site, placements: Awaited<ReturnType<typeof draftPlacements>>): Promise<{ manifest: Manifest; lost: Published['lost'] }> {
  const manifest: Manifest = { ...site.manifest };
  const lost: { page: string; why: string }[] = [];
  if (placements.length === 0 && site.row.menu.length === 0) return { manifest, lost };
  const r = await rendering(ctx, site, placements);
  for (const path of [...site.reading.pages.map((p) => p.path), ...r.shopPages.map((p) => p.path)]) {
    const out = await renderPage(ctx, r, path);
    if (out.edits.length || !manifest[path]) manifest[path] = await ctx.blobs.put(out.bytes);
    lost.push(...out.lost.map((l) => ({ page: path, why: l.why })));
    if (out.menuProblem) lost.push({ page: path, why: `the menu stayed as it is: ${out.menuProblem}` });
    await new Promise(setImmediate);
  }
  return { manifest, lost };
}

/**
 * Puts the draft on the live site in one step: compute, store, deliver, record. When delivering fails nothing is
 * recorded and the slip stays as it is.
 */
export async function publish(ctx: Ctx, site: Site, by: string): Promise<Published> {
  const placements = await draftPlacements(ctx, site.row.id);
  await resumePublishing(ctx, site.row.id);
  const before = await currentPublication(ctx, site.row);
  const changes = difference(before?.placements ?? [], placements);
  const menu = menuLines(before?.menu ?? [], site.row.menu).length;
  if (changes.length + menu === 0) throw conflict('Nothing waits on the slip: the live site is as the draft has it.');
  const { manifest, lost } = await computeManifest(ctx, site, placements);
  const previous = before?.manifest ?? site.manifest;
  const pages = changedPaths(previous, manifest);
  const row: PublicationRow = { id: newId(), siteId: site.row.id, snapshotId: site.row.snapshotId, placements, menu: site.row.menu, manifest, changes: changes.length + menu, pages: pages.length, by };
  await deliver(ctx, site, previous, row);
  await record(ctx, site, row);
  await forgetJournal(journalOf(ctx, site.row.id));
  return { id: row.id, changes: row.changes, pages: row.pages, lost };
}

type PublicationRow = Omit<Publication, 'createdAt'>;
const journalOf = (ctx: Ctx, siteId: string): string => join(ctx.journals, siteId);


export const changedPaths = (from: Manifest, to: Manifest): string[] =>
  [...new Set([...Object.keys(from), ...Object.keys(to)])].filter((p) => from[p] !== to[p]);

async function deliver(ctx: Ctx, site: Site, previous: Manifest, row: PublicationRow): Promise<void> {
  const { manifest } = row;
  const { delivery } = site.row;
  if (delivery.to === 'folder') await writeInPlace({ folder: delivery.folder, journal: journalOf(ctx, site.row.id), read: ctx.blobs.get }, previous, manifest, row);
  if (delivery.to === 'host') await sendToHost(delivery.endpoint, delivery.key, 'application/zip', await packZip(ctx, manifest));
}

async function record(ctx: Ctx, site: Site, row: PublicationRow): Promise<void> {
  const named = row.placements.map((x) => ({ siteId: site.row.id, placementId: x.id, name: `${placeName(site, x)}, ${describePlacement(x, () => undefined).split(':')[0]?.toLowerCase()} ${x.pitchLabel}` }));
  await ctx.store.write(async (tx) => {
    await tx.insert(publications).values({ ...row, createdAt: ctx.now() }).onConflictDoNothing();
    await tx.update(sites).set({ publicationId: row.id }).where(eq(sites.id, site.row.id));
    for (const n of named) {
      await tx.insert(placementNames).values(n).onConflictDoUpdate({ target: [placementNames.siteId, placementNames.placementId], set: { name: n.name } });
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
      (error: unknown) => ctx.log.error({ siteId, error: String(error) }, 'a publishing that was cut off could not be finished'),
    );
  }
}
