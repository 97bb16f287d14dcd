import { and, eq } from 'drizzle-orm';
import { liveChanges } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, missing } from '../errors';
import type { Site } from '../sites/site';

/** A line of the slip that is live already, to be undone. @throws Refusal where it is gone or undone. */
export const liveChange = async (ctx: Ctx, site: Site, id: number) => {
  const [row] = await ctx.store.db
    .select()
    .from(liveChanges)
    .where(and(eq(liveChanges.id, id), eq(liveChanges.siteId, site.row.id)));
  if (!row) throw missing('This line is not on the slip any more.');
  if (row.undoneAt) throw conflict('This was undone already.');
  return row;
};
