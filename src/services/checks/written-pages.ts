import { fingerprint } from '../../core/hash';
import { canonical } from '../../core/json';
import type { WrittenPage } from '../../core/checks/written/facts';
import { readWritten } from '../../core/checks/written/read-written';
import type { LinkBase, PagePath } from '../../core/site/paths';
import type { PageFacts } from '../../core/site/read-page';
import type { Placement } from '../../core/placement/placement';
import { chooseModel } from '../../core/placement/shop-page';
import { reachesShopPages } from '../../core/placement/reach';
import type { Ctx } from '../context';
import { type Rendering, renderPage } from '../publishing/render';
import { pageName } from '../sites/names';
import type { ShopPage } from '../sites/shop-places';

export interface Kept {
  readonly version: string;
  readonly page: WrittenPage;
}

/** Somebody else who writes pages meanwhile: another thread, which reads the same database. */
export type Helper = (siteId: string, paths: readonly string[]) => Promise<readonly Kept[]>;

/** States whose pages are kept: the draft and what is published share all but what waits on the slip. */
const STATES = 2;
/** Pages from which on a helper is worth its start; and how many each takes at a time, so that both end together. */
const MANY = 120;
const BATCH = 40;

interface Written {
  readonly pages: WrittenPage[];
  readonly versions: ReadonlyMap<string, string>;
}

type OnPage = (done: number, all: number) => void;

/** Pages of a site as they are written, kept by what decides how each is written: after a change only what changed is written anew. */
export class WrittenPages {
  readonly #kept = new Map<string, readonly Kept[]>();

  /** @param onPage told after each page; may stop the run by throwing. @returns pages, and what each changes with */
  async all(ctx: Ctx, r: Rendering, onPage: OnPage = () => {}, helper?: Helper): Promise<Written> {
    const writer = new Writer(ctx, r);
    const versions = new Map(writer.paths.map((path) => [path, writer.versionOf(path)]));
    const missing = writer.paths.filter((path) => !this.#find(path, versions.get(path)));
    let done = writer.paths.length - missing.length;
    const told = (n: number) => onPage((done += n), writer.paths.length);
    const queue = [...missing];
    await Promise.all([
      this.#write(writer, versions, queue, told),
      helper && missing.length > MANY && this.#let(helper, r.site.row.id, queue, told),
    ]);
    // What a helper wrote of another state than this one is written here.
    await this.#write(
      writer,
      versions,
      missing.filter((path) => !this.#find(path, versions.get(path))),
      () => {},
    );
    const isWanted = new Set(writer.paths);
    for (const path of this.#kept.keys()) if (!isWanted.has(path)) this.#kept.delete(path);
    return { pages: writer.paths.flatMap((path) => this.#find(path, versions.get(path)) ?? []), versions };
  }

  #find(path: string, version: string | undefined): WrittenPage | undefined {
    return this.#kept.get(path)?.find((k) => k.version === version)?.page;
  }

  #keep(path: string, kept: Kept): void {
    const others = (this.#kept.get(path) ?? []).filter((k) => k.version !== kept.version);
    this.#kept.set(path, [kept, ...others].slice(0, STATES));
  }

  async #write(
    writer: Writer,
    versions: ReadonlyMap<string, string>,
    queue: string[],
    told: (n: number) => void,
  ): Promise<void> {
    await overlapping(queue, async (path) => {
      this.#keep(path, { version: versions.get(path) ?? '', page: await writer.write(path) });
      await new Promise(setImmediate);
      told(1);
    });
  }

  async #let(helper: Helper, siteId: string, queue: string[], told: (n: number) => void): Promise<void> {
    while (queue.length > BATCH) {
      const batch = queue.splice(-BATCH);
      for (const kept of await helper(siteId, batch)) this.#keep(kept.page.path, kept);
      told(batch.length);
    }
  }
}

/**
 * Does it with all of a queue, two under way at a time: while one waits for its file, the other is worked on. What fails or stops
 * ends both.
 */
export async function overlapping(queue: string[], work: (path: string) => Promise<void>): Promise<void> {
  const line = async () => {
    for (let path = queue.shift(); path !== undefined; path = queue.shift()) await work(path);
  };
  try {
    await Promise.all([line(), line()]);
  } finally {
    queue.length = 0;
  }
}

/** Writes pages of one state. */
export class Writer {
  /** The owner's pages, then those of the shop. The shop may stand where the owner's front page was: then it counts. */
  readonly paths: readonly string[];
  readonly #shared: string;
  readonly #names: ReadonlyMap<string, string>;
  readonly #facts: ReadonlyMap<string, PageFacts>;
  readonly #shop: ReadonlyMap<string, ShopPage>;
  readonly #has: Asked['has'];
  /** Placements, each with what changes when it does. */
  readonly #placements: readonly { readonly p: Placement; readonly print: string }[];

  constructor(
    private readonly ctx: Ctx,
    private readonly r: Rendering,
  ) {
    const { pages } = r.site.reading;
    this.paths = [...new Set<string>([...pages.map((p) => p.path), ...r.shopPages.map((p) => p.path)])];
    this.#shared = sharedVersion(r);
    this.#names = new Map(pages.map((p) => [p.path, pageName(r.site, p.path)]));
    this.#facts = new Map(pages.map((p) => [p.path, p]));
    this.#shop = new Map(r.shopPages.map((p) => [p.path, p]));
    this.#has = hasIn(r);
    this.#placements = r.placements.map((p) => ({ p, print: fingerprint(canonical(p)) }));
  }

  /** Changes when the page would be written otherwise. */
  versionOf(path: string): string {
    const isShop = this.#shop.has(path);
    const here = this.#placements.filter(({ p }) =>
      isShop ? reachesShopPages(p.reach, p.pitch.region) : this.r.reaches(p.reach, path),
    );
    const repairs = this.r.repairs.filter((x) => x.page === path);
    const own = repairs.length ? canonical(repairs) : '';
    return fingerprint(`${this.#shared} ${here.map((x) => x.print).join(' ')} ${own}`);
  }

  write(path: string): Promise<WrittenPage> {
    return writtenPage(this.ctx, this.r, {
      path,
      shopPage: this.#shop.get(path),
      facts: this.#facts.get(path),
      name: this.#names.get(path) ?? path,
      has: this.#has,
    });
  }
}

/** What every page is written with beside its own. */
const sharedVersion = (r: Rendering): string =>
  fingerprint(
    canonical([
      r.site.row.snapshotId,
      r.site.row.liveUrl,
      r.site.row.slug,
      r.site.row.currency,
      r.site.row.regions,
      r.menu,
      r.shop,
      r.shopPages.map((p) => [p.part, p.path]),
    ]),
  );

/** Files of the written site: the owner's own, and pages of the shop. */
function hasIn(r: Rendering): (path: string) => boolean | PagePath | undefined {
  const built = new Map(r.shopPages.map((p) => [p.path as string, p.path]));
  return (path) => built.get(path) ?? r.find(path);
}

interface Asked {
  readonly path: string;
  readonly shopPage: ShopPage | undefined;
  readonly facts: PageFacts | undefined;
  readonly name: string;
  readonly has: (path: string) => boolean | PagePath | undefined;
}

async function writtenPage(
  ctx: Ctx,
  r: Rendering,
  { path, shopPage, facts, name, has }: Asked,
): Promise<WrittenPage> {
  const out = await renderPage(ctx, r, path);
  const { site } = r;
  const base = baseFor(site.row.liveUrl, path as PagePath);
  const read = readWritten(out.page, out.edits, {
    has,
    currency: site.row.currency,
    scriptUrl: `${ctx.addresses.shop}/stall.js`,
    shopUrl: `${ctx.addresses.shop}/${site.row.slug}`,
    ...(base && { base }),
    placed: (id) => r.placements.find((p) => p.id === id),
  });
  const added = out.edits.reduce((n, e) => n + e.inserted.length - e.removed.length, 0);
  return {
    ...read,
    path: path as PagePath,
    address: facts?.address ?? shopPage?.address ?? `/${path}`,
    name: shopPage?.name ?? name,
    kind: facts?.kind ?? 'other',
    lang: facts?.lang || site.reading.lang,
    // Pages of the shop have the header of the page that they are made like.
    chrome: facts?.chrome ?? chooseModel(site.reading.pages)?.chrome ?? 0,
    part: shopPage?.part ?? '',
    menuProblem: out.menuProblem ?? '',
    lost: out.lost.map((l) => ({ id: l.id, why: l.why, best: l.best?.label ?? '' })),
    bytes: out.bytes.length,
    added: shopPage ? 0 : added,
  };
}

/** Links of a page: whole addresses of the live site are the site's own. */
function baseFor(liveUrl: string, path: PagePath): LinkBase | undefined {
  if (!liveUrl.startsWith('http')) return undefined;
  const url = new URL(liveUrl);
  return url.pathname === '/' ? { path, hosts: new Set([url.host.replace(/^www\./, '')]) } : undefined;
}
