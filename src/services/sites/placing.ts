import { and, eq, max } from 'drizzle-orm';
import { canStand } from '../../core/placement/place';
import {
  checkSettings,
  type NewPlacement,
  newPlacement,
  type Placement,
  placement as placementSchema,
} from '../../core/placement/placement';
import { pagesIn, type Reach } from '../../core/placement/reach';
import { placements } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing } from '../errors';
import { newId } from '../ids';
import { draftPlacements, loadPage, type Site } from './site';

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

/** Puts back exactly what was there, under its old id: the undo of taking away and of changing. */
export async function putBack(ctx: Ctx, site: Site, record: unknown): Promise<Placement> {
  const parsed = placementSchema.safeParse(record);
  if (!parsed.success) throw invalid('This is not a placement that can be put back.');
  const settings = checkSettings(parsed.data.kind, parsed.data.settings);
  if (!settings.ok) throw invalid(settings.error);
  const p: Placement = { ...parsed.data, settings: settings.value };
  await ctx.store.write(async (tx) => {
    const [other] = await tx
      .select({ siteId: placements.siteId })
      .from(placements)
      .where(eq(placements.id, p.id));
    if (other && other.siteId !== site.row.id) throw conflict('Another site has a placement of that name.');
    await tx.delete(placements).where(mine(site, p.id));
    await tx.insert(placements).values({ ...p, siteId: site.row.id });
  });
  return p;
}

const mine = (site: Site, id: string) => and(eq(placements.id, id), eq(placements.siteId, site.row.id));

async function one(ctx: Ctx, site: Site, id: string): Promise<Placement> {
  const found = (await draftPlacements(ctx, site.row.id)).find((p) => p.id === id);
  if (!found) throw missing('This widget is no longer in the draft. It may have been undone on the slip.');
  return found;
}
