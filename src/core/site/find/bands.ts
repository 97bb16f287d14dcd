import { entryAt } from '../../entries';
import type { Shown, ShownBlocks } from '../as-shown';
import type { Outline } from '../outline';
import type { FoundBy } from '../regions';
import type { Sign } from '../signs';

export interface Found {
  /** One block, or neighbours of one parent. */
  readonly blocks: readonly number[];
  readonly confidence: number;
  readonly by: FoundBy;
}

/** An outline with what of it is chrome, block by block. */
export class Bands {
  readonly #chrome: Int32Array;
  readonly compared: boolean;
  constructor(
    readonly o: Outline,
    core: ReadonlySet<number>,
    private readonly shown: ShownBlocks = new Map(),
  ) {
    this.compared = core.size > 0;
    const saysMain = Array.from({ length: o.count }, (_, i) => o.meaning(i) ?? namedIn(o, i)).includes(
      'main',
    );
    this.#chrome = new Int32Array(o.count);
    const titles = titlesIn(o);
    for (let i = o.count - 1; i >= 0; i--) {
      // A block that other pages hold is chrome as a whole, whether its parts were within the budget there or not.
      if (core.has(o.content(i)) && !titles.has(i)) this.#chrome[i] = o.weight(i);
      if (!this.compared && looksLikeChrome(o, i, saysMain)) this.#chrome[i] = o.weight(i);
      if (i > 0)
        this.#chrome[o.parent(i)] = Math.min(
          o.weight(o.parent(i)),
          this.chrome(o.parent(i)) + this.chrome(i),
        );
    }
  }
  chrome(i: number): number {
    return entryAt(this.#chrome, i);
  }
  own(i: number): number {
    return this.o.weight(i) - this.chrome(i);
  }
  isChrome(i: number): boolean {
    return this.o.weight(i) > 0 && this.chrome(i) >= this.o.weight(i) * 0.7;
  }
  /** How style sheets have it stand on a wide screen. */
  stands(i: number): Shown | undefined {
    return this.shown.get(this.o.key(i));
  }
  /** Not to be seen on a wide screen, or in something that is not. */
  isHidden(i: number): boolean {
    for (let up = i; this.shown.size > 0 && up > 0; up = this.o.parent(up))
      if (this.stands(up) === 'hidden') return true;
    return false;
  }
  /** By the names its maker gave it. */
  named(i: number): Sign | undefined {
    return namedIn(this.o, i);
  }
  sign(i: number): Sign | undefined {
    return this.o.meaning(i) ?? this.named(i);
  }
}

/**
 * Headings that say what an item of a menu says, and what holds nothing else: the title of the page that the item leads to. Other
 * pages hold the same words, in their menus.
 */
function titlesIn(o: Outline): ReadonlySet<number> {
  const said = new Map<number, number[]>();
  for (let i = 1; i < o.count; i++) said.set(o.content(i), [...(said.get(o.content(i)) ?? []), i]);
  const out = new Set<number>();
  for (let h = 1; h < o.count; h++) {
    if (!/^h[1-6]$/.test(o.tag(h)) || o.links(h) > 0) continue;
    // The current item may have no link: those beside it do.
    const isItem = (i: number) => (o.end(i) <= h || i >= o.end(h)) && o.links(o.parent(i)) > 1;
    if (!said.get(o.content(h))?.some(isItem)) continue;
    for (let up = h; up > 0 && o.content(up) === o.content(h); up = o.parent(up)) out.add(up);
  }
  return out;
}

/**
 * What is called contents and is little else than links is a list of them, not the main part; one that holds bars of the site
 * is its frame.
 */
function namedIn(o: Outline, i: number): Sign | undefined {
  const sign = o.named(i);
  if (sign !== 'main' || o.links(i) < 8 || o.linked(i) < o.weight(i) * 0.6) return sign;
  for (let k = i + 1; k < o.end(i); k++) if (o.meaning(k) !== undefined) return sign;
  return undefined;
}

/** With nothing to compare with: what says it is chrome, or is little else than links. */
function looksLikeChrome(o: Outline, i: number, saysMain: boolean): boolean {
  const sign = o.meaning(i) ?? namedIn(o, i);
  if (sign && sign !== 'main') return saysMain || o.weight(i) < o.weight(0) * 0.9;
  return o.links(i) >= 3 && o.linked(i) >= o.weight(i) * 0.75 && o.weight(i) < o.weight(0) * 0.5;
}

/** What a page's content is made of, as against what holds it. */
export const content = new Set([
  'p',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'ul',
  'ol',
  'dl',
  'pre',
  'blockquote',
  'figure',
  'hr',
  'img',
  'a',
  'span',
  'b',
  'form',
]);

/** What speaks for a region that nothing speaks for by meaning. */
export function foundBy(page: Bands, named: boolean): FoundBy {
  if (page.compared) return 'comparison';
  return named ? 'name' : 'place';
}

/** Previous, next and up; breadcrumbs; a table of contents: links of the page's own that are not its content. */
export const isNavigation = (page: Bands, k: number): boolean => {
  const sign = page.o.meaning(k) ?? page.named(k);
  if (sign === 'menu' || sign === 'crumbs') return true;
  return page.o.links(k) >= 2 && page.o.linked(k) >= page.o.weight(k) * 0.8 && page.o.weight(k) < 200;
};

export const byMeaning = (page: Bands, sign: Sign): number[] => {
  const out: number[] = [];
  for (let i = 1; i < page.o.count; i++) if (page.o.meaning(i) === sign && page.o.weight(i) > 0) out.push(i);
  return out;
};

export const inside = (page: Bands, b: number): number[] =>
  Array.from({ length: page.o.end(b) - b - 1 }, (_, n) => b + 1 + n);

export const isWithin = (page: Bands, i: number, blocks: readonly number[]): boolean =>
  blocks.some((b) => i >= b && i < page.o.end(b));

/** A wrapper around header and menu is looked into, two levels deep; what holds nothing but one block is none. */
export function opened(page: Bands, b: number): number[] {
  const { o } = page;
  const out: number[] = [];
  let kids = o.kids(b);
  for (; kids.length === 1; kids = o.kids(entryAt(kids, 0))) out.push(...kids);
  return [...out, ...kids.flatMap((k) => [k, ...o.kids(k)])];
}

export const grade = (page: Bands, b: number, sign: Sign, base: number): Pick<Found, 'confidence' | 'by'> => {
  const byTag = page.o.meaning(b) === sign;
  const named = page.named(b) === sign;
  const shared = page.compared && page.isChrome(b);
  const speaks = (byTag && 0.15) || (named && 0.08) || 0;
  const confidence = (page.compared ? base : base - 0.2) + (shared ? 0.08 : 0) + speaks;
  return { confidence: round(Math.min(0.97, confidence)), by: gradedBy(page, { byTag, shared, named }) };
};

function gradedBy(page: Bands, it: { byTag: boolean; shared: boolean; named: boolean }): FoundBy {
  if (it.byTag) return 'meaning';
  if (it.named && !it.shared) return 'name';
  return page.compared ? 'comparison' : 'place';
}

/** Where one is, or a block that holds nothing else. */
export function isCrumbs(page: Bands, b: number): boolean {
  if (page.sign(b) === 'crumbs') return true;
  const kids = page.o.kids(b).filter((k) => page.o.weight(k) > 0);
  return kids.length > 0 && kids.every((k) => isCrumbs(page, k));
}

/** Nearly all of its links lead to places on this very page. */
export const leadsWithin = ({ o }: Bands, i: number): boolean =>
  o.places(i) > 0 && o.places(i) >= o.links(i) * 0.8;

export const isListTag = (tag: string): boolean => tag === 'ul' || tag === 'ol' || tag === 'menu';

/** A menu with a few words beside its items that one page alone has is still what pages share. */
export const isShared = (page: Bands, i: number): boolean => page.chrome(i) >= page.o.weight(i) * 0.65;

export const round = (n: number): number => Math.round(Math.min(0.99, n) * 100) / 100;
