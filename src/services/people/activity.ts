import { and, desc, eq, lt } from 'drizzle-orm';
import { activity, goods, orders, placements, sites } from '../../data/schema';
import type { Ctx } from '../context';

/** Lines that are told at once. */
const PAGE = 100;
/**
 * How long it is remembered who did what, in milliseconds: thirteen months, so that a year can be looked
 * back on. Chosen by hand.
 */
const KEPT_MS = 396 * 24 * 60 * 60_000;

export interface Activity {
  /** Nobody who is signed in: somebody tried to be. */
  readonly person: { readonly id: string; readonly name: string } | undefined;
  /** The site it was done on; none for accounts. */
  readonly siteId?: string;
  /** A route of the contract. */
  readonly what: string;
  /** What it was done to, as people call it. */
  readonly subject?: string;
}

/** Somebody did something. That it cannot be written down stops nobody's work; it is logged. */
export async function recordActivity(
  ctx: Ctx,
  { person, siteId, what, subject = '' }: Activity,
): Promise<void> {
  const row = {
    at: ctx.now(),
    userId: person?.id ?? null,
    name: person?.name ?? '',
    siteId: siteId ?? null,
    what,
    subject: subject.slice(0, 200),
  };
  await ctx.store
    .write((tx) => tx.insert(activity).values(row))
    .catch((error: unknown) =>
      ctx.log.error({ error: String(error), what }, 'what was done was not written down'),
    );
}

export interface ActivityLine {
  readonly id: number;
  readonly at: Date;
  readonly name: string;
  readonly site: string | null;
  readonly what: string;
  readonly subject: string;
}

/** Who did what, the latest first. @param before the id of the last line that is there. */
export async function listActivity(
  ctx: Ctx,
  before: number | undefined,
): Promise<{ lines: ActivityLine[]; more: boolean }> {
  const rows = await ctx.store.db
    .select({
      id: activity.id,
      at: activity.at,
      name: activity.name,
      site: sites.name,
      what: activity.what,
      subject: activity.subject,
    })
    .from(activity)
    .leftJoin(sites, eq(sites.id, activity.siteId))
    .where(before === undefined ? undefined : lt(activity.id, before))
    .orderBy(desc(activity.id))
    .limit(PAGE + 1);
  return { lines: rows.slice(0, PAGE), more: rows.length > PAGE };
}

/** What is looked up by the first part of a route, to call it by its name. */
const named: Readonly<Record<string, (ctx: Ctx, siteId: string, id: string) => Promise<string | undefined>>> =
  {
    goods: async (ctx, siteId, id) => {
      const [row] = await ctx.store.db
        .select({ name: goods.name })
        .from(goods)
        .where(and(eq(goods.id, id), eq(goods.siteId, siteId)));
      return row?.name;
    },
    orders: async (ctx, siteId, id) => {
      const [row] = await ctx.store.db
        .select({ number: orders.number })
        .from(orders)
        .where(and(eq(orders.id, id), eq(orders.siteId, siteId)));
      return row?.number?.toString();
    },
    placements: async (ctx, siteId, id) => {
      const [row] = await ctx.store.db
        .select({ kind: placements.kind })
        .from(placements)
        .where(and(eq(placements.id, id), eq(placements.siteId, siteId)));
      return row?.kind;
    },
  };

/** What a route is about, by its name: asked before it is done, because afterwards it may be gone. */
export async function subjectOf(
  ctx: Ctx,
  siteId: string,
  route: string,
  id: string | undefined,
): Promise<string> {
  const kind = /^\S+ (\w+)/.exec(route)?.[1] ?? '';
  return (id && (await named[kind]?.(ctx, siteId, id))) || '';
}

export async function forgetOldActivity(ctx: Ctx): Promise<void> {
  const before = new Date(ctx.now().getTime() - KEPT_MS);
  await ctx.store.write((tx) => tx.delete(activity).where(lt(activity.at, before)));
}
