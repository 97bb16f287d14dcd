import { readSeen } from '../../core/look/cascade/read-seen';
import type { Viewing } from '../../core/look/cascade/media';
import { findLook, type Found } from '../../core/look/found/found';
import type { SeenPage, SeenRegion } from '../../core/look/seen';
import type { Element } from '../../core/html/tree';
import { PageSheets } from '../../core/site/page-sheets';
import type { PagePath } from '../../core/site/paths';
import type { PageFacts, ParsedPage } from '../../core/site/read-page';
import { type Landmark, regionOf, regionsOf } from '../../core/site/regions';

/** Pages that a look is read of: more say the same once more. Chosen by hand. */
export const PAGES_READ = 12;

/** The window that pages are read in without a browser. */
const desktop: Viewing = { width: 1280, height: 800, scheme: 'light' };

/** A site's files as a look is read of them. */
export interface LookFiles {
  readonly pages: readonly PageFacts[];
  readonly paths: readonly PagePath[];
  readonly load: (path: PagePath) => Promise<ParsedPage>;
  readonly read: (path: PagePath) => Promise<Uint8Array>;
}

/** The front page, then one of each kind in each chrome, then what comes. */
export function pagesToSee(pages: readonly PageFacts[]): PageFacts[] {
  const kinds = new Set<string>();
  const first = pages.filter((p, n) => {
    const kind = `${p.kind} ${p.chrome}`;
    const isNew = n === 0 || !kinds.has(kind);
    kinds.add(kind);
    return isNew;
  });
  return [...first, ...pages.filter((p) => !first.includes(p))].slice(0, PAGES_READ);
}

/** A site's look from its style sheets and trees alone; between pages others have their turn. */
export async function readLook(files: LookFiles): Promise<Found> {
  const sheets = new PageSheets(files);
  const seen: SeenPage[] = [];
  for (const { path } of pagesToSee(files.pages)) {
    seen.push(...(await seenPages(files, sheets, path)));
    await new Promise((soon) => setTimeout(soon));
  }
  return findLook(seen, 'computed');
}

async function seenPages(files: LookFiles, sheets: PageSheets, path: PagePath): Promise<SeenPage[]> {
  const page = await files.load(path);
  const texts = await sheets.of(page);
  const spots = regionsOf(page);
  const known = new Map<Element, SeenRegion>();
  const regionIn = (el: Element): SeenRegion => {
    const found = known.get(el) ?? namedAs(regionOf(el, spots), el, spots);
    known.set(el, found);
    return found;
  };
  const see = (at: Viewing) =>
    readSeen({ page: path, doc: page.doc, sheets: texts, regionOf: regionIn }, at, sheets.rules(texts, at));
  const light = see(desktop);
  return light.hasDark ? [light, see({ ...desktop, scheme: 'dark' })] : [light];
}

function namedAs(region: Landmark | 'page', el: Element, spots: ReturnType<typeof regionsOf>): SeenRegion {
  const menu = spots.get('menu')?.element;
  for (let up: unknown = el; menu && up; up = (up as Element).parentNode) if (up === menu) return 'menu';
  return region === 'side-2' ? 'side' : region;
}
