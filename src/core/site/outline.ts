import { entryAt } from '../entries';
import { isBlock, isInvisible } from '../html/content-model';
import {
  attr,
  childrenOf,
  classesOf,
  type Element,
  elementsIn,
  isElement,
  isText,
  type Node,
} from '../html/tree';
import { meaningOf, nameSignOf, type Sign, signNames } from './signs';

/** Columns of an outline, one row of numbers to each block. */
const F = {
  tag: 0,
  nth: 1,
  child: 2,
  parent: 3,
  end: 4,
  key: 5,
  content: 6,
  weight: 7,
  linked: 8,
  links: 9,
  meaning: 10,
  name: 11,
  ways: 12,
  pages: 13,
  places: 14,
} as const;
const STRIDE = 15;

/** Blocks an outline holds at most, those nearest the body first: chrome stands high in the tree. Chosen by hand. */
const BLOCKS = 320;

/** Blocks at each end of a row too long to be held. Chosen by hand. */
const EDGE = 40;

/** A level down the tree is as far as this many pairs of neighbours from the end of a row. Chosen by hand. */
const LEVEL = 3;

/** A picture counts as much as this many letters; so chrome made of pictures has weight. Chosen by hand. */
const PICTURE = 24;

/**
 * A page's blocks without its text: what pages are compared by. A row of numbers to each block, in document order, so that
 * ten thousand pages fit in memory and travel between threads for nothing. Weight is letters that can be seen (pictures count
 * {@link PICTURE}); `content` is a sum of hashes of all that, so it is the same whatever the markup of the current menu item,
 * and however much of what the block holds stood within the budget; `key` a hash of tag, id and class names, digits and state
 * left out.
 */
export class Outline {
  constructor(
    readonly rows: Int32Array,
    readonly tags: readonly string[],
  ) {}

  get count(): number {
    return this.rows.length / STRIDE;
  }
  private at(i: number, field: number): number {
    return numberAt(this.rows, i * STRIDE + field);
  }
  tag(i: number): string {
    return this.tags[this.at(i, F.tag)] ?? '';
  }
  parent(i: number): number {
    return this.at(i, F.parent);
  }
  /** Index after the last block inside. */
  end(i: number): number {
    return this.at(i, F.end);
  }
  key(i: number): number {
    return this.at(i, F.key);
  }
  content(i: number): number {
    return this.at(i, F.content);
  }
  weight(i: number): number {
    return this.at(i, F.weight);
  }
  /** The part of the weight that stands in links. */
  linked(i: number): number {
    return this.at(i, F.linked);
  }
  links(i: number): number {
    return this.at(i, F.links);
  }
  /** Links to the page before, the next, the one above: ways through a book, no menu. */
  ways(i: number): number {
    return this.at(i, F.ways);
  }
  /** Links that lead to other pages of the site, as far as their address alone tells. */
  pages(i: number): number {
    return this.at(i, F.pages);
  }
  /** Links to places on this very page. */
  places(i: number): number {
    return this.at(i, F.places);
  }
  /** Place among all element children of its parent. */
  child(i: number): number {
    return this.at(i, F.child);
  }
  meaning(i: number): Sign | undefined {
    return signNames[this.at(i, F.meaning)];
  }
  named(i: number): Sign | undefined {
    return signNames[this.at(i, F.name)];
  }
  isLeaf(i: number): boolean {
    return this.end(i) === i + 1;
  }
  kids(i: number): number[] {
    const out: number[] = [];
    for (let k = i + 1; k < this.end(i); k = this.end(k)) out.push(k);
    return out;
  }
  /** As regions.ts writes paths: below the body. */
  path(i: number): string {
    const steps: string[] = [];
    for (let at = i; at > 0; at = this.parent(at)) steps.unshift(`${this.tag(at)}:${this.at(at, F.nth)}`);
    return steps.join('/');
  }
}

export function buildOutline(body: Element): Outline {
  const index = choose(body);
  const rows = new Int32Array(index.size * STRIDE);
  const tags = new Map<string, number>();
  for (const [el, i] of index) describe(rows, i, el, index, tags);
  weigh(rows, body, index);
  fold(rows, index.size);
  return new Outline(rows, [...tags.keys()]);
}

/** The blocks of a page, within the budget, numbered in document order. */
function choose(body: Element): Map<Element, number> {
  const chosen = nearest(body);
  const index = new Map<Element, number>();
  const stack: Element[] = [body];
  for (let el = stack.pop(); el; el = stack.pop()) {
    index.set(el, index.size);
    const kids = elementsIn(el);
    for (let i = kids.length - 1; i >= 0; i--) if (chosen.has(entryAt(kids, i))) stack.push(entryAt(kids, i));
  }
  return index;
}

/** Level by level until the budget is spent, those at the ends of a long row before those in its middle: chrome stands there. */
function nearest(body: Element): ReadonlySet<Element> {
  const chosen = new Set<Element>([body]);
  // Whose children come next, by how far from the body and from the ends of their rows they stand. It grows while it is walked.
  const waiting: Element[][] = [[body]];
  for (let far = 0; far < waiting.length; far++) {
    for (const el of waiting[far] ?? []) {
      const kids = blocksIn(el);
      if (chosen.size + kids.length > BLOCKS) continue;
      for (const [n, kid] of kids.entries()) {
        chosen.add(kid);
        const at = far + LEVEL + (Math.min(n, kids.length - 1 - n) >> 1);
        waiting[at] = [...(waiting[at] ?? []), kid];
      }
    }
  }
  return chosen;
}

/**
 * What an element holds where that is blocks. Of a long row (a book on one page, straight in the body) the first and the
 * last: chrome stands there, and what is between them counts as text of what holds them. Lists and tables are taken whole:
 * they may be chrome themselves.
 */
function blocksIn(el: Element): readonly Element[] {
  const kids = elementsIn(el).filter((k) => !isInvisible(k));
  if (!kids.some(isBlock)) return [];
  return kids.length <= 2 * EDGE || wholes.has(el.tagName)
    ? kids
    : [...kids.slice(0, EDGE), ...kids.slice(-EDGE)];
}

const wholes = new Set(['ul', 'ol', 'dl', 'table', 'tbody', 'tr', 'nav', 'menu']);

function describe(
  rows: Int32Array,
  i: number,
  el: Element,
  index: ReadonlyMap<Element, number>,
  tags: Map<string, number>,
): void {
  const at = i * STRIDE;
  if (!tags.has(el.tagName)) tags.set(el.tagName, tags.size);
  const up = i > 0 && el.parentNode && isElement(el.parentNode) ? el.parentNode : undefined;
  let nth = 0;
  let child = 0;
  for (const kid of up ? childrenOf(up) : []) {
    if (kid === el) break;
    if (!isElement(kid)) continue;
    child++;
    if (kid.tagName === el.tagName) nth++;
  }
  rows[at + F.tag] = tags.get(el.tagName) ?? 0;
  rows[at + F.nth] = nth;
  rows[at + F.child] = child;
  rows[at + F.parent] = up ? (index.get(up) ?? 0) : -1;
  rows[at + F.end] = i + 1;
  rows[at + F.key] = keyOf(el);
  rows[at + F.meaning] = signIndex(meaningOf(el));
  rows[at + F.name] = signIndex(nameSignOf(el));
}

const signIndex = (sign: Sign | undefined): number => (sign ? signNames.indexOf(sign) : -1);

/** Classes that say which item is the current one, or how something stands at the moment. */
export const stateName =
  /^(?:is-|has-)?(?:active|current|selected|here|on|open|opened|closed|hover|focus|first|last|odd|even|youarehere|nav-?current|current[-_\w]*)$|[-_](?:active|current|selected)$/i;

const keyOf = (el: Element): number => {
  const classes = classesOf(el)
    .filter((c) => !stateName.test(c))
    .sort()
    .join('.');
  return hash(
    `${el.tagName}#${(attr(el, 'id') ?? '').replace(/\d+/g, '')}.${classes.replace(/\d+/g, '')}`,
    SEED,
  );
};

/** Rows are made whole: what is asked for is there. */
const numberAt = (rows: Int32Array, i: number): number => rows[i] ?? 0;
const grow = (rows: Int32Array, i: number, by: number): void => {
  rows[i] = numberAt(rows, i) + by;
};

/** Letters, pictures and links go to the nearest block that the outline holds. */
function weigh(rows: Int32Array, body: Element, index: ReadonlyMap<Element, number>): void {
  const stack: { node: Node; block: number; inLink: boolean }[] = [{ node: body, block: 0, inLink: false }];
  for (let next = stack.pop(); next; next = stack.pop()) {
    const { node } = next;
    if (isText(node)) {
      addText(rows, next.block * STRIDE, node.value, next.inLink);
      continue;
    }
    if (!isElement(node) || isInvisible(node)) continue;
    const block = index.get(node) ?? next.block;
    const at = block * STRIDE;
    const isLink = node.tagName === 'a' && attr(node, 'href') !== undefined;
    if (isLink) countLink(rows, at, node);
    if (node.tagName === 'img') addPicture(rows, at, node, next.inLink);
    const kids = node.childNodes;
    for (let i = kids.length - 1; i >= 0; i--)
      stack.push({ node: entryAt(kids, i), block, inLink: next.inLink || isLink });
  }
}

function countLink(rows: Int32Array, at: number, link: Element): void {
  grow(rows, at + F.links, 1);
  if (isWay(link)) grow(rows, at + F.ways, 1);
  const href = (attr(link, 'href') ?? '').trim();
  if (leadsToPage(href)) grow(rows, at + F.pages, 1);
  // A lone "#" is the top, or stands in for an address that is not there yet.
  if (href.startsWith('#') && href.length > 1) grow(rows, at + F.places, 1);
}

/** A relative address of a page or folder: no other host, no scheme, no file to be fetched, not this page itself. */
const leadsToPage = (href: string): boolean =>
  /^(?![a-z][a-z\d+.-]*:|\/\/|#|\?|$)/i.test(href) &&
  /(^|\/)([^./?#]*|[^/?#]+\.(x?html?|php|aspx?|jsp))([?#]|$)/i.test(href);

/** Letters of a run of text that are looked at one by one; of the rest, its length. */
const HASHED = 300;

const saidBy = (n: Node): string => {
  if (isText(n)) return n.value;
  return isElement(n) ? (attr(n, 'alt') ?? '') : '';
};

/** By relation (HTML link types), access key or the words such links have; common practice. */
function isWay(a: Element): boolean {
  if (/\b(prev|next|up)\b/i.test(attr(a, 'rel') ?? '') || /^[pnu]$/i.test(attr(a, 'accesskey') ?? ''))
    return true;
  return wayWords.test(childrenOf(a).map(saidBy).join('')) || wayWords.test(saidBefore(a));
}

/** Neighbours among which it is looked for what stands before a link; rows of ways are short. */
const ROW = 40;

/** What stands right before a link, where that ends in a colon: "Next: A chapter". */
function saidBefore(a: Element): string {
  const row = a.parentNode ? childrenOf(a.parentNode) : [];
  if (row.length > ROW) return '';
  const before = row.slice(0, row.indexOf(a)).findLast((n) => isElement(n) || (isText(n) && n.value.trim()));
  if (!before) return '';
  const said = (isElement(before) ? childrenOf(before) : [before]).map(saidBy).join('').trim();
  return said.endsWith(':') ? said.slice(0, -1) : '';
}

const wayWords =
  /^[<>\u00ab\u00bb\u2190\u2192\s[(]*(prev(ious)?|next|up|top|back|forward|weiter|zur\u00fcck|voriges|n\u00e4chste[rs]?|suivant|pr\u00e9c\u00e9dent|siguiente|anterior)[\s>)\]\u00ab\u00bb\u2190\u2192]*$/i;

function addText(rows: Int32Array, at: number, text: string, inLink: boolean): void {
  let h = SEED;
  let letters = 0;
  const end = Math.min(text.length, HASHED);
  for (let i = 0; i < end; i++) {
    const c = text.charCodeAt(i);
    if (c <= 32) continue;
    h = Math.imul(h ^ c, PRIME);
    letters++;
  }
  const rest = text.length - end;
  const weight = letters + Math.round(rest * 0.84);
  if (weight > 0) add(rows, at, rest ? Math.imul(h ^ rest, PRIME) : h, weight, inLink);
}

function addPicture(rows: Int32Array, at: number, img: Element, inLink: boolean): void {
  const name = (attr(img, 'src') ?? '').split('/').pop() ?? '';
  add(rows, at, hash(name, SEED), PICTURE, inLink);
}

/** Sums, so that what a block holds is told by the same number whether its parts are blocks of their own or not. */
function add(rows: Int32Array, at: number, said: number, weight: number, inLink: boolean): void {
  grow(rows, at + F.content, spread(said));
  grow(rows, at + F.weight, weight);
  if (inLink) grow(rows, at + F.linked, weight);
}

/**
 * Bits of a hash spread evenly, so that sums of different ones differ: the finalizer of MurmurHash3 (public domain), from
 * memory.
 */
function spread(h: number): number {
  let x = h ^ (h >>> 16);
  x = Math.imul(x, 0x85ebca6b);
  x ^= x >>> 13;
  x = Math.imul(x, 0xc2b2ae35);
  return x ^ (x >>> 16);
}

/** From the last block to the first: each hands up to its parent. */
function fold(rows: Int32Array, count: number): void {
  for (let i = count - 1; i > 0; i--) {
    const at = i * STRIDE;
    const up = numberAt(rows, at + F.parent) * STRIDE;
    for (const f of [F.content, F.weight, F.linked, F.links, F.ways, F.pages, F.places])
      grow(rows, up + f, numberAt(rows, at + f));
    rows[up + F.end] = Math.max(numberAt(rows, up + F.end), numberAt(rows, at + F.end));
  }
}

/** FNV-1a, 32 bits (constants of its reference). */
const SEED = 0x811c9dc5 | 0;
const PRIME = 0x01000193;
const hash = (text: string, from: number): number => {
  let h = from;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), PRIME);
  return h;
};
