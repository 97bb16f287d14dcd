import { bodyOf, childrenOf, type Element, elementsIn, isElement } from '../html/tree';
import { readStructure } from './structure';
import type { ParsedPage } from './read-page';

/** The regions of a page that selling cares about. A second side column stands across from the first. */
export const landmarks = ['header', 'menu', 'main', 'side', 'side-2', 'footer'] as const;
export type Landmark = (typeof landmarks)[number];

/**
 * How a region was found: the page says it (element or role), pages were compared, by the names its maker gave, by
 * where it stands, or the owner said so.
 */
export type FoundBy = 'meaning' | 'comparison' | 'name' | 'place' | 'owner';

/**
 * A region as plain data: the path of its element from the body ("div:0/table:1", tag and index among its like). Old
 * pages have regions that no element holds alone: then `from` and `to` name its first and last child of that element.
 */
export interface RegionFact {
  readonly region: Landmark;
  readonly path: string;
  readonly from?: number;
  readonly to?: number;
  /** 0 to 1; below {@link UNSURE} the owner is asked. */
  readonly confidence: number;
  readonly by: FoundBy;
}

export const UNSURE = 0.6;

/** A region on a parsed page. `first` and `last` are set where it is a run of children of `element`. */
export interface RegionSpot {
  readonly element: Element;
  readonly first?: Element;
  readonly last?: Element;
  readonly confidence: number;
  readonly by: FoundBy;
}
export type Regions = ReadonlyMap<Landmark, RegionSpot>;

const known = new WeakMap<object, Regions>();

/** The regions of a page: as the site's reading has them where it was read with its site, else by structure alone. */
export function regionsOf(page: ParsedPage): Regions {
  const found = known.get(page.doc) ?? locate(page, page.regions ?? readStructure(page.doc));
  known.set(page.doc, found);
  return found;
}

function locate(page: ParsedPage, facts: readonly RegionFact[]): Regions {
  const body = bodyOf(page.doc);
  const spots = new Map<Landmark, RegionSpot>();
  if (!body) return spots;
  for (const f of facts) {
    const element = elementAt(body, f.path);
    if (!element) continue;
    const kids = elementsIn(element);
    const range = f.from === undefined ? {} : { first: kids[f.from], last: kids[f.to ?? f.from] };
    if (f.from !== undefined && (!range.first || !range.last)) continue;
    spots.set(f.region, {
      element,
      ...(range as { first?: Element; last?: Element }),
      confidence: f.confidence,
      by: f.by,
    });
  }
  return spots;
}

/** The element at a path below `root`, or nothing. "" is the root itself. */
export function elementAt(root: Element, path: string): Element | undefined {
  let at: Element | undefined = root;
  for (const step of path === '' ? [] : path.split('/')) {
    const [tag = '', n = '0'] = step.split(':');
    at = at && elementsIn(at).filter((e) => e.tagName === tag)[Number(n)];
  }
  return at;
}

/** The path of an element below `root`; the inverse of {@link elementAt}. */
export function pathTo(root: Element | undefined, el: Element): string {
  const steps: string[] = [];
  for (let at: Element = el; at !== root; ) {
    const up = at.parentNode;
    if (!up || !isElement(up)) break;
    steps.unshift(`${at.tagName}:${nthOf(up, at)}`);
    at = up;
  }
  return steps.join('/');
}

const nths = new WeakMap<Element, ReadonlyMap<Element, number>>();

/** Number of an element among its like; counted once for all children of a parent. */
function nthOf(parent: Element, child: Element): number {
  const known = nths.get(parent);
  if (known) return known.get(child) ?? 0;
  const counts = new Map<string, number>();
  const made = new Map<Element, number>();
  for (const kid of childrenOf(parent)) {
    if (!isElement(kid)) continue;
    const n = counts.get(kid.tagName) ?? 0;
    made.set(kid, n);
    counts.set(kid.tagName, n + 1);
  }
  nths.set(parent, made);
  return made.get(child) ?? 0;
}

/** The region an element stands in. A menu belongs to the header, side column or footer that holds it. */
export function regionOf(el: Element, regions: Regions): Landmark | 'page' {
  for (let at: Element | undefined = el, below: Element | undefined; at; below = at, at = parentOf(at)) {
    for (const [name, spot] of regions) {
      if (name !== 'menu' && spot.element === at && holds(spot, below)) return name;
    }
  }
  return 'page';
}

const runs = new WeakMap<RegionSpot, ReadonlySet<Element>>();

/** Whether a region that is a run of children holds this one of them. Counted once: a book may be one flat run of thousands. */
function holds(spot: RegionSpot, child: Element | undefined): boolean {
  if (!spot.first) return true;
  const run = runs.get(spot) ?? runOf(spot, spot.first);
  runs.set(spot, run);
  return child !== undefined && run.has(child);
}

function runOf({ element, last }: RegionSpot, first: Element): ReadonlySet<Element> {
  const kids = elementsIn(element);
  return new Set(kids.slice(kids.indexOf(first), kids.indexOf(last ?? first) + 1));
}

const parentOf = (el: Element): Element | undefined =>
  el.parentNode && isElement(el.parentNode) ? el.parentNode : undefined;
