import { entryAt } from '../entries';
import { collapse, descendants, bodyOf, childrenOf, type Element, isText } from '../html/tree';
import { isInvisible } from '../html/content-model';
import type { PitchAddress } from './pitch-address';
import type { Pitch } from './pitch';
import { edgeOf, pitchOf } from './pitch';
import type { ParsedPage } from './read-page';
import { regionsOf } from './regions';
import { listSpots, type Spot } from './spot';
import { samePlace } from './weigh-spot';

/**
 * Two versions of a page, laid side by side: each as the row of what a visitor meets (runs of text, pictures, controls),
 * whatever wraps them. What stands once in both, in the same order, is the same; between two such, a stretch that did not
 * change at all is the same throughout, and an edited word or two in a stretch of equal length is the edited same. The
 * idea is that of Bram Cohen's patience diff (from memory). It is unsure rather than wrong: of two lines that read alike in a
 * stretch that changed, neither is matched.
 */
export interface Alignment {
  readonly before: readonly Leaf[];
  readonly after: readonly Leaf[];
  /** For each leaf of the older page its number in the newer, or -1. */
  readonly to: Int32Array;
}

export interface Leaf {
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

/** Elements that are seen or used without any text in them. */
const seen = new Set([
  'img',
  'input',
  'iframe',
  'video',
  'audio',
  'hr',
  'svg',
  'object',
  'canvas',
  'embed',
  'textarea',
  'select',
]);

const rows = new WeakMap<object, readonly Leaf[]>();

/** What a visitor meets on a page, in source order. */
export function leavesOf(page: ParsedPage): readonly Leaf[] {
  const found = rows.get(page.doc) ?? computeLeaves(page);
  rows.set(page.doc, found);
  return found;
}

function computeLeaves(page: ParsedPage): Leaf[] {
  const body = bodyOf(page.doc);
  const leaves: Leaf[] = [];
  for (const el of body ? [body, ...descendants(body)] : []) {
    const at = el.sourceCodeLocation;
    if (seen.has(el.tagName) && at)
      leaves.push({
        from: at.startOffset,
        to: at.endOffset,
        text: `<${el.tagName} ${el.attrs
          .filter((a) => a.name === 'src' || a.name === 'alt' || a.name === 'name')
          .map((a) => a.value.split('/').pop())
          .join(' ')}`,
      });
    if (isInvisible(el)) continue;
    for (const node of childrenOf(el)) {
      const place = node.sourceCodeLocation;
      if (isText(node) && place && node.value.trim() !== '')
        leaves.push({
          from: place.startOffset,
          to: place.endOffset,
          text: collapse(node.value).toLowerCase(),
        });
    }
  }
  return leaves.sort((a, b) => a.from - b.from);
}

const alignments = new WeakMap<object, WeakMap<object, Alignment>>();

/** Lays two versions of a page side by side; computed once for a pair. */
export function alignPages(before: ParsedPage, after: ParsedPage): Alignment {
  const known = alignments.get(before.doc) ?? new WeakMap<object, Alignment>();
  alignments.set(before.doc, known);
  const found = known.get(after.doc) ?? align(leavesOf(before), leavesOf(after));
  known.set(after.doc, found);
  return found;
}

function align(before: readonly Leaf[], after: readonly Leaf[]): Alignment {
  const to = new Int32Array(before.length).fill(-1);
  const work: [number, number, number, number][] = [[0, before.length, 0, after.length]];
  for (let next = work.pop(); next; next = work.pop()) {
    const [a, aEnd, b, bEnd] = next;
    if (a >= aEnd || b >= bEnd) continue;
    const marks = commonOnce(before, a, aEnd, after, b, bEnd);
    if (marks.length === 0) matchStretch(before, a, aEnd, after, b, bEnd, to);
    let [i, j] = [a, b];
    for (const [x, y] of marks) {
      to[x] = y;
      work.push([i, x, j, y]);
      [i, j] = [x + 1, y + 1];
    }
    if (marks.length > 0) work.push([i, aEnd, j, bEnd]);
  }
  return { before, after, to };
}

/** Leaves that stand once in each stretch, the most of them that keep their order. */
function commonOnce(
  before: readonly Leaf[],
  a: number,
  aEnd: number,
  after: readonly Leaf[],
  b: number,
  bEnd: number,
): [number, number][] {
  const places = new Map<string, [number, number]>();
  for (let i = a; i < aEnd; i++) {
    const says = before[i]?.text ?? '';
    places.set(says, [places.has(says) ? -1 : i, -2]);
  }
  for (let j = b; j < bEnd; j++) {
    const place = places.get(after[j]?.text ?? '');
    if (place) place[1] = place[1] === -2 ? j : -1;
  }
  return longestRising([...places.values()].filter(([x, y]) => x >= 0 && y >= 0));
}

/** The longest row of pairs, sorted by the first number, whose second rises too. */
function longestRising(pairs: [number, number][]): [number, number][] {
  const tails: number[] = [];
  const back = new Int32Array(pairs.length).fill(-1);
  for (const [n, [, y]] of pairs.entries()) {
    let [low, high] = [0, tails.length];
    while (low < high) {
      const mid = (low + high) >> 1;
      if ((pairs[entryAt(tails, mid)]?.[1] ?? 0) < y) low = mid + 1;
      else high = mid;
    }
    back[n] = low > 0 ? entryAt(tails, low - 1) : -1;
    tails[low] = n;
  }
  const row: [number, number][] = [];
  for (let n = tails.at(-1) ?? -1; n >= 0; n = entryAt(back, n)) row.push(pairs[n] as [number, number]);
  return row.reverse();
}

/** Words that an edited line must have kept to be the same line; chosen by hand. */
const KEPT = 0.4;

/** A stretch with nothing to hold on to: as long as it was, line by line what is the same, or nearly. */
function matchStretch(
  before: readonly Leaf[],
  a: number,
  aEnd: number,
  after: readonly Leaf[],
  b: number,
  bEnd: number,
  to: Int32Array,
): void {
  if (aEnd - a !== bEnd - b) return;
  const alike = Array.from({ length: aEnd - a }, (_, n) =>
    keptWords(before[a + n]?.text ?? '', after[b + n]?.text ?? ''),
  );
  if (alike.some((share) => share < KEPT)) return;
  for (let n = 0; n < alike.length; n++) to[a + n] = b + n;
}

function keptWords(was: string, is: string): number {
  if (was === is) return 1;
  const words = new Set(was.split(' '));
  const now = new Set(is.split(' '));
  return [...words].filter((w) => now.has(w)).length / Math.max(words.size, now.size);
}

/**
 * Where a pitch of the older page is on the newer one, if what a visitor meets right before and right after it is
 * there and still follows one another. Where something came in between, on the side that the pitch hangs on, if the block it
 * hangs on is whole. Nothing otherwise: {@link resolvePitch} then weighs every spot.
 */
export function carryPitch(before: ParsedPage, after: ParsedPage, pitch: Pitch): Pitch | undefined {
  const rows = alignPages(before, after);
  const r = firstFrom(rows.before, pitch.offset);
  const left = r === 0 ? -1 : rows.to[r - 1];
  const right = r === rows.before.length ? rows.after.length : rows.to[r];
  if (left === undefined || right === undefined || (left < 0 && r > 0) || right < 0 || right <= left)
    return undefined;
  const low = left < 0 ? 0 : (rows.after[left]?.to ?? 0);
  const high = rows.after[right]?.from ?? Number.POSITIVE_INFINITY;
  const spots = listSpots(after).filter((s) => s.offset >= low && s.offset <= high);
  const regions = regionsOf(after);
  const spot =
    right === left + 1 ? nearest(after, spots, pitch.address) : besideAnchor(before, rows, spots, pitch);
  return spot && pitchOf(after, regions, edgeOf(regions, spot) ?? spot);
}

/** Inside and outside of wrappers are one gap; of its spots, the one whose place is most like the old. */
export const nearest = (page: ParsedPage, gap: readonly Spot[], address: PitchAddress): Spot | undefined =>
  [...gap].sort((a, b) => samePlace(page, b, address) - samePlace(page, a, address))[0];

/** The spot on the same side of the same block: one of the same tag that holds, from its first to its last, the same leaves. */
function besideAnchor(
  before: ParsedPage,
  { before: old, after: now, to }: Alignment,
  spots: readonly Spot[],
  pitch: Pitch,
): Spot | undefined {
  const anchor = listSpots(before).find((s) => s.offset === pitch.offset)?.anchor;
  const held = anchor && span(old, anchor);
  if (!anchor || !held) return undefined;
  const [first, last] = [to[held[0]], to[held[1]]];
  const same = spots.filter((s) => {
    const [a, b] = span(now, s.anchor) ?? [-1, -1];
    return s.side === pitch.address.side && s.anchor.tagName === anchor.tagName && a === first && b === last;
  });
  return same.length === 1 ? same[0] : undefined;
}

/** The first and the last leaf that an element holds. */
function span(leaves: readonly Leaf[], el: Element): [number, number] | undefined {
  const at = el.sourceCodeLocation;
  if (!at) return undefined;
  const [first, end] = [firstFrom(leaves, at.startOffset), firstFrom(leaves, at.endOffset)];
  return end > first ? [first, end - 1] : undefined;
}

/** The first leaf that begins at an offset or after it. */
function firstFrom(leaves: readonly Leaf[], offset: number): number {
  let [low, high] = [0, leaves.length];
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((leaves[mid]?.from ?? 0) < offset) low = mid + 1;
    else high = mid;
  }
  return low;
}
