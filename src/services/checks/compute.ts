import { count, eq, max } from 'drizzle-orm';
import type { Finding } from '../../core/checks/finding';
import { findAll } from '../../core/checks/run';
import type { Reads, Subject } from '../../core/checks/subject';
import { computeWays, type Step, walkable, waysIn, type WaysFrom } from '../../core/checks/ways/ways';
import { fingerprint } from '../../core/hash';
import { canonical } from '../../core/json';
import { liveSeen, looksMeasured, pagesSeen, stockMovements, tills } from '../../data/schema';
import type { Ctx } from '../context';
import { lettersWaiting } from '../mail/letters-waiting';
import { rendering } from '../publishing/render';
import { currentPublication, loadSite, type Site } from '../sites/site';
import { draftState, publishedState, type SiteState } from '../sites/state';
import { connected } from '../till/providers';
import { subjectOf } from './subject';
import { overlapping, type Helper, type Kept as KeptPage, WrittenPages, Writer } from './written-pages';

/** What the checks say of a site as it is now. Plain data: it comes from a thread. */
export interface Checked {
  /** What it was worked out from: while that is the same, so is this. */
  readonly version: string;
  readonly findings: readonly Finding[];
  readonly ways: readonly WaysFrom[];
  /** The same ways on what is published, by path; nothing where nothing waits. */
  readonly before: readonly WaysFrom[] | null;
  readonly pages: number;
  readonly took: number;
  /** Pages with widgets that no browser has looked at since they are written as they are. */
  readonly toSee: readonly ToSee[];
  /** Versions of pages, as a browser's look at them names them. */
  readonly versions: Readonly<Record<string, string>>;
}

export interface ToSee {
  readonly path: string;
  readonly version: string;
  readonly built: boolean;
}

export interface Progress {
  readonly done: number;
  readonly all: number;
}

export class Stopped extends Error {
  override name = 'Stopped';
}

type Versions = Readonly<Record<Reads | 'site', string>>;

interface Kept {
  readonly pages: WrittenPages;
  subject?: Subject;
  checked?: Checked;
  parts?: Versions;
}

/** Sites whose pages are kept in memory. */
const SITES = 4;
/** Offers begin and end by the clock: what hangs on it is asked again after this time, in milliseconds. */
const HOUR = 3_600_000;

/** Works checks out, and keeps what they were worked out from. One for a thread. */
export class Checking {
  readonly #kept = new Map<string, Kept>();
  /** @param helper another thread, for sites with many pages */
  constructor(
    private readonly ctx: Ctx,
    private readonly helper?: Helper,
  ) {}

  /** @param onProgress told page by page; may throw {@link Stopped}. */
  async run(siteId: string, onProgress: (p: Progress) => void = () => {}): Promise<Checked> {
    const start = performance.now();
    const { ctx } = this;
    const site = await loadSite(ctx, { id: siteId });
    const state = await draftState(ctx, site);
    const parts = await versionsOf(ctx, site, state);
    const kept = this.#of(siteId);
    const version = fingerprint(canonical(parts));
    if (kept.checked?.version === version) return kept.checked;
    const r = await rendering(ctx, site, state);
    const { pages, versions } = await kept.pages.all(
      ctx,
      r,
      (done, all) => onProgress({ done, all }),
      this.helper,
    );
    const subject = await subjectOf(ctx, site, r, pages, (path) => versions.get(path) ?? '');
    const findings = findAll(subject, touchedBetween(kept.parts, parts), kept.checked?.findings);
    const ways = waysIn(subject).all;
    const checked: Checked = {
      version,
      findings,
      ways,
      before: await this.#published(site, state, kept),
      pages: pages.length,
      took: Math.round(performance.now() - start),
      toSee: pagesToSee(subject, versions),
      versions: Object.fromEntries(versions),
    };
    Object.assign(kept, { subject, checked, parts });
    return checked;
  }

  /** Ways on what is published now, where something waits that changes them. */
  async #published(site: Site, draft: SiteState, kept: Kept): Promise<readonly WaysFrom[] | null> {
    const publication = await currentPublication(this.ctx, site.row);
    // Before the first publishing there was no shop: no way is longer or shorter than none.
    if (!publication) return null;
    const before = publishedState(publication);
    const ofWays = ({ placements, menu, shop, repairs }: SiteState) =>
      canonical([placements, menu, shop, repairs]);
    if (ofWays(before) === ofWays(draft) && publication.snapshotId === site.row.snapshotId) return null;
    const then = await loadSite(this.ctx, { id: site.row.id }, publication.snapshotId);
    const r = await rendering(this.ctx, then, before);
    const { pages } = await kept.pages.all(this.ctx, r);
    return computeWays(walkable(pages)).all;
  }

  /** Writes some pages for another thread. */
  async pages(siteId: string, paths: readonly string[]): Promise<KeptPage[]> {
    const site = await loadSite(this.ctx, { id: siteId });
    const writer = new Writer(this.ctx, await rendering(this.ctx, site, await draftState(this.ctx, site)));
    const out: KeptPage[] = [];
    const known = new Set(writer.paths);
    await overlapping(
      paths.filter((path) => known.has(path)),
      async (path) => {
        out.push({ version: writer.versionOf(path), page: await writer.write(path) });
      },
    );
    return out;
  }

  /** The presses of a shortest way, as the pages were checked last. */
  async way(siteId: string, path: string, goal: 'product' | 'cart' | 'paid'): Promise<readonly Step[]> {
    await this.run(siteId);
    const { subject } = this.#of(siteId);
    return subject ? waysIn(subject).steps(path, goal) : [];
  }

  #of(siteId: string): Kept {
    const known = this.#kept.get(siteId) ?? { pages: new WrittenPages() };
    this.#kept.delete(siteId);
    this.#kept.set(siteId, known);
    for (const oldest of this.#kept.keys()) {
      if (this.#kept.size <= SITES) break;
      this.#kept.delete(oldest);
    }
    return known;
  }
}

/** Pages that are looked at of one site: enough to meet each kind of widget in each kind of page. */
const SEEN_PAGES = 24;

/** Pages that are looked at in a browser: those with widgets of their own, one of each chrome, and one where the shop's fold is open. */
function pagesToSee({ pages, seen, shopPages }: Subject, versions: ReadonlyMap<string, string>): ToSee[] {
  const chromes = new Set<string>();
  const open = besideShop(pages, shopPages.find((p) => p.part === 'shop')?.path);
  const worth = pages.filter((p) => {
    if (p.widgets.length === 0) return false;
    const isNew = !chromes.has(`${p.chrome} ${p.part === ''}`);
    chromes.add(`${p.chrome} ${p.part === ''}`);
    return isNew || p.path === open || p.widgets.some((w) => w.region === 'main');
  });
  return worth
    .slice(0, SEEN_PAGES)
    .filter((p) => !seen.has(p.path))
    .map((p) => ({ path: p.path, version: versions.get(p.path) ?? '', built: p.part !== '' }));
}

/** A page that hangs in the same fold of the menu as the shop: many menus open a fold only on the pages that are in it. */
function besideShop(pages: Subject['pages'], shop: string | undefined): string | undefined {
  if (shop === undefined) return undefined;
  const folds = pages.flatMap((p) => p.menu ?? []).map((item) => item.children);
  const around = folds.find((children) => children.some((c) => c.page === shop));
  return around?.find((c) => c.page !== undefined && c.page !== shop)?.page;
}

/** Which parts differ; all where nothing is known of before. */
function touchedBetween(before: Versions | undefined, now: Versions): ReadonlySet<Reads> | undefined {
  if (!before || before.site !== now.site) return undefined;
  return new Set(
    (Object.keys(now) as (keyof Versions)[]).filter((k): k is Reads => k !== 'site' && before[k] !== now[k]),
  );
}

/** What each part of the subject was read from. */
async function versionsOf(ctx: Ctx, site: Site, state: SiteState): Promise<Versions> {
  const { row } = site;
  const { db } = ctx.store;
  const [[till], [moved], [seen], [live], [measured], post] = await Promise.all([
    db.select({ rules: tills.rules }).from(tills).where(eq(tills.siteId, row.id)),
    db.select({ last: max(stockMovements.id) }).from(stockMovements),
    db
      .select({ last: max(pagesSeen.at), n: count() })
      .from(pagesSeen)
      .where(eq(pagesSeen.siteId, row.id)),
    db.select({ at: liveSeen.at }).from(liveSeen).where(eq(liveSeen.siteId, row.id)),
    db
      .select({ at: looksMeasured.at })
      .from(looksMeasured)
      .where(eq(looksMeasured.snapshotId, row.snapshotId)),
    lettersWaiting(ctx, row.id),
  ]);
  const of = (...values: unknown[]) => fingerprint(canonical(values));
  return {
    site: of(
      row.slug,
      row.name,
      row.liveUrl,
      row.currency,
      row.locale,
      row.setUp,
      row.publicationId,
      row.connection,
      row.delivery,
    ),
    pages: of(row.snapshotId, row.regions, state.placements, state.menu, state.shop, state.repairs),
    goods: of(row.goodsVersion, moved?.last, Math.floor(ctx.now().getTime() / HOUR)),
    till: of(till?.rules, connected(ctx), post, Math.floor(ctx.now().getTime() / HOUR)),
    look: of(row.look, row.snapshotId, measured?.at),
    live: of(live?.at),
    seen: of(seen?.last, seen?.n),
  };
}
