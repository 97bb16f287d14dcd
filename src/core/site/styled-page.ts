import type { Element } from '../html/tree';
import type { Viewing } from '../look/cascade/media';
import { readSeen } from '../look/cascade/read-seen';
import { readRules, type RuleSet } from '../look/cascade/rules';
import type { SeenPage, SeenRegion } from '../look/seen';
import { desktop, type ShownBlocks, shownBlocks } from './as-shown';
import { Outline } from './outline';
import type { PagePath } from './paths';
import { type ParsedPage, parsePageFile } from './read-page';
import { type Landmark, type RegionFact, regionOf, regionsOf } from './regions';

/** A page with the style sheets it has, as plain data: what is asked of it may be found out in another thread. */
export interface StyledPage {
  readonly path: PagePath;
  readonly bytes: Uint8Array;
  readonly sheets: readonly string[];
}
/** How do its blocks stand? */
export interface ShownTask extends StyledPage {
  readonly outline: { readonly rows: Int32Array; readonly tags: readonly string[] };
}
/** What is seen of it? */
export interface SeenTask extends StyledPage {
  readonly regions: readonly RegionFact[];
}
export type StyleTask =
  | { readonly ask: 'shown'; readonly of: ShownTask }
  | { readonly ask: 'seen'; readonly of: SeenTask };

/** Answers in the order of the pages; undefined for one that cannot be read, or not in time. */
export type AskAll<Task, Answer> = (tasks: readonly Task[]) => Promise<readonly (Answer | undefined)[]>;
export type ShownAll = AskAll<ShownTask, ShownBlocks>;
export type SeenAll = AskAll<SeenTask, readonly SeenPage[]>;

/**
 * Reads pages by their style sheets, and remembers the rules of the sheets it read last: pages of one site mostly have the
 * same.
 */
export class StyledReader {
  readonly #known = new Map<string, RuleSet>();
  #sheets = '';

  answer(task: StyleTask): ShownBlocks | readonly SeenPage[] | undefined {
    return task.ask === 'shown' ? this.shown(task.of) : this.seen(task.of);
  }

  shown({ path, bytes, sheets, outline }: ShownTask): ShownBlocks | undefined {
    const parsed = parsePageFile(path, bytes);
    if ('problem' in parsed) return undefined;
    const rules = this.#rules(sheets, desktop);
    return shownBlocks(parsed.page.doc, new Outline(outline.rows, outline.tags), rules);
  }

  /** By day, and by night where its style sheets speak of it. */
  seen({ path, bytes, sheets, regions }: SeenTask): readonly SeenPage[] | undefined {
    const parsed = parsePageFile(path, bytes, regions);
    if ('problem' in parsed) return undefined;
    const page = { page: path, doc: parsed.page.doc, sheets, regionOf: regionIn(parsed.page) };
    const see = (at: Viewing) => readSeen(page, at, this.#rules(sheets, at));
    const light = see(desktop);
    return light.hasDark ? [light, see({ ...desktop, scheme: 'dark' })] : [light];
  }

  #rules(sheets: readonly string[], at: Viewing): RuleSet {
    const key = sheets.join('\u0000');
    if (key !== this.#sheets) this.#known.clear();
    this.#sheets = key;
    const rules = this.#known.get(at.scheme) ?? readRules(sheets, at);
    this.#known.set(at.scheme, rules);
    return rules;
  }
}

/** The region an element stands in, as looks name them. */
function regionIn(page: ParsedPage): (el: Element) => SeenRegion {
  const spots = regionsOf(page);
  const known = new Map<Element, SeenRegion>();
  return (el) => {
    const found = known.get(el) ?? namedAs(regionOf(el, spots), el, spots);
    known.set(el, found);
    return found;
  };
}

function namedAs(region: Landmark | 'page', el: Element, spots: ReturnType<typeof regionsOf>): SeenRegion {
  const menu = spots.get('menu')?.element;
  for (let up: unknown = el; menu && up; up = (up as Element).parentNode) if (up === menu) return 'menu';
  return region === 'side-2' ? 'side' : region;
}
