import { count, eq, sql } from 'drizzle-orm';
import { letters } from '../../data/schema';
import type { Ctx } from '../context';

/** A letter that was given up longer ago is no news, in milliseconds. Chosen by hand. */
const LATELY_MS = 14 * 86_400_000;

/** Letters of a site that wait, those of them that the mail server refused before, and those that were given up, all and lately. */
export async function lettersWaiting(
  ctx: Ctx,
  siteId: string,
): Promise<{ waiting: number; refused: number; givenUp: number; givenUpLately: number; connected: boolean }> {
  const rows = await ctx.store.db
    .select({
      state: letters.state,
      n: count(),
      refused: sql<number>`sum(${letters.tries} > 0)`,
      lately: sql<number>`sum(${letters.notBefore} > ${ctx.now().getTime() - LATELY_MS})`,
    })
    .from(letters)
    .where(eq(letters.siteId, siteId))
    .groupBy(letters.state);
  const of = (state: string) => rows.find((r) => r.state === state);
  const waiting = of('waiting');
  return {
    waiting: waiting?.n ?? 0,
    refused: waiting?.refused ?? 0,
    givenUp: of('given-up')?.n ?? 0,
    givenUpLately: of('given-up')?.lately ?? 0,
    connected: ctx.mail !== undefined,
  };
}
