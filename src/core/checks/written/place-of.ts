import { bodyOf, childrenOf, type Element, elementsIn, isElement, type Node } from '../../html/tree';
import type { ParsedPage } from '../../site/read-page';
import { type Landmark, pathTo, regionsOf } from '../../site/regions';
import type { At } from './facts';

/** Elements that text runs on in; all others are blocks, as far as a reader is concerned. */
const inline = new Set(
  'a abbr acronym b bdi bdo big br cite code data del dfn em font i img ins kbd label mark nobr q s samp small span strike strong sub sup time tt u var wbr'.split(
    ' ',
  ),
);
export const isInline = (tag: string): boolean => inline.has(tag);

/** Tells of elements of one page where they stand. Asked while the page is walked from its top. */
export class Places {
  readonly body: Element | undefined;
  readonly menu: Element | undefined;
  readonly #starts = new Map<Element, Landmark>();
  /** Those of them that are one of several in a row. */
  readonly #runs = new Set<Element>();
  readonly #paths = new Map<Element, string>();
  readonly hasHeader: boolean;

  constructor(page: ParsedPage) {
    this.body = bodyOf(page.doc);
    const regions = regionsOf(page);
    this.menu = regions.get('menu')?.element;
    this.hasHeader = regions.has('header');
    for (const [name, spot] of regions) {
      if (name === 'menu') continue;
      const { element, first, last } = spot;
      if (!first || !last) {
        this.#starts.set(element, name);
        continue;
      }
      const inside = elementsIn(element);
      for (const el of inside.slice(inside.indexOf(first), inside.indexOf(last) + 1)) {
        this.#starts.set(el, name);
        this.#runs.add(el);
      }
    }
  }

  /** The region that begins with an element; that of what it stands in otherwise. */
  regionFrom(el: Element, around: Landmark | 'page'): Landmark | 'page' {
    return this.#starts.get(el) ?? around;
  }

  /**
   * The region of what is put between the children of an element: where a region is a run of them, what is put behind one of them is in
   * it, and what is put before its first as well.
   */
  regionBetween(parent: Element, offset: number): Landmark | undefined {
    const inside = elementsIn(parent);
    if (!inside.some((el) => this.#runs.has(el))) return undefined;
    const startOf = (el: Element) => el.sourceCodeLocation?.startOffset ?? 0;
    const before = inside.filter((el) => startOf(el) < offset).at(-1);
    const after = inside.find((el) => startOf(el) >= offset);
    const beside = [before, after].find((el) => el && this.#runs.has(el));
    return beside && this.#starts.get(beside);
  }

  pathOf(el: Element | undefined): string {
    if (!el || !this.body) return '';
    const known = this.#paths.get(el);
    if (known !== undefined) return known;
    const path = pathTo(this.body, el);
    this.#paths.set(el, path);
    return path;
  }
}

/** Where the walk is. */
export interface Here {
  readonly region: Landmark | 'page';
  readonly block: Element | undefined;
  readonly inMenu: boolean;
  /** Inside what Green Stall put in. */
  readonly ours: boolean;
  readonly line: number;
  /** The link that is open. */
  readonly link: Element | undefined;
}

export const atOf = (places: Places, here: Here): At => ({
  region: here.region,
  block: places.pathOf(here.block),
  line: here.line,
});

/** The deepest element of the owner's page around an offset of its source. */
export function elementAround(body: Element, offset: number): Element {
  let at = body;
  for (;;) {
    const inside = childrenOf(at).find((n) => isElement(n) && spans(n, offset)) as Element | undefined;
    if (!inside) return at;
    at = inside;
  }
}

function spans(node: Node, offset: number): boolean {
  const place = (node as Element).sourceCodeLocation;
  if (!place) return false;
  const from = place.startTag?.endOffset ?? place.startOffset;
  const to = place.endTag?.startOffset ?? place.endOffset;
  return from <= offset && offset <= to && from < to;
}
