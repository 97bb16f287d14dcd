import { count, eq } from 'drizzle-orm';
import { letters } from '../../data/schema';
import type { Ctx } from '../context';

/** Letters of a site that wait, and that were given up. */
export async function lettersWaiting(
  ctx: Ctx,
  siteId: string,
): Promise<{ waiting: number; givenUp: number; connected: boolean }> {
  const rows = await ctx.store.db
    .select({ state: letters.state, n: count() })
    .from(letters)
    .where(eq(letters.siteId, siteId))
    .groupBy(letters.state);
  const of = (state: string) => rows.find((r) => r.state === state)?.n ?? 0;
  return { waiting: of('waiting'), givenUp: of('given-up'), connected: ctx.mail !== undefined };
}
