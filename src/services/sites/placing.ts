import { and, eq, max } from 'drizzle-orm';
import { changeOf, namesIn, partOf, rebase } from '../../core/change';
import { canStand } from '../../core/placement/place';
import {
  checkSettings,
  type NewPlacement,
  newPlacement,
  type Placement,
  placement as placementSchema,
} from '../../core/placement/placement';
import { pagesIn, type Reach } from '../../core/placement/reach';
import type { Tx } from '../../data/database';
import { placements } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing } from '../errors';
import { newId } from '../ids';
import { draftPlacements, loadPage, placementsIn, type Site } from './site';
import { byId } from './state';

/** Sets a widget into the draft. Refused where it would break a page it reaches, or would be found on none of them. */
export async function place(ctx: Ctx, site: Site, asked: NewPlacement): Promise<Placement> {
  const input = newPlacement.parse(asked);
  const settings = checkSettings(input.kind, input.settings);
  if (!settings.ok) throw invalid(settings.error);
  await checkReach(ctx, site, input);
  const id = newId();
  return ctx.store.write(async (tx) => {
    const [last] = await tx
      .select({ order: max(placements.order) })
      .from(placements)
      .where(eq(placements.siteId, site.row.id));
    const made: Placement = { ...input, settings: settings.value, id, order: (last?.order ?? 0) + 1 };
    await tx.insert(placements).values({ ...made, siteId: site.row.id });
    return made;
  });
}

async function checkReach(
  ctx: Ctx,
  site: Site,
  input: Pick<Placement, 'pitch' | 'pitchLabel'> & { reach: Reach },
): Promise<void> {
  const pages = pagesIn(site.reading, input.reach);
  if (pages.length === 0) throw invalid('Choose at least one page that this site has.');
  const probe = pages.slice(0, input.reach.to === 'page' || input.reach.to === 'pages' ? pages.length : 12);
  for (const page of probe) if (canStand(await loadPage(ctx, site, page), input.pitch)) return;
  throw conflict(
    `A widget cannot stand ${input.pitchLabel}: the browser would move it. Choose the pitch next to it.`,
  );
}

/** Replaces settings, pitch or reach of a placement. */
export async function change(
  ctx: Ctx,
  site: Site,
  id: string,
  to: Partial<Pick<Placement, 'settings' | 'spelling' | 'pitch' | 'pitchLabel' | 'reach'>>,
): Promise<Placement> {
  const before = await one(ctx, site, id);
  const after: Placement = { ...before, ...to };
  const settings = checkSettings(after.kind, after.settings);
  if (!settings.ok) throw invalid(settings.error);
  if (to.pitch || to.reach) await checkReach(ctx, site, after);
  await ctx.store.write((tx) =>
    tx
      .update(placements)
      .set({
        settings: settings.value,
        spelling: after.spelling,
        pitch: after.pitch,
        pitchLabel: after.pitchLabel,
        reach: after.reach,
      })
      .where(mine(site, id)),
  );
  return { ...after, settings: settings.value };
}

export async function takeAway(ctx: Ctx, site: Site, id: string): Promise<Placement> {
  const before = await one(ctx, site, id);
  await ctx.store.write((tx) => tx.delete(placements).where(mine(site, id)));
  return before;
}

const placementChange = changeOf(placementSchema);

/**
 * Makes a change that was made before, backwards or once more: the undo and redo of the bench and of the slip. What happened to other
 * settings since stays.
 * @param asIs what is put back was published as it is: it may be of an older version, whose settings this one does not know.
 * @throws Refusal where the very same was changed since, or what is to be put back fits no more.
 */
export async function applyChange(
  ctx: Ctx,
  site: Site,
  asked: unknown,
  { asIs = false } = {},
): Promise<void> {
  const parsed = placementChange.safeParse(asked);
  if (!parsed.success) throw invalid('This is no change of placements that can be made again.');
  await ctx.store.write(async (tx) => {
    const now = (await placementsIn(tx, site.row.id)).map(asRead);
    const change = rebase(parsed.data, byId(now));
    if (!change.ok)
      throw conflict(
        'This widget was changed since, in another window or on the slip, so this step cannot be taken back. Change it here by hand.',
      );
    for (const id of namesIn(change.value)) {
      const { after } = partOf(change.value, id);
      await tx.delete(placements).where(mine(site, id));
      if (after && after.id !== id) throw invalid('A placement in this change goes by another name.');
      if (after) await putBack(tx, site, after, asIs);
    }
  });
}

/** As the schema of today reads it: a change is read so, and what an older release wrote is the same placement. */
function asRead(p: Placement): Placement {
  const read = placementSchema.safeParse(p);
  return read.success ? read.data : p;
}

async function putBack(tx: Tx, site: Site, p: Placement, asIs: boolean): Promise<void> {
  const read = checkSettings(p.kind, p.settings);
  if (!read.ok && !asIs) throw invalid(read.error);
  const settings = read.ok ? read.value : p.settings;
  const [other] = await tx.select({ id: placements.id }).from(placements).where(eq(placements.id, p.id));
  if (other) throw conflict('Another site has a placement of that name.');
  await tx.insert(placements).values({ ...p, settings, siteId: site.row.id });
}

const mine = (site: Site, id: string) => and(eq(placements.id, id), eq(placements.siteId, site.row.id));

async function one(ctx: Ctx, site: Site, id: string): Promise<Placement> {
  const found = (await draftPlacements(ctx, site.row.id)).find((p) => p.id === id);
  if (!found) throw missing('This widget is no longer in the draft. It may have been undone on the slip.');
  return found;
}
