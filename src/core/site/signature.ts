import { entryAt } from '../entries';
import { isInvisible, type Neighbour } from '../html/content-model';
import { textOf } from '../html/source';
import { attr, childrenOf, type Element, find, isElement, isText, type Node } from '../html/tree';
import { fingerprint } from '../hash';
import type { ParsedPage } from './read-page';

/**
 * What a block is recognised by when the page has changed: "section:9f3a2c11:0a1b…:77c0", its tag, a fingerprint of its
 * first words and picture, a sketch of those words that is still alike when some were edited, and its heading. Class names are left out:
 * templates rename them. '' is an edge, "#:…" a run of text, "hr:::" a block with nothing to know it by.
 */
export type Signature = string;

const known = new WeakMap<object, Signature>();

/** Letters and words of a block that are looked at; enough to tell blocks apart, and cheap on pages of megabytes. */
const LETTERS = 400;
const WORDS = 40;

export function signatureOf(page: ParsedPage, n: Neighbour, container: Element): Signature {
  if (n === 'edge') return '';
  // A run of text is known by all that its container says: there is no element to hold it alone.
  if (n === 'text') return signatureOf(page, container, container).replace(/^[^:]*/, '#');
  const found = known.get(n) ?? compute(page, n);
  known.set(n, found);
  return found;
}

function compute(page: ParsedPage, el: Element): Signature {
  const words =
    textOf(page.source, firstText(el))
      .toLowerCase()
      .match(/[\p{L}\p{N}]+/gu)
      ?.slice(0, WORDS) ?? [];
  const picture = el.tagName === 'img' ? el : find(el, (e) => e.tagName === 'img');
  const seen = [
    ...words,
    picture ? `${attr(picture, 'alt') ?? ''} ${(attr(picture, 'src') ?? '').split('/').pop()}` : '',
  ]
    .join(' ')
    .trim();
  const bare = seen || (attr(el, 'id') ?? '');
  return `${el.tagName}:${bare ? fingerprint(bare).slice(0, 10) : ''}:${words.length >= 3 ? sketch(words) : ''}:${headingMark(page, el)}`;
}

/** A block is known by the heading in it, whatever happens to the rest. */
function headingMark(page: ParsedPage, el: Element): string {
  const heading = find(el, (e) => /^h[1-6]$/.test(e.tagName));
  const words = heading
    ? textOf(page.source, firstText(heading))
        .toLowerCase()
        .replace(/[^\p{L}\p{N}]+/gu, ' ')
        .trim()
    : '';
  return words ? fingerprint(words).slice(0, 8) : '';
}

function firstText(el: Element): string {
  let out = '';
  const stack: Node[] = [el];
  for (let next = stack.pop(); next && out.length < LETTERS; next = stack.pop()) {
    if (isText(next)) out += `${next.value.trim().slice(0, LETTERS)} `;
    else if (!isElement(next) || !isInvisible(next)) {
      const kids = childrenOf(next);
      for (let i = kids.length - 1; i >= 0; i--) stack.push(entryAt(kids, i));
    }
  }
  return out;
}

const ROWS = 8;

/** A MinHash (Broder, 1997) of the set of words: of each of eight orders, 16 bits of the least. */
function sketch(words: readonly string[]): string {
  const least = new Array<number>(ROWS).fill(0xffffffff);
  for (const word of words) {
    let h = 0x811c9dc5;
    for (let i = 0; i < word.length; i++) h = Math.imul(h ^ word.charCodeAt(i), 0x01000193);
    for (let r = 0; r < ROWS; r++) {
      const mixed = Math.imul(h ^ (r * 0x9e3779b1), 0x85ebca6b);
      least[r] = Math.min(entryAt(least, r), (mixed ^ (mixed >>> 15)) >>> 0);
    }
  }
  return least.map((n) => (n >>> 16).toString(16).padStart(4, '0')).join('');
}

/** Rows of a sketch that two blocks share before they are called lookalikes; half. */
const LOOKALIKE = ROWS / 2;

/** A block with its signature and its place in the source. */
export interface SignedBlock {
  readonly signature: Signature;
  readonly from: number;
  readonly to: number;
}

/**
 * The signatures that another block of the page nearly has: cards and rows of dates are much alike. A block is always
 * like what it holds and what holds it; those do not count. Found by the rows of the sketches that blocks share, not
 * by comparing each with each.
 */
export function lookalikesOf(blocks: readonly SignedBlock[]): ReadonlySet<Signature> {
  const shared = new Map<number, Map<number, number>>();
  for (const list of blocksByRow(blocks)) {
    // A row that very many blocks have is a word they all use.
    if (list.length > 60) continue;
    for (const a of list)
      for (const b of list) if (a !== b && apart(entryAt(blocks, a), entryAt(blocks, b))) count(shared, a, b);
  }
  return new Set(
    [...shared]
      .filter(([, others]) => Math.max(...others.values()) >= LOOKALIKE)
      .map(([n]) => blocks[n]?.signature ?? ''),
  );
}

/** Which blocks have the same row of a sketch under the same tag. */
function blocksByRow(blocks: readonly SignedBlock[]): Iterable<number[]> {
  const byRow = new Map<string, number[]>();
  for (const [n, { signature }] of blocks.entries()) {
    const [tag = '', , words = ''] = signature.split(':');
    for (let r = 0; words && r < ROWS; r++) {
      const key = `${tag} ${r} ${words.slice(r * 4, r * 4 + 4)}`;
      const list = byRow.get(key);
      if (list) list.push(n);
      else byRow.set(key, [n]);
    }
  }
  return byRow.values();
}

const apart = (a: SignedBlock, b: SignedBlock): boolean => a.to <= b.from || b.to <= a.from;

function count(shared: Map<number, Map<number, number>>, a: number, b: number): void {
  const others = shared.get(a) ?? new Map<number, number>();
  others.set(b, (others.get(b) ?? 0) + 1);
  shared.set(a, others);
}

/** Whether a signature has nothing to know its block by. */
export const isWeak = (s: Signature): boolean => s === '' || s.endsWith(':::');

function sameSignature(s: Signature): number {
  if (s === '') return 0.4;
  return isWeak(s) ? 0.3 : 1;
}

/**
 * How much two blocks are the same, 0 to 1: same words and picture 1 (0.9 under another tag), the same heading 0.75,
 * edited words by the share of the sketch that agrees, two edges 0.4, two blocks with nothing to know them by 0.3.
 */
export function similarity(a: Signature, b: Signature): number {
  if (a === b) return sameSignature(a);
  const [tagA, markA, sketchA = '', headingA] = a.split(':');
  const [tagB, markB, sketchB = '', headingB] = b.split(':');
  if (!markA || !markB) return 0;
  if (markA === markB) return 0.9;
  const sameHeading = headingA && headingA === headingB ? 0.75 : 0;
  // Two headings that differ belong to two blocks, however alike their words.
  if (headingA && headingB && !sameHeading) return 0;
  if (!sketchA || !sketchB) return sameHeading;
  const share = sharedRows(sketchA, sketchB) / ROWS;
  return Math.max(sameHeading, share < 0.35 ? 0 : share * (tagA === tagB ? 0.95 : 0.8));
}

function sharedRows(a: string, b: string): number {
  let same = 0;
  for (let i = 0; i < ROWS * 4; i += 4) if (a.slice(i, i + 4) === b.slice(i, i + 4)) same++;
  return same;
}
