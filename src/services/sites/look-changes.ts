import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { apply, type Change, changeBetween, changeOf, invert, only, rebase } from '../../core/change';
import { type DriftLine, driftLines, type Readings } from '../../core/look/drift';
import { found as foundSchema, type Found } from '../../core/look/found/found';
import { isSource, type SourceName, type Sources, sourceNames } from '../../core/look/found/sources';
import { limitText } from '../../core/limits';
import { type Decision, OWN_CSS, pinName, readDecision } from '../../core/look/plan';
import { wardrobeOf } from '../../core/look/wardrobe';
import { looksMeasured, sites } from '../../data/schema';
import type { KeptLook, PublishedLook } from '../../data/schema/site';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import { computedLook, foundLook, publishedLook, wardrobeFor } from './look';
import { REREAD } from './look-lines';
import { loadSite, type Publication, type Site } from './site';

/** A change of the look from outside. */
export const lookChange = changeOf(z.unknown()).transform((change, context): Change<Decision> => {
  const read = (name: string, value: unknown): Decision => {
    const decision = readDecision(name, value);
    if (decision === undefined)
      context.addIssue(
        name === OWN_CSS && typeof value === 'string'
          ? `Your own CSS has ${value.length.toLocaleString('en')} characters; at most ${limitText('ownCss')} are kept. Shorten it.`
          : `"${name}" is nothing that the look is made of, or cannot have this value.`,
      );
    return decision ?? '';
  };
  const all = (records: Readonly<Record<string, unknown>>) =>
    Object.fromEntries(Object.entries(records).map(([name, value]) => [name, read(name, value)]));
  return {
    added: all(change.added),
    removed: all(change.removed),
    updated: Object.fromEntries(
      Object.entries(change.updated).map(([name, [was, is]]) => [name, [read(name, was), read(name, is)]]),
    ),
  };
});

const keptOf = ({ row }: Site): KeptLook => row.look ?? { decisions: {} };

/** Writes the draft's look as it is to be, decided over how it stands at that moment. */
async function changeKept(ctx: Ctx, site: Site, to: (now: KeptLook) => KeptLook): Promise<void> {
  await ctx.store.write(async (tx) => {
    const [row] = await tx.select({ look: sites.look }).from(sites).where(eq(sites.id, site.row.id));
    const next = to(row?.look ?? { decisions: {} });
    const isPlain = Object.keys(next.decisions).length === 0 && next.from === undefined;
    await tx
      .update(sites)
      .set({ look: isPlain ? null : next })
      .where(eq(sites.id, site.row.id));
  });
  ctx.changed(site.row.id);
}

/** @throws Refusal where somebody else changed the same meanwhile */
export const changeLook = (ctx: Ctx, site: Site, change: Change<Decision>): Promise<void> =>
  changeKept(ctx, site, (now) => {
    const wanted = rebase(change, now.decisions);
    if (!wanted.ok)
      throw conflict(
        'This part of the look was changed in another window. Look at it as it is now, and change it again.',
      );
    return { ...now, decisions: apply(now.decisions, wanted.value) };
  });

/** Takes one line of the slip back. */
export async function undoLook(
  ctx: Ctx,
  site: Site,
  publication: Publication | undefined,
  name: string,
): Promise<void> {
  const published = await publishedLook(ctx, site, publication);
  if (name === REREAD) return keepPublished(ctx, site, published);
  const line = only(changeBetween<Decision>(published?.decisions ?? {}, keptOf(site).decisions), name);
  await changeLook(ctx, site, invert(line));
}

/** What the site's own reading brought is taken back by keeping each value as it is live. */
async function keepPublished(ctx: Ctx, site: Site, published: PublishedLook | null): Promise<void> {
  if (!published) return;
  const then = published.wardrobe.sources;
  const { sources: now } = await wardrobeFor(ctx, site, keptOf(site));
  await pin(ctx, site, differing(then, now), then);
}

/** Names of values that are not the same. */
export const differing = (then: Sources, now: Sources): SourceName[] =>
  sourceNames.filter((name) => (then[name] ?? '') !== (now[name] ?? ''));

const pin = (ctx: Ctx, site: Site, names: readonly SourceName[], values: Sources): Promise<void> =>
  changeKept(ctx, site, ({ decisions, ...kept }) => ({
    ...kept,
    decisions: {
      ...decisions,
      ...Object.fromEntries(names.map((name) => [pinName(name), values[name] ?? ''])),
    },
  }));

/**
 * Keeps what a browser measured of the pages as they are in the draft, with the snapshot they were of. @throws Refusal for
 * what is no such reading, and for one of pages that are others by now
 */
export async function keepMeasured(ctx: Ctx, site: Site, body: unknown): Promise<Found> {
  const read = z.object({ snapshot: z.string(), found: foundSchema }).safeParse(body);
  if (!read.success || read.data.found.by !== 'measured')
    throw invalid('This is no reading of a look. Open Look again, so that the pages are measured anew.');
  const { snapshot, found } = read.data;
  const { snapshotId } = site.row;
  if (snapshot !== snapshotId)
    throw conflict('Your site was read again while its pages were measured. Press “Measure again”.');
  const row = { snapshotId, siteId: site.row.id, found, at: ctx.now() };
  await ctx.store.write((tx) =>
    tx
      .insert(looksMeasured)
      .values(row)
      .onConflictDoUpdate({ target: looksMeasured.snapshotId, set: { found: row.found, at: row.at } }),
  );
  ctx.changed(site.row.id);
  await settle(ctx, await loadSite(ctx, { id: site.row.id }));
  return found;
}

/** What the owner does about a site that looks different by now. */
export const driftAsked = z.object({
  do: z.enum(['follow', 'keep']),
  sources: z.array(z.string().refine(isSource)).max(sourceNames.length).or(z.literal('all')),
});

/** What changed of the site since the reading that the draft's look is worn over. */
export async function driftOf(ctx: Ctx, site: Site): Promise<DriftLine[]> {
  const { from, decisions } = keptOf(site);
  if (from === undefined || from === site.row.snapshotId) return [];
  const readings = await readingsOf(ctx, site, from);
  return driftLines(readings, wardrobeOf(readings.worn), decisions);
}

async function readingsOf(ctx: Ctx, site: Site, from: string): Promise<Readings> {
  const then = await loadSite(ctx, { id: site.row.id }, from);
  return {
    worn: await foundLook(ctx, then),
    now: await foundLook(ctx, site),
    computed: { worn: await computedLook(ctx, then), now: await computedLook(ctx, site) },
  };
}

/** Follows the site in some values or in all, or keeps them as they were: what was decided is held by its value. */
export async function answerDrift(ctx: Ctx, site: Site, asked: z.infer<typeof driftAsked>): Promise<void> {
  const open = await driftOf(ctx, site);
  const chosen = asked.sources === 'all' ? open : open.filter(({ source }) => asked.sources.includes(source));
  if (chosen.length === 0) throw conflict('This was decided already: the list is as it is now.');
  const values = Object.fromEntries(
    chosen.map(({ source, was, is }) => [source, asked.do === 'follow' ? is : was]),
  );
  await pin(
    ctx,
    site,
    chosen.map((line) => line.source),
    values,
  );
  await settle(ctx, await loadSite(ctx, { id: site.row.id }));
}

/**
 * When nothing is left to decide, and the site as it is was read as well as it was before, the look hangs on the site as it
 * is. What is held by the very value that the site has needs not be held.
 */
export async function settle(ctx: Ctx, site: Site): Promise<void> {
  const { from } = keptOf(site);
  if (from === undefined || (await driftOf(ctx, site)).length > 0) return;
  const { worn, now } = await readingsOf(ctx, site, from);
  if (worn.by === 'measured' && now.by !== 'measured') return;
  await changeKept(ctx, site, ({ decisions }) => ({
    decisions: Object.fromEntries(
      Object.entries(decisions).filter(([name, value]) => {
        const [kind, of = ''] = name.split(':');
        return kind !== 'pin' || !isSource(of) || value !== (now.sources[of] ?? '');
      }),
    ),
  }));
}
