import { eq } from 'drizzle-orm';
import { limits, limitText } from '../../core/limits';
import { repair as repairSchema, type Repair, type RepairAsked, spotOf } from '../../core/placement/repair';
import { sites } from '../../data/schema';
import type { Ctx } from '../context';
import { BeyondLimit, conflict, invalid } from '../errors';
import { newId } from '../ids';
import { loadPage, type Site } from './site';

/**
 * Makes a small change of one of the owner's pages in the draft. Where the same spot is repaired already, that repair is changed.
 * @throws Refusal where the spot is not there, or cannot be written.
 */
export async function addRepair(ctx: Ctx, site: Site, asked: RepairAsked): Promise<Repair> {
  const page = await loadPage(ctx, site, asked.page);
  const found = spotOf(page, asked, `mend-${newId()}`);
  if (!found.ok) throw conflict(found.error);
  const made = repairSchema.safeParse(found.value);
  if (!made.success) throw invalid(made.error.issues[0]?.message ?? 'This is no change that can be made.');
  return ctx.store.write(async (tx) => {
    const [row] = await tx.select({ repairs: sites.repairs }).from(sites).where(eq(sites.id, site.row.id));
    const before = row?.repairs ?? [];
    const same = before.find((r) => isSameSpot(r, made.data));
    const kept = same ? { ...made.data, id: same.id } : made.data;
    if (!same && before.length >= limits.repairs.most)
      throw new BeyondLimit(
        'repairs',
        `A site keeps ${limitText('repairs')} of this kind. Undo some on the slip, or change your own file.`,
      );
    await tx
      .update(sites)
      .set({ repairs: [...before.filter((r) => r !== same), kept] })
      .where(eq(sites.id, site.row.id));
    return kept;
  });
}

const isSameSpot = (a: Repair, b: Repair): boolean =>
  a.page === b.page && a.source === b.source && a.nth === b.nth && a.act.do === b.act.do;

/** Gives the draft what is published of one repair. */
export async function undoRepair(
  ctx: Ctx,
  site: Site,
  published: readonly Repair[],
  id: string,
): Promise<void> {
  await ctx.store.write(async (tx) => {
    const [row] = await tx.select({ repairs: sites.repairs }).from(sites).where(eq(sites.id, site.row.id));
    const was = published.filter((r) => r.id === id);
    await tx
      .update(sites)
      .set({ repairs: [...(row?.repairs ?? []).filter((r) => r.id !== id), ...was] })
      .where(eq(sites.id, site.row.id));
  });
}
