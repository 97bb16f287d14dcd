import { entryAt } from '../entries';
import { fingerprint } from '../hash';
import { bodyOf, type Element, elementsIn, rawText } from '../html/tree';
import { bareLabel } from '../site/pitch';
import type { Pitch } from '../site/pitch';
import { resolveFrom } from '../site/resolve-pitch';
import type { PagePath } from '../site/paths';
import type { ParsedPage } from '../site/read-page';
import type { SiteReading } from '../site/read-site';
import type { Placement } from './placement';
import { pagesIn, type Reach } from './reach';

export interface SiteVersion {
  readonly reading: Pick<SiteReading, 'pages'>;
  readonly load: (path: PagePath) => Promise<ParsedPage>;
}

/** What became of one placement on one page of the newer version. */
export type Anchoring =
  | {
      readonly id: string;
      readonly page: PagePath;
      readonly was: PagePath;
      readonly found: true;
      readonly label: string;
      readonly confidence: number;
      readonly pitch: Pitch;
    }
  | {
      readonly id: string;
      readonly page: PagePath | undefined;
      readonly was: PagePath;
      readonly found: false;
      readonly why: string;
      readonly confidence: number;
      readonly best?: Pitch;
    };

export interface Reanchored {
  /** Pages of the older version by what they are called now; nothing where they are gone. */
  readonly pages: ReadonlyMap<PagePath, PagePath | undefined>;
  readonly anchorings: readonly Anchoring[];
  /** The placements with their addresses and pages brought up to date; those that are lost keep the old ones. */
  readonly placements: readonly Placement[];
}

/**
 * Finds every placement again in a newer version of its site. Pages are matched by path, else by what they say;
 * pitches by what stands around them. What is not surely found is reported with the best proposal, never set.
 */
export async function reanchor(
  before: SiteVersion,
  after: SiteVersion,
  placements: readonly Placement[],
  onPage: (done: number, all: number) => void = () => {},
): Promise<Reanchored> {
  const pages = await matchPages(before, after);
  const work = placements.flatMap((p) =>
    pagesIn(before.reading, p.reach).map((was) => ({ p, was: was as PagePath })),
  );
  const anchorings: Anchoring[] = [];
  for (const [n, { p, was }] of work.entries()) {
    anchorings.push(await findAgain(before, after, p, was, pages.get(was)));
    onPage(n + 1, work.length);
  }
  return { pages, anchorings, placements: placements.map((p) => broughtUp(p, pages, anchorings)) };
}

async function findAgain(
  before: SiteVersion,
  after: SiteVersion,
  p: Placement,
  was: PagePath,
  page: PagePath | undefined,
): Promise<Anchoring> {
  if (!page) return { id: p.id, page, was, found: false, confidence: 0, why: `the page ${was} is gone` };
  const at = resolveFrom(await before.load(was), await after.load(page), p.pitch);
  if (at.found)
    return {
      id: p.id,
      page,
      was,
      found: true,
      label: at.pitch.label,
      confidence: at.confidence,
      pitch: at.pitch,
    };
  return {
    id: p.id,
    page,
    was,
    found: false,
    confidence: at.confidence,
    why: `what stood around it (${p.pitchLabel}) was not surely found`,
    ...(at.best && { best: at.best }),
  };
}

function reachNow(reach: Reach, now: (path: string) => string): Reach {
  if (reach.to === 'page') return { ...reach, page: now(reach.page) };
  if (reach.to === 'pages') return { ...reach, pages: reach.pages.map(now) };
  if (reach.to === 'chrome') return { ...reach, like: now(reach.like), except: reach.except.map(now) };
  return { ...reach, except: reach.except.map(now) };
}

/** A placement of one page takes the address it has there now; a reach that names pages takes their new names. */
function broughtUp(
  p: Placement,
  pages: ReadonlyMap<PagePath, PagePath | undefined>,
  anchorings: readonly Anchoring[],
): Placement {
  const mine = anchorings.filter((a) => a.id === p.id);
  const now = (path: string): string => pages.get(path as PagePath) ?? path;
  const reach = reachNow(p.reach, now);
  const [only] = mine;
  return mine.length === 1 && only?.found
    ? {
        ...p,
        reach,
        pitch: only.pitch.address,
        pitchLabel: bareLabel(p.pitchLabel) === only.label ? p.pitchLabel : only.label,
      }
    : { ...p, reach };
}

/** Share of a page's blocks that must be found on a page of another name for the two to be one; chosen by hand. */
const SAME_PAGE = 0.5;

/** Old pages by their new path: the same where it is still there, else the new page that holds most of their blocks. */
async function matchPages(
  before: SiteVersion,
  after: SiteVersion,
): Promise<Map<PagePath, PagePath | undefined>> {
  const now = new Set<PagePath>(after.reading.pages.map((p) => p.path));
  const then = new Set<PagePath>(before.reading.pages.map((p) => p.path));
  const pages = new Map<PagePath, PagePath | undefined>(
    [...then].map((path) => [path, now.has(path) ? path : undefined]),
  );
  const gone = [...then].filter((path) => !now.has(path));
  const come = [...now].filter((path) => !then.has(path));
  if (gone.length === 0 || come.length === 0) return pages;
  const holders = await holdersOf(after, come);
  const common = await commonMarks(before);
  for (const path of gone) {
    // Blocks that other pages hold too are chrome: they tell nothing.
    const telling = [...(await marksOf(before, path))].filter((m) => !common.has(m));
    const same = mostOf(telling, holders);
    if (same) pages.set(path, same);
  }
  return pages;
}

/** The pages that hold a block, by what marks the block. */
async function holdersOf(version: SiteVersion, paths: readonly PagePath[]): Promise<Map<string, PagePath[]>> {
  const holders = new Map<string, PagePath[]>();
  for (const path of paths) {
    for (const mark of await marksOf(version, path)) {
      const known = holders.get(mark);
      if (known) known.push(path);
      else holders.set(mark, [path]);
    }
  }
  return holders;
}

/** The page that holds most of these blocks: enough of them, and clearly more than any other. */
function mostOf(
  telling: readonly string[],
  holders: ReadonlyMap<string, readonly PagePath[]>,
): PagePath | undefined {
  const counts = new Map<PagePath, number>();
  for (const mark of telling)
    for (const page of holders.get(mark) ?? []) counts.set(page, (counts.get(page) ?? 0) + 1);
  const [best, second] = [...counts].sort((a, b) => b[1] - a[1]);
  const [page, held] = best ?? [undefined, 0];
  return held >= telling.length * SAME_PAGE && held > (second?.[1] ?? 0) * 1.5 ? page : undefined;
}

/** Blocks that several pages of the older version hold; looked for on a few dozen of them. */
async function commonMarks(version: SiteVersion): Promise<ReadonlySet<string>> {
  const counts = new Map<string, number>();
  const { pages } = version.reading;
  for (let n = 0; n < pages.length; n += Math.max(1, Math.floor(pages.length / 40))) {
    for (const mark of await marksOf(version, entryAt(pages, n).path))
      counts.set(mark, (counts.get(mark) ?? 0) + 1);
  }
  return new Set([...counts].filter(([, n]) => n > 1).map(([mark]) => mark));
}

async function marksOf(version: SiteVersion, path: PagePath): Promise<ReadonlySet<string>> {
  const body = bodyOf((await version.load(path)).doc);
  return new Set(body ? leafMarks(body) : []);
}

/** Fingerprints of the innermost elements that hold text. */
function leafMarks(root: Element): string[] {
  const out: string[] = [];
  const stack: Element[] = [root];
  for (let el = stack.pop(); el; el = stack.pop()) {
    const kids = elementsIn(el);
    const mark = kids.length === 0 ? markOf(el) : '';
    if (mark) out.push(mark);
    stack.push(...kids);
  }
  return out;
}

const markOf = (el: Element): string => {
  const text = rawText(el).replace(/\s+/g, '').toLowerCase();
  return text ? fingerprint(text) : '';
};
