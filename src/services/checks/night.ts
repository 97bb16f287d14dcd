import { and, desc, eq } from 'drizzle-orm';
import { messageOf } from '../../core/result';
import { checkRuns, sites } from '../../data/schema';
import type { Ctx } from '../context';
import { readRules } from '../rules/rules';
import { loadSite } from '../sites/site';
import { recordRun } from './checks';
import { lookAtLive } from './live';

/** The hour of the night at which live sites are looked at, by the shop's own clock. */
const HOUR = 3;

/** Looks at every live site once a night. Called now and then; whoever was looked at this night is left out. */
export async function checkByNight(ctx: Ctx): Promise<number> {
  let done = 0;
  for (const { id, publicationId } of await ctx.store.db
    .select({ id: sites.id, publicationId: sites.publicationId })
    .from(sites)) {
    if (!publicationId || !(await isDue(ctx, id))) continue;
    try {
      const site = await loadSite(ctx, { id });
      await lookAtLive(ctx, site);
      await recordRun(ctx, site, 'night');
      done++;
    } catch (error) {
      // One site that cannot be looked at does not keep the others from it.
      ctx.log.error({ site: id, error: messageOf(error) }, 'the checks of the night failed');
    }
  }
  return done;
}

async function isDue(ctx: Ctx, siteId: string): Promise<boolean> {
  const { zone } = await readRules(ctx.store.db, siteId);
  const now = ctx.now();
  if (hourIn(zone, now) !== HOUR) return false;
  const [last] = await ctx.store.db
    .select({ at: checkRuns.at })
    .from(checkRuns)
    .where(and(eq(checkRuns.siteId, siteId), eq(checkRuns.why, 'night')))
    .orderBy(desc(checkRuns.id))
    .limit(1);
  return !last || now.getTime() - last.at.getTime() > 12 * 3_600_000;
}

const hourIn = (zone: string, at: Date): number =>
  Number(new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: '2-digit', hourCycle: 'h23' }).format(at));
