import { entryAt } from '../entries';
import type { ShownBlocks } from './as-shown';
import { readSource, textOf } from '../html/source';
import { bodyOf } from '../html/tree';
import { groupByChrome } from './chrome';
import type { Explained } from './find/explain';
import { explainRegions, findRegions } from './find-regions';
import { type MenuItem, readMenu } from './menu';
import { Outline } from './outline';
import { PageSheets } from './page-sheets';
import { kindsOf } from './page-kind';
import { FileIndex, isPagePath, type PagePath, resolveLink } from './paths';
import { isPicturePath, type PictureFacts, pictureSize } from './pictures';
import { factsOf, type PageFacts, parsePageFile } from './read-page';
import { elementAt, type Landmark, landmarks, type RegionFact, UNSURE } from './regions';
import { type Section, sectionsOf } from './sections';
import { type FontFace, readStyle } from './styles';
import { type ShownAll, type ShownTask, StyledReader } from './styled-page';
import { type Survey, switchesPages } from './survey';
import { type Surveyed, surveyFile } from './survey-file';

/** Pages that share their header, menu, columns and footer. */
export interface ChromeFacts {
  readonly id: number;
  readonly pages: number;
  /** The page whose copy of the menu was read. */
  readonly model: PagePath;
  readonly lang: string;
  readonly menu: readonly MenuItem[];
}

/** A site as it was read: plain data, stored with the snapshot it was read from. */
export interface SiteReading {
  readonly name: string;
  readonly lang: string;
  readonly languages: readonly string[];
  readonly pages: readonly PageFacts[];
  /** The menu as the front page has it. */
  readonly menu: readonly MenuItem[];
  readonly chrome: readonly ChromeFacts[];
  readonly sections: readonly Section[];
  readonly pictures: readonly PictureFacts[];
  readonly fonts: readonly {
    readonly family: string;
    readonly weight: string;
    readonly style: string;
    readonly file: string;
    readonly missing: boolean;
  }[];
  /** How a visitor gets from page to page, and what says so. */
  readonly moves: { readonly how: 'reloads' | 'switches' | 'one page'; readonly why: string };
  /** Regions the owner should look at: nobody can be sure of them from the files. */
  readonly unsure: readonly {
    readonly page: PagePath;
    readonly region: Landmark;
    readonly confidence: number;
    readonly pages: number;
  }[];
  /** Files that were left out or could not be read as what they claim to be; sentences for the owner. */
  readonly notes: readonly string[];
}

/** A file's bytes by path. Reading a site touches one file at a time, so memory stays with the largest page. */
export interface SiteFiles {
  readonly paths: readonly PagePath[];
  readonly read: (path: PagePath) => Promise<Uint8Array>;
  /** The first bytes of a file, where that is cheaper. */
  readonly head?: (path: PagePath, bytes: number) => Promise<Uint8Array>;
}

/** Pages read one by one or by several threads; answers come in the order of the paths. */
export type SurveyAll = (paths: readonly PagePath[], files: SiteFiles, onPage: OnPage) => Promise<Surveyed[]>;
export type OnPage = (done: number, all: number) => Promise<void> | void;

export interface ReadOptions {
  /** Hears of progress; may be used to yield, or to stop by throwing. */
  readonly onPage?: OnPage;
  readonly surveyAll?: SurveyAll;
  /** Reads how blocks stand by style sheets; in this thread where nothing is said. */
  readonly shownAll?: ShownAll;
  /** Hears why regions of a page are where they are. */
  readonly onRegions?: (path: PagePath, why: readonly Explained[]) => void;
  /** The page that visitors meet first, where no file name says it. */
  readonly front?: PagePath | undefined;
  /** The owner's word on regions, by page; it goes before anything found. */
  readonly ownerRegions?: readonly { readonly page: PagePath; readonly regions: readonly RegionFact[] }[];
}

/** Files that are fetched before their turn. */
const AHEAD = 8;

const inThisThread: SurveyAll = async (paths, files, onPage) => {
  const index = new FileIndex(files.paths);
  const out: Surveyed[] = [];
  // The next files are fetched while this one is parsed. A failure is met where its turn comes.
  const coming: Promise<Uint8Array>[] = [];
  for (const [n, path] of paths.entries()) {
    for (let ahead = n + coming.length; ahead < Math.min(paths.length, n + AHEAD); ahead++) {
      const bytes = files.read(entryAt(paths, ahead));
      bytes.catch(() => {});
      coming.push(bytes);
    }
    out.push(surveyFile(path, await (coming.shift() as Promise<Uint8Array>), index.find));
    await onPage(out.length, paths.length);
  }
  return out;
};

const shownHere: ShownAll = async (tasks) => {
  const reader = new StyledReader();
  return tasks.map((task) => reader.shown(task));
};

/** Reads every page of a site, and the site as a whole. */
export async function readSite(
  files: SiteFiles,
  {
    onPage = () => {},
    surveyAll = inThisThread,
    shownAll = shownHere,
    ownerRegions: says = [],
    onRegions,
    front: first,
  }: ReadOptions = {},
): Promise<SiteReading> {
  const index = new FileIndex(files.paths);
  const candidates = files.paths
    .filter(isPagePath)
    .sort((a, b) => Number(b === first) - Number(a === first) || frontFirst(a, b));
  const surveyed = await surveyAll(candidates, files, onPage);
  const surveys = surveyed.flatMap((s) => ('survey' in s ? [s.survey] : []));
  const { regions, groupOf, chrome } = await readChrome(
    surveys,
    files,
    index,
    new Map(says.map((s) => [s.page, s.regions])),
    shownAll,
    onRegions,
  );
  const front = surveys[0];
  const menu = chrome[groupOf[0] ?? 0]?.menu ?? [];
  const kinds = kindsOf(surveys, front?.path);
  const byPath = new Map(surveys.map((s) => [s.path, s]));
  const { sections, of } = sectionsOf(
    surveys.map((s) => s.path),
    menu,
    (p) => byPath.get(p)?.heading || byPath.get(p)?.title || p,
  );
  const pages = surveys.map((s, n) =>
    factsOf(s, {
      kind: kinds.get(s.path) ?? 'other',
      section: of.get(s.path) ?? '',
      chrome: groupOf[n] ?? 0,
      regions: regions[n] ?? [],
    }),
  );
  const styles = await readStyles(surveys, files, index);
  return {
    name: siteName(pages),
    lang: front?.lang ?? '',
    languages: [...new Set(pages.map((p) => p.lang.toLowerCase()).filter(Boolean))],
    pages,
    menu,
    chrome,
    sections,
    pictures: await readPictures(surveys, files),
    fonts: styles.fonts,
    moves: await howItMoves(surveys, files, index),
    unsure: whatIsUnsure(pages),
    notes: [
      ...surveyed.flatMap((s) => ('problem' in s ? [s.problem] : [])),
      ...index.twins.map(
        ([a, b]) =>
          `${a} and ${b} differ by capital letters alone. Many hosts show only one of them: give one another name.`,
      ),
      ...fenceNotes(surveys),
      ...styles.notes,
    ],
  };
}

async function readChrome(
  surveys: readonly Survey[],
  files: SiteFiles,
  index: FileIndex,
  says: ReadonlyMap<PagePath, readonly RegionFact[]>,
  shownAll: ShownAll,
  onRegions: ReadOptions['onRegions'],
) {
  const outlines = surveys.map((s) => new Outline(s.outline.rows, s.outline.tags));
  const groups = groupByChrome(outlines);
  const regions: RegionFact[][] = surveys.map(() => []);
  const groupOf: number[] = surveys.map(() => 0);
  const chrome: ChromeFacts[] = [];
  const firsts = groups.slice(0, MAKES).map((g) => entryAt(surveys, g.pages[0] ?? 0));
  const shownBy = await shownOf(firsts, files, shownAll);
  for (const [id, group] of groups.entries()) {
    const shown = shownBy[id];
    for (const n of group.pages) {
      groupOf[n] = id;
      const path = entryAt(surveys, n).path;
      regions[n] = withOwnersWord(findRegions(entryAt(outlines, n), group.core, shown), says.get(path));
      onRegions?.(path, explainRegions(entryAt(outlines, n), group.core, shown));
    }
    const model =
      group.pages.find((n) => regions[n]?.some((r) => r.region === 'menu')) ?? group.pages[0] ?? 0;
    const path = entryAt(surveys, model).path;
    chrome.push({
      id,
      pages: group.pages.length,
      model: path,
      lang: surveys[model]?.lang ?? '',
      menu: await menuOf(path, regions[model] ?? [], files, index),
    });
  }
  return { regions, groupOf, chrome };
}

/** Makes of pages whose style sheets are looked at, those with the most pages first. Chosen by hand. */
const MAKES = 60;

/** Letters of style sheets that are gone through in one reading: strangers' sheets may be of any size. Chosen by hand. */
const STYLES = 3_000_000;

/** How blocks of pages stand on a wide screen by their style sheets; undefined for pages that have none, or too many. */
async function shownOf(
  pages: readonly Survey[],
  files: SiteFiles,
  shownAll: ShownAll,
): Promise<(ShownBlocks | undefined)[]> {
  const sheets = new PageSheets(files);
  const tasks = new Map<number, ShownTask>();
  const texts = new Set<string>();
  let letters = 0;
  for (const [n, { path, styleSheets, inlineStyles, outline }] of pages.entries()) {
    if (styleSheets.length === 0 && !inlineStyles) continue;
    const bytes = await files.read(path);
    const parsed = parsePageFile(path, bytes);
    const own = 'page' in parsed ? await sheets.of(parsed.page) : [];
    const added = own.filter((text) => !texts.has(text));
    letters += added.reduce((sum, text) => sum + text.length, 0);
    if (letters > STYLES) break;
    for (const text of added) texts.add(text);
    tasks.set(n, { path, bytes, outline, sheets: own });
  }
  const found = tasks.size ? await shownAll([...tasks.values()]) : [];
  const order = [...tasks.keys()];
  return pages.map((_, n) => found[order.indexOf(n)]);
}

/** What was found, with the owner's word in place of it. */
export const withOwnersWord = (
  found: readonly RegionFact[],
  said: readonly RegionFact[] | undefined,
): RegionFact[] =>
  said
    ? [
        ...found.filter((f) => !said.some((s) => s.region === f.region)),
        ...said.map((s) => ({ ...s, confidence: 1, by: 'owner' as const })),
      ]
    : [...found];

/** The menu of one page, read from its file once more: menus are read from one page of each group. */
async function menuOf(
  path: PagePath,
  regions: readonly RegionFact[],
  files: SiteFiles,
  index: FileIndex,
): Promise<MenuItem[]> {
  const fact = regions.find((r) => r.region === 'menu');
  const parsed = fact && parsePageFile(path, await files.read(path));
  if (!parsed || 'problem' in parsed) return [];
  const body = bodyOf(parsed.page.doc);
  const root = body && elementAt(body, fact.path);
  return root ? readMenu(root, path, parsed.page.source, index.find) : [];
}

/** Style sheets with all they import, round trips cut; the fonts they bring and the files that are not there. */
async function readStyles(surveys: readonly Survey[], files: SiteFiles, index: FileIndex) {
  const fonts = new Map<string, SiteReading['fonts'][number]>();
  // In reverse, so that the first page that asks for a file is the one that is named.
  const missing = new Map(
    surveys.flatMap((s) => s.missingSheets.map((href) => [href, s.path] as const)).toReversed(),
  );
  // The set grows while it is walked: each sheet is read once, whoever imports it.
  const sheets = new Set(surveys.flatMap((s) => s.styleSheets));
  for (const path of sheets) {
    const source = readSource(await files.read(path));
    const facts = readStyle(textOf(source, source.structure));
    for (const href of facts.imports) {
      const next = resolveLink(path, href, index.find);
      if (next) sheets.add(next);
      else if (!isElsewhere(href)) missing.set(href, path);
    }
    for (const face of facts.fonts)
      fonts.set(`${face.family}|${face.weight}|${face.style}`, fontFact(face, path, index));
  }
  return { fonts: [...fonts.values()], notes: [...missing].map(missingWords) };
}

const missingWords = ([href, from]: readonly [string, PagePath]): string =>
  `${from} asks for the style sheet ${href}, and there is no such file. The page is read without it.`;

/** A whole address, or one of another host. */
const isElsewhere = (href: string): boolean => /^([a-z]+:)?\/\//i.test(href);

function fontFact(
  { family, weight, style, sources }: FontFace,
  sheet: PagePath,
  index: FileIndex,
): SiteReading['fonts'][number] {
  const src = sources.find((u) => !u.startsWith('data:')) ?? '';
  const file = resolveLink(sheet, src, index.find);
  const missing = !file && !isElsewhere(src) && src !== '';
  return { family, weight, style, file: file ?? src, missing };
}

/** First bytes that hold a picture's size, nearly always; the whole file is read where they do not. */
const HEAD = 65_536;

async function readPictures(surveys: readonly Survey[], files: SiteFiles): Promise<PictureFacts[]> {
  const uses = new Map<PagePath, number>();
  for (const s of surveys)
    for (const path of new Set(s.pictures.flatMap((p) => (p.path && isPicturePath(p.path) ? [p.path] : []))))
      uses.set(path, (uses.get(path) ?? 0) + 1);
  const sizeOf = async (path: PagePath) =>
    (files.head && pictureSize(await files.head(path, HEAD))) ?? pictureSize(await files.read(path));
  const out: PictureFacts[] = [];
  const all = [...uses];
  for (let n = 0; n < all.length; n += AHEAD) {
    const some = all.slice(n, n + AHEAD);
    const sizes = await Promise.all(some.map(([path]) => sizeOf(path)));
    for (const [i, [path, pages]] of some.entries()) if (sizes[i]) out.push({ path, ...sizes[i], pages });
  }
  return out;
}

async function howItMoves(
  surveys: readonly Survey[],
  files: SiteFiles,
  index: FileIndex,
): Promise<SiteReading['moves']> {
  const switches = surveys.find((s) => s.hints.switches);
  if (switches) return { how: 'switches', why: `${switches.path} moves between pages by script` };
  const scripts = new Set(
    surveys.flatMap((s) => s.scripts.flatMap((src) => resolveLink(s.base, src, index.find) ?? [])),
  );
  for (const path of [...scripts].slice(0, 200)) {
    if (switchesPages(readSource(await files.read(path)).structure))
      return { how: 'switches', why: `${path} changes the address without loading a page` };
  }
  const [only] = surveys;
  if (surveys.length === 1 && only)
    return {
      how: 'one page',
      why: only.hints.shell ? `${only.path} is filled by a script` : `${only.path} is the only page`,
    };
  return { how: 'reloads', why: 'no script that changes the address was found' };
}

/** One question to a region and confidence, not one to every page it is on. */
function whatIsUnsure(pages: readonly PageFacts[]): SiteReading['unsure'] {
  const asked = new Map<string, { page: PagePath; region: Landmark; confidence: number; pages: number }>();
  for (const p of pages) {
    for (const region of landmarks) {
      const found = p.regions.find((r) => r.region === region);
      const wanted = region === 'main' && p.kind !== 'frames';
      if (found ? found.confidence >= UNSURE : !wanted) continue;
      const key = `${p.chrome} ${region}`;
      const known = asked.get(key);
      asked.set(
        key,
        known
          ? { ...known, pages: known.pages + 1 }
          : { page: p.path, region, confidence: found?.confidence ?? 0, pages: 1 },
      );
    }
  }
  return [...asked.values()];
}

const fenceNotes = (surveys: readonly Survey[]): string[] =>
  surveys.flatMap((s) =>
    s.fences
      .slice(0, 3)
      .map((f) =>
        f.whole
          ? `${s.path}, line ${f.line}: a widget of another Green Stall stands here (${f.id}). It is treated as part of the page; take it out with "bin/stall strip" if it is not wanted.`
          : `${s.path}, line ${f.line}: the mark of a widget (${f.id}) is only half there. Nothing is done about it; look at the page and delete what is left of the widget.`,
      ),
  );

/** Shallow pages first, a folder's index before its neighbours, then by name. */
function frontFirst(a: string, b: string): number {
  const depth = (p: string) => p.split('/').length;
  const index = (p: string) => (/(^|\/)(index|default)\./i.test(p) ? 0 : 1);
  return depth(a) - depth(b) || index(a) - index(b) || (a < b ? -1 : 1);
}

/** What most titles share before or after a separator, else the front page's heading or title. */
function siteName(pages: readonly PageFacts[]): string {
  const counts = new Map<string, number>();
  for (const page of pages) {
    for (const part of new Set(
      page.title
        .split(/\s+[·|–—-]\s+|:\s+/)
        .map((t) => t.trim())
        .filter(Boolean),
    )) {
      counts.set(part, (counts.get(part) ?? 0) + 1);
    }
  }
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  if (best && best[1] > 1) return best[0];
  const front = pages[0];
  return front?.title || front?.heading || 'My site';
}
