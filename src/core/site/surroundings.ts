import { entryAt } from '../entries';
import { isInvisible, type Neighbour } from '../html/content-model';
import { ancestors, descendants, type Element, elementsIn } from '../html/tree';
import { fingerprint } from '../hash';
import type { PitchAddress } from './pitch-address';
import type { ParsedPage } from './read-page';
import { isWeak, lookalikesOf, type Signature, type SignedBlock, signatureOf, similarity } from './signature';
import { itemsOf, listSpots, type Spot } from './spot';

/** What a spot of a page is known by: the blocks around it, what stands outside, the heading above, the row as a whole. */

/** The blocks around a gap of a container, the far ones skipping over text. */
export function aroundOf(
  page: ParsedPage,
  container: Element,
  left: Neighbour,
  right: Neighbour,
): PitchAddress['around'] {
  const items = rowItems(container);
  const at = gapIndex(items, left, right);
  const sig = (n: number): Signature => signatureOf(page, items[n] ?? 'edge', container);
  return [sig(at - 1), sig(at), sig(at + 1), sig(at + 2)];
}

/** Levels that are climbed to find something beside a wrapper. */
const LEVELS = 5;

const outsides = new WeakMap<Element, PitchAddress['outside']>();

/** What stands one level up, before and after a container; wrappers with nothing beside them are passed over. */
export function outsideOf(page: ParsedPage, container: Element): PitchAddress['outside'] {
  const known = outsides.get(container);
  if (known) return known;
  let found: PitchAddress['outside'] = ['', ''];
  let at = container;
  for (let level = 0; level < LEVELS && found.every(isWeak); level++) {
    const up = ancestors(at).next().value;
    if (!up) break;
    const kids = elementsIn(up).filter((e) => !isInvisible(e));
    const i = kids.indexOf(at);
    const sig = (n: number): Signature => (kids[n] ? signatureOf(page, entryAt(kids, n), up) : '');
    found = [sig(i - 1), sig(i + 1)];
    at = up;
  }
  outsides.set(container, found);
  return found;
}

const rows = new WeakMap<Element, Neighbour[]>();

/** What stands in a container from edge to edge; computed once. */
export const rowItems = (container: Element): Neighbour[] => {
  const found = rows.get(container) ?? itemsOf(container);
  rows.set(container, found);
  return found;
};

const places = new WeakMap<readonly Neighbour[], ReadonlyMap<Neighbour, number>>();

/** Which item of a row stands to the left of a gap. Rows of thousands are common: places are looked up, not searched for. */
export function gapIndex(items: readonly Neighbour[], left: Neighbour, right: Neighbour): number {
  const index = places.get(items) ?? new Map(items.map((item, i) => [item, i]));
  places.set(items, index);
  if (typeof left === 'object') return index.get(left) ?? -1;
  if (typeof right === 'object') return (index.get(right) ?? 0) - 1;
  return left === 'edge' ? 0 : items.length - 2;
}

const rowMarks = new WeakMap<Element, string>();

/** A fingerprint of all that stands in a container, in order. */
export function rowOf(page: ParsedPage, container: Element): string {
  const found =
    rowMarks.get(container) ??
    fingerprint(
      rowItems(container)
        .map((n) => signatureOf(page, n, container))
        .join('|'),
    );
  rowMarks.set(container, found);
  return found;
}

const headings = new WeakMap<object, { at: number; mark: string }[]>();

/** An edited heading is still the same one, as long as half of its words are. */
export const sameHeading = (a: string, b: string): boolean =>
  a !== '' && b !== '' && similarity(`${a}:`, `${b}:`) >= 0.45;

/** The nearest heading that begins before an offset. */
export function headingBefore(page: ParsedPage, offset: number): string {
  const found =
    headings.get(page.doc) ??
    [...descendants(page.doc)]
      .filter((e) => /^h[1-6]$/.test(e.tagName) && e.sourceCodeLocation)
      .map((e) => ({
        at: e.sourceCodeLocation?.startOffset ?? 0,
        mark: signatureOf(page, e, e).split(':').slice(0, 3).join(':').replace(/^h\d/, 'h'),
      }));
  headings.set(page.doc, found);
  let [low, high] = [0, found.length];
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((found[mid]?.at ?? 0) < offset) low = mid + 1;
    else high = mid;
  }
  return found[low - 1]?.mark ?? '';
}

const around = new WeakMap<object, ReadonlyMap<string, readonly (readonly Spot[])[]>>();

/** The gaps of a page by the blocks around them, in document order; spots with nothing to see between them are one gap. */
export function spotsAround(page: ParsedPage): ReadonlyMap<string, readonly (readonly Spot[])[]> {
  const found = around.get(page.doc);
  if (found) return found;
  const made = new Map<string, Spot[][]>();
  for (const spot of listSpots(page)) {
    const key = aroundOf(page, spot.container, spot.left, spot.right).join();
    const gaps = made.get(key) ?? [];
    const last = gaps.at(-1);
    if (last?.[0] && oneGap(page, last[0], spot)) last.push(spot);
    else gaps.push([spot]);
    made.set(key, gaps);
  }
  around.set(page.doc, made);
  return made;
}

/** Gaps with the same blocks around and the same outside. */
export const sameOutside = (
  page: ParsedPage,
  near: PitchAddress['around'],
  outside: PitchAddress['outside'],
): (readonly Spot[])[] =>
  (spotsAround(page).get(near.join()) ?? []).filter((gap) =>
    gap.some((s) => outsideOf(page, s.container).join() === outside.join()),
  );

const lookalikes = new WeakMap<object, ReadonlySet<Signature>>();

/** The blocks that spots stand beside, each once. */
function signedBlocks(page: ParsedPage): SignedBlock[] {
  const blocks = new Map<Element, SignedBlock>();
  for (const spot of listSpots(page)) {
    for (const n of [spot.left, spot.right]) {
      if (typeof n !== 'object' || blocks.has(n)) continue;
      blocks.set(n, {
        signature: signatureOf(page, n, spot.container),
        from: n.sourceCodeLocation?.startOffset ?? 0,
        to: n.sourceCodeLocation?.endOffset ?? 0,
      });
    }
  }
  return [...blocks.values()];
}

/** Whether all that a spot is known by stands, nearly, elsewhere on the page too. */
function alikeElsewhere(page: ParsedPage, near: PitchAddress['around']): boolean {
  const found = lookalikes.get(page.doc) ?? lookalikesOf(signedBlocks(page));
  lookalikes.set(page.doc, found);
  const telling = [near[1], near[2]].filter((s) => !isWeak(s));
  return telling.length > 0 && telling.every((s) => found.has(s));
}

/** How a page repeats itself at a spot: see {@link PitchAddress}. */
export function repeatsOf(
  page: ParsedPage,
  offset: number,
  near: PitchAddress['around'],
  outside: PitchAddress['outside'],
): Pick<PitchAddress, 'twin' | 'repeats' | 'alike'> {
  const gaps = sameOutside(page, near, outside);
  const n = gaps.findIndex((gap) => gap.some((s) => s.offset === offset));
  return {
    twin: gaps.length < 2 || n < 0 ? '1/1' : `${n + 1}/${gaps.length}`,
    repeats: Math.max(1, spotsAround(page).get(near.join())?.length ?? 1),
    alike: alikeElsewhere(page, near),
  };
}

/** Two spots with nothing to see between them: inside and outside of a wrapper. To a shopper they are one. */
export function oneGap(page: ParsedPage, a: Spot, b: Spot): boolean {
  const piece = page.source.structure.slice(Math.min(a.offset, b.offset), Math.max(a.offset, b.offset));
  return (
    piece.length < 4000 &&
    !/<(img|input|iframe|video|audio|hr|svg|object|canvas|embed)\b/i.test(piece) &&
    piece
      .replace(/<!--[\s\S]*?-->|<(script|style|template)\b[\s\S]*?<\/\1\s*>|<[^>]*>|&nbsp;/gi, '')
      .trim() === ''
  );
}
