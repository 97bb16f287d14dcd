import { and, desc, eq } from 'drizzle-orm';
import { type Arrival, arrivalOn } from '../../core/placement/hand-out/arrival';
import { pagePath } from '../../core/site/paths';
import { type ParsedPage, parsePageFile } from '../../core/site/read-page';
import { describePlacement } from '../../core/placement/placement';
import type { Spelling } from '../../core/placement/spelling';
import { handOuts } from '../../data/schema';
import type { Ctx } from '../context';
import { isRefusal, unreachable } from '../errors';
import { shopUrl } from './addresses';
import { draftPlacements, productNames, type Site } from './site';
import { visit } from '../outside/visit';

export interface Question {
  readonly url: string;
  readonly placement: string;
  readonly kind: string;
  readonly spelling: Spelling;
}

/** Something that was handed out, and what was seen of it when it was last looked for. */
export interface HandedOut extends Question {
  readonly name: string;
  readonly found: boolean;
  readonly message: string;
  /** ISO 8601. */
  readonly lookedAt: string;
}

/** Hand-outs that are remembered of one site; more are looked for, and not kept. */
const MOST = 500;
/** Pages elsewhere that are looked at at the same time. */
const AT_ONCE = 4;

/** All that was handed out, the latest look first. */
export async function handedOut(ctx: Ctx, site: Site): Promise<HandedOut[]> {
  const [rows, names, placed] = await Promise.all([
    ctx.store.db
      .select()
      .from(handOuts)
      .where(eq(handOuts.siteId, site.row.id))
      .orderBy(desc(handOuts.lookedAt)),
    productNames(ctx, site.row.id),
    draftPlacements(ctx, site.row.id),
  ]);
  const called = new Map(placed.map((p) => [p.id, describePlacement(p, (slug) => names.get(slug))]));
  return rows.map((r) => ({
    url: r.url,
    placement: r.placementId,
    kind: r.kind,
    spelling: r.spelling,
    name: called.get(r.placementId) ?? 'A widget that was removed',
    found: r.found,
    message: r.message,
    lookedAt: r.lookedAt.toISOString(),
  }));
}

/** Looks for a widget on a page elsewhere, and remembers the answer. */
export async function lookFor(ctx: Ctx, site: Site, asked: Question): Promise<Arrival> {
  // A page that does not answer is an answer too.
  const seen = await hasArrived(ctx, site, asked).catch((error: unknown) => {
    if (!isRefusal(error)) throw error;
    return { found: false, state: 'absent' as const, message: error.message };
  });
  const row = { found: seen.found, message: seen.message, state: seen.state, lookedAt: ctx.now() };
  await ctx.store.write(async (tx) => {
    if ((await tx.$count(handOuts, eq(handOuts.siteId, site.row.id))) >= MOST) return;
    await tx
      .insert(handOuts)
      .values({
        siteId: site.row.id,
        placementId: asked.placement,
        kind: asked.kind,
        spelling: asked.spelling,
        url: asked.url,
        ...row,
      })
      .onConflictDoUpdate({
        target: [handOuts.siteId, handOuts.placementId, handOuts.spelling, handOuts.url],
        set: row,
      });
  });
  return seen;
}

/** Looks at every page that something was handed out to, a few at a time. */
export async function lookForAll(ctx: Ctx, site: Site): Promise<HandedOut[]> {
  const all = await handedOut(ctx, site);
  for (let n = 0; n < all.length; n += AT_ONCE)
    await Promise.all(all.slice(n, n + AT_ONCE).map((one) => lookFor(ctx, site, one)));
  return handedOut(ctx, site);
}

/** No longer looked for: it was taken out there, or never went there. */
export async function forget(ctx: Ctx, site: Site, one: Question): Promise<void> {
  await ctx.store.write((tx) =>
    tx
      .delete(handOuts)
      .where(
        and(
          eq(handOuts.siteId, site.row.id),
          eq(handOuts.placementId, one.placement),
          eq(handOuts.spelling, one.spelling),
          eq(handOuts.url, one.url),
        ),
      ),
  );
}

/**
 * Whether a widget that was handed out stands on a page, as its visitors get it: the page is fetched, parsed, and looked
 * through for the placement in the spelling it was handed out in, and for the script where that needs one.
 */
export async function hasArrived(ctx: Ctx, site: Site, asked: Question): Promise<Arrival> {
  const { page, url } = await fetchPage(ctx, asked.url);
  return arrivalOn(page, { ...asked, shop: shopUrl(ctx, site) }, url);
}

/** A page elsewhere, as its visitors get it. @throws Refusal where it does not answer as a page */
export async function fetchPage(ctx: Ctx, url: string): Promise<{ page: ParsedPage; url: string }> {
  const there = await visit(ctx.reach, url);
  const parsed = parsePageFile(pagePath('page.html'), there.bytes);
  if ('problem' in parsed) throw unreachable(parsed.problem);
  return { page: parsed.page, url: there.url };
}
