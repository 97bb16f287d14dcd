import { fingerprint } from '../../core/hash';
import { canonical } from '../../core/json';
import type { WrittenPage } from '../../core/checks/written/facts';
import { readWritten } from '../../core/checks/written/read-written';
import type { LinkBase, PagePath } from '../../core/site/paths';
import type { PageFacts } from '../../core/site/read-page';
import { reachesShopPages } from '../../core/placement/reach';
import type { Ctx } from '../context';
import { type Rendering, renderPage } from '../publishing/render';
import { pageName } from '../sites/names';
import { pageVersion } from '../sites/overview';
import type { ShopPage } from '../sites/shop-places';

interface Kept {
  readonly version: string;
  readonly page: WrittenPage;
}

/** States whose pages are kept: the draft and what is published share all but what waits on the slip. */
const STATES = 2;

/** Pages of a site as they are written, kept by what decides how each is written: after a change only what changed is written anew. */
export class WrittenPages {
  readonly #kept = new Map<string, readonly Kept[]>();

  /** @param onPage told after each page; may stop the run by throwing. */
  async all(
    ctx: Ctx,
    r: Rendering,
    onPage: (done: number, all: number) => void | Promise<void> = () => {},
  ): Promise<WrittenPage[]> {
    const shared = sharedVersion(r);
    const paths = [...r.site.reading.pages.map((p) => p.path), ...r.shopPages.map((p) => p.path)];
    // The shop may stand where the owner's front page was: then the shop's page counts.
    const wanted = [...new Set(paths)];
    const isWanted = new Set<string>(wanted);
    const out: WrittenPage[] = [];
    const names = new Map(r.site.reading.pages.map((p) => [p.path as string, pageName(r.site, p.path)]));
    const facts = new Map(r.site.reading.pages.map((p) => [p.path as string, p]));
    const has = hasIn(r);
    for (const [n, path] of wanted.entries()) {
      const shopPage = r.shopPages.find((p) => p.path === path);
      const version = `${shared} ${versionOf(r, path, shopPage)}`;
      const known = this.#kept.get(path) ?? [];
      const same = known.find((k) => k.version === version);
      const page =
        same?.page ??
        (await writtenPage(ctx, r, {
          path,
          shopPage,
          facts: facts.get(path),
          name: names.get(path) ?? path,
          has,
        }));
      this.#kept.set(
        path,
        [{ version, page }, ...known.filter((k) => k.version !== version)].slice(0, STATES),
      );
      out.push(page);
      if (!same) await new Promise(setImmediate);
      await onPage(n + 1, wanted.length);
    }
    for (const path of this.#kept.keys()) if (!isWanted.has(path)) this.#kept.delete(path);
    return out;
  }

  /** What a page was written as; it changes when the page would be written otherwise. */
  versionOf(path: string): string {
    return fingerprint(this.#kept.get(path)?.[0]?.version ?? '');
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
      r.shopPages.map((p) => [p.part, p.path]),
    ]),
  );

function versionOf(r: Rendering, path: string, shopPage: ShopPage | undefined): string {
  const here = r.placements.filter((p) =>
    shopPage ? reachesShopPages(p.reach, p.pitch.region) : r.reaches(p.reach, path),
  );
  const site = {
    ...r.site,
    row: { ...r.site.row, menu: [...r.menu], shop: r.shop, repairs: [...r.repairs] },
  };
  return pageVersion(site, here, path);
}

/** Files of the written site: the owner's own, and pages of the shop. */
function hasIn(r: Rendering): (path: string) => boolean | PagePath | undefined {
  const built = new Map(r.shopPages.map((p) => [p.path as string, p.path]));
  return (path) => built.get(path) ?? r.files.find(path);
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
    chrome: facts?.chrome ?? site.reading.pages[0]?.chrome ?? 0,
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
