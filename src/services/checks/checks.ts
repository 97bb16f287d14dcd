import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Finding, groupKey, isHeavy } from '../../core/checks/finding';
import { compareRuns } from '../../core/checks/run';
import type { Step, WaysFrom } from '../../core/checks/ways/ways';
import { checkRuns, findings as findingRows } from '../../data/schema';
import type { RunWhy } from '../../data/schema/checks';
import type { Ctx } from '../context';
import { invalid, missing } from '../errors';
import type { Site } from '../sites/site';
import { type Checked, type Progress, Stopped } from './compute';
import { checker } from './in-thread';
import { lookAtLive } from './live';

/** A finding as the owner reads it. */
export interface FindingView extends Finding {
  /** It was not there when the checks ran last. */
  readonly isNew: boolean;
  /** How often it came back after it was mended. */
  readonly back: number;
  readonly since: string;
  /** Left so by the owner, with a word. */
  readonly left: string | null;
}

export interface RunView {
  readonly at: string;
  readonly why: RunWhy;
  readonly found: number;
  readonly mended: number;
  readonly back: number;
}

export interface WayRow extends WaysFrom {
  readonly built: boolean;
  /** As it is on what is published; nothing where that is the same. */
  readonly was: Pick<WaysFrom, 'product' | 'cart' | 'paid'> | null;
}

export interface ChecksView {
  /** The checks are under way; what stands here is of before. */
  readonly running: Progress | null;
  /** Nothing was worked out yet. */
  readonly isFirst: boolean;
  /** The owner stopped them: what stands here may be of before. */
  readonly isStopped: boolean;
  readonly findings: readonly FindingView[];
  readonly left: readonly FindingView[];
  readonly ways: readonly WayRow[];
  readonly runs: readonly RunView[];
  /** Findings of the last run that are gone since. */
  readonly mendedSince: number;
  readonly pages: number;
  readonly tookMs: number;
  /** Pages that are still to be looked at in a browser. */
  readonly toSee: Checked['toSee'];
}

/** What the slip and the top bar say: findings to be mended, and those that lose the sale. */
export interface ChecksCount {
  readonly toMend: number;
  readonly losesSale: number;
  readonly canWait: number;
  readonly running: boolean;
  /** They are through at least once: before that nothing is known to be well. */
  readonly isKnown: boolean;
}

/** How long an answer waits for a run before it tells of the one before, in milliseconds. */
const PATIENCE = 1_200;

/** The checks as they are now; where they take long, as they were, and how far they are. */
export async function checksView(ctx: Ctx, site: Site): Promise<ChecksView> {
  const { checked, running } = await latest(ctx, site);
  const [rows, runs] = await Promise.all([knownOf(ctx, site.row.id), runsOf(ctx, site.row.id)]);
  const known = new Map(rows.map((r) => [r.key, r]));
  const all = (checked?.findings ?? []).map((f): FindingView => {
    const row = known.get(f.key);
    return {
      ...f,
      isNew: runs.length > 0 && (!row || row.goneAt !== null),
      back: row ? row.back + Number(row.goneAt !== null) : 0,
      since: (row?.firstAt ?? ctx.now()).toISOString(),
      left: row?.leftState === f.state ? row.leftWord : null,
    };
  });
  const now = new Set(all.map((f) => f.key));
  const before = new Map(checked?.before?.map((w) => [w.path, w]));
  return {
    running,
    isFirst: checked === undefined,
    isStopped: checker(ctx).isStopped(site.row.id),
    findings: all.filter((f) => f.left === null),
    left: all.filter((f) => f.left !== null),
    ways: (checked?.ways ?? []).map((w) => ({
      ...w,
      built: !site.reading.pages.some((p) => p.path === w.path),
      was: wasOf(w, before.get(w.path)),
    })),
    runs,
    mendedSince: checked ? rows.filter((r) => r.goneAt === null && !now.has(r.key)).length : 0,
    pages: checked?.pages ?? site.reading.pages.length,
    tookMs: checked?.took ?? 0,
    toSee: checked?.toSee ?? [],
  };
}

function wasOf(now: WaysFrom, was: WaysFrom | undefined): WayRow['was'] {
  if (!was || (was.product === now.product && was.cart === now.cart && was.paid === now.paid)) return null;
  return { product: was.product, cart: was.cart, paid: was.paid };
}

export async function checksCount(ctx: Ctx, site: Site): Promise<ChecksCount> {
  const { checked, running } = await latest(ctx, site);
  const left = new Map((await knownOf(ctx, site.row.id)).map((r) => [r.key, r.leftState]));
  const open = (checked?.findings ?? []).filter((f) => left.get(f.key) !== f.state);
  const told = (which: (f: Finding) => boolean) => new Set(open.filter(which).map(groupKey)).size;
  return {
    toMend: told((f) => isHeavy(f.weight)),
    losesSale: told((f) => f.weight === 'sale'),
    canWait: told((f) => !isHeavy(f.weight)),
    running: running !== null,
    isKnown: checked !== undefined,
  };
}

async function latest(
  ctx: Ctx,
  site: Site,
): Promise<{ checked: Checked | undefined; running: Progress | null }> {
  const checks = checker(ctx);
  const looking = checks.looking(site.row.id);
  if (checks.isStopped(site.row.id)) return { checked: checks.last(site.row.id), running: looking ?? null };
  const run = checks.run(site.row.id);
  const late = new Promise<undefined>((resolve) => setTimeout(resolve, PATIENCE));
  const done = await Promise.race([run.done, late]).catch((error: unknown) => {
    if (error instanceof Stopped) return undefined;
    throw error;
  });
  return { checked: done ?? run.before, running: looking ?? (done ? null : run.progress()) };
}

const knownOf = (ctx: Ctx, siteId: string) =>
  ctx.store.db.select().from(findingRows).where(eq(findingRows.siteId, siteId));

async function runsOf(ctx: Ctx, siteId: string): Promise<RunView[]> {
  const rows = await ctx.store.db
    .select()
    .from(checkRuns)
    .where(eq(checkRuns.siteId, siteId))
    .orderBy(desc(checkRuns.id))
    .limit(12);
  return rows.map(({ at, why, found, mended, back }) => ({ at: at.toISOString(), why, found, mended, back }));
}

/** Stops the run that is under way; what was known before stays. */
export function stopChecks(ctx: Ctx, site: Site): void {
  checker(ctx).stop(site.row.id);
}

/** Runs the checks to their end and keeps what came and went. */
export async function recordRun(ctx: Ctx, site: Site, why: RunWhy): Promise<Checked> {
  checker(ctx).goOn(site.row.id);
  const checked = await checker(ctx).run(site.row.id).done;
  const siteId = site.row.id;
  const at = ctx.now();
  await ctx.store.write(async (tx) => {
    const rows = await tx.select().from(findingRows).where(eq(findingRows.siteId, siteId));
    const known = new Map(rows.map((r) => [r.key, r]));
    const diff = compareRuns(
      rows.map((r) => ({ key: r.key, gone: r.goneAt !== null })),
      checked.findings,
    );
    const now = checked.findings.map((finding) => {
      const before = known.get(finding.key);
      const back = (before?.back ?? 0) + Number(before?.goneAt != null);
      return { siteId, key: finding.key, firstAt: at, finding, goneAt: null, back };
    });
    for (const some of inLots(now))
      await tx
        .insert(findingRows)
        .values(some)
        .onConflictDoUpdate({
          target: [findingRows.siteId, findingRows.key],
          set: { finding: sql`excluded.finding`, goneAt: null, back: sql`excluded.back` },
        });
    for (const some of inLots(diff.mended))
      await tx
        .update(findingRows)
        .set({ goneAt: at })
        .where(and(eq(findingRows.siteId, siteId), inArray(findingRows.key, some)));
    await tx.insert(checkRuns).values({
      siteId,
      why,
      found: checked.findings.length,
      fresh: diff.fresh.length,
      mended: diff.mended.length,
      back: diff.back.length,
      pages: checked.pages,
      took: checked.took,
      at,
    });
  });
  return checked;
}

/** Rows of one statement: far below what SQLite takes as values of one. */
const LOT = 400;
const inLots = <T>(all: readonly T[]): T[][] =>
  Array.from({ length: Math.ceil(all.length / LOT) }, (_, n) => all.slice(n * LOT, (n + 1) * LOT));

/** Runs the checks because the owner wants it, over the live site as well. Stopped, what was known before stays. */
export async function runOnWish(ctx: Ctx, site: Site, { live }: { readonly live: boolean }): Promise<void> {
  const checks = checker(ctx);
  checks.goOn(site.row.id);
  try {
    if (live) await checks.look(site.row.id, (told) => lookAtLive(ctx, site, told));
    await recordRun(ctx, site, 'asked');
  } catch (error) {
    if (!(error instanceof Stopped)) throw error;
  }
}

/** Longest word that an owner leaves something with. */
const WORD = 200;

/** Leaves a finding so, until its facts change; an empty `leave` takes that back. */
export async function leaveFinding(
  ctx: Ctx,
  site: Site,
  { keys, word }: { readonly keys: readonly string[]; readonly word: string | null },
): Promise<void> {
  const { findings } = await checker(ctx).run(site.row.id).done;
  const wanted = findings.filter((f) => keys.includes(f.key));
  if (wanted.length === 0) throw missing('This is no longer found: it may have been mended meanwhile.');
  const siteId = site.row.id;
  await ctx.store.write(async (tx) => {
    for (const finding of wanted) {
      const set =
        word === null ? { leftState: null, leftWord: '' } : { leftState: finding.state, leftWord: word };
      await tx
        .insert(findingRows)
        .values({ siteId, key: finding.key, finding, firstAt: ctx.now(), ...set })
        .onConflictDoUpdate({ target: [findingRows.siteId, findingRows.key], set });
    }
  });
}

/** The presses of a page's shortest way. */
export const wayOf = (
  ctx: Ctx,
  site: Site,
  path: string,
  goal: 'product' | 'cart' | 'paid',
): Promise<readonly Step[]> => checker(ctx).way(site.row.id, path, goal);

const leave = z.object({
  keys: z.array(z.string().max(200)).min(1).max(3_000),
  word: z.string().trim().max(WORD).nullable(),
});

export function parseLeave(asked: unknown): z.infer<typeof leave> {
  const parsed = leave.safeParse(asked);
  if (!parsed.success) throw invalid(`Say what is left so, with a word of at most ${WORD} characters.`);
  return parsed.data;
}

const goals = ['product', 'cart', 'paid'] as const;
export const goalOf = (asked: string | undefined): (typeof goals)[number] =>
  goals.find((g) => g === asked) ?? 'paid';
