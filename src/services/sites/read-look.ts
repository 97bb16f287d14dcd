import { readSeen } from '../../core/look/cascade/read-seen';
import type { Viewing } from '../../core/look/cascade/media';
import { readRules } from '../../core/look/cascade/rules';
import { findLook, type Found } from '../../core/look/found/found';
import { lookOfAttributes } from '../../core/look/old-pages';
import type { SeenPage, SeenRegion } from '../../core/look/seen';
import { readSource, textOf } from '../../core/html/source';
import { attr, descendants, type Element, rawText } from '../../core/html/tree';
import { FileIndex, type PagePath, resolveLink } from '../../core/site/paths';
import type { PageFacts, ParsedPage } from '../../core/site/read-page';
import { type Landmark, regionOf, regionsOf } from '../../core/site/regions';
import { readStyle } from '../../core/site/styles';

/** Pages that a look is read of: more say the same once more. Chosen by hand. */
export const PAGES_READ = 12;

/** The window that pages are read in without a browser. */
const desktop: Viewing = { width: 1280, height: 800, scheme: 'light' };

/** A site's files as a look is read of them. */
export interface LookFiles {
  readonly pages: readonly PageFacts[];
  readonly paths: readonly string[];
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
  const sheets = new Sheets(files);
  const seen: SeenPage[] = [];
  for (const { path } of pagesToSee(files.pages)) {
    seen.push(...(await seenPages(files, sheets, path)));
    await new Promise((soon) => setTimeout(soon));
  }
  return findLook(seen, 'computed');
}

async function seenPages(files: LookFiles, sheets: Sheets, path: PagePath): Promise<SeenPage[]> {
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

/** Deeper than this no sheet imports another. */
const DEEPEST = 5;

/** Style sheets as pages bring them: linked ones with what they import in its place, those in the page, and old attributes before all. */
class Sheets {
  readonly #texts = new Map<string, string>();
  readonly #rules = new Map<string, ReturnType<typeof readRules>>();
  readonly #index: FileIndex;

  constructor(private readonly files: LookFiles) {
    this.#index = new FileIndex(files.paths);
  }

  async of(page: ParsedPage): Promise<string[]> {
    const texts = [lookOfAttributes(page.doc, page.source)];
    for (const el of descendants(page.doc)) {
      if (el.tagName === 'style') texts.push(inMedia(rawStyle(el), attr(el, 'media')));
      if (
        el.tagName !== 'link' ||
        !/\bstylesheet\b/i.test(attr(el, 'rel') ?? '') ||
        /\balternate\b/i.test(attr(el, 'rel') ?? '')
      )
        continue;
      const path = resolveLink(page.path, attr(el, 'href') ?? '', this.#index.find);
      if (path) texts.push(inMedia(await this.#text(path, 0), attr(el, 'media')));
    }
    return texts;
  }

  /** Rules of the same sheets are read once, however many pages bring them. */
  rules(texts: readonly string[], at: Viewing): ReturnType<typeof readRules> {
    const key = `${at.scheme} ${texts.join('\u0000')}`;
    const known = this.#rules.get(key) ?? readRules(texts, at);
    this.#rules.set(key, known);
    return known;
  }

  async #text(path: PagePath, depth: number): Promise<string> {
    const known = this.#texts.get(path);
    if (known !== undefined) return known;
    this.#texts.set(path, '');
    const source = readSource(await this.files.read(path));
    const own = textOf(source, source.structure);
    const imported: string[] = [];
    for (const href of depth < DEEPEST ? readStyle(own).imports : []) {
      const next = resolveLink(path, href, this.#index.find);
      if (next) imported.push(await this.#text(next, depth + 1));
    }
    const text = [...imported, own].join('\n');
    this.#texts.set(path, text);
    return text;
  }
}

const rawStyle = (el: Element): string => {
  const [first] = el.childNodes;
  return first && 'value' in first ? first.value : rawText(el);
};

const inMedia = (text: string, media: string | undefined): string =>
  media ? `@media ${media}{${text}}` : text;
