import { entryAt } from '../entries';
import { canPart, isBlock, isContainer, isInvisible, type Neighbour } from '../html/content-model';
import {
  ancestors,
  bodyOf,
  childrenOf,
  descendants,
  type Element,
  isElement,
  isText,
  type Node,
  type TextNode,
} from '../html/tree';
import type { ParsedPage } from './read-page';

export type Side = 'before' | 'after' | 'start' | 'end';

/** A gap between two neighbours where a block may stand, and how its place is written: a side of an element. */
export interface Spot {
  readonly container: Element;
  readonly left: Neighbour;
  readonly right: Neighbour;
  readonly anchor: Element;
  readonly side: Side;
  /** Offset into the page's structure. */
  readonly offset: number;
  /** What must be written first: `</p>` where the anchor is a paragraph whose end tag was left out. */
  readonly prefix: '' | '</p>';
}

const known = new WeakMap<object, readonly Spot[]>();

/** Every spot of a page where a widget may stand, in document order, by the rules of HTML; not yet proven by parsing. */
export function listSpots(page: ParsedPage): readonly Spot[] {
  const found = known.get(page.doc) ?? computeSpots(page);
  known.set(page.doc, found);
  return found;
}

function computeSpots(page: ParsedPage): Spot[] {
  const body = bodyOf(page.doc);
  if (body?.tagName !== 'body') return [];
  const open = new Set<Element>();
  const spots: Spot[] = [];
  for (const el of [body, ...descendants(body)]) {
    // Containers inside something closed are closed too: the parent was looked at first.
    if (!isContainer(el) && !passesThrough(el)) continue;
    if (el !== body && !open.has(ancestors(el).next().value as Element)) continue;
    open.add(el);
    if (isContainer(el)) spots.push(...spotsIn(el));
  }
  return spots.sort((a, b) => a.offset - b.offset);
}

/** Elements that take only their own kind of children, but in those children a block may stand. */
const structures = new Set(['ul', 'ol', 'dl', 'table', 'tbody', 'thead', 'tfoot', 'tr']);
const passesThrough = (el: Element): boolean => structures.has(el.tagName);

function spotsIn(container: Element): Spot[] {
  const row = itemsOf(container);
  const spots: Spot[] = [];
  for (let i = 0; i + 1 < row.length; i++) {
    const left = entryAt(row, i);
    const right = entryAt(row, i + 1);
    if (!canPart(container, left, right)) continue;
    const spot = spotBetween(container, left, right);
    if (spot) spots.push(spot);
  }
  return spots;
}

/** Elements and runs of text of a container from edge to edge. What nobody sees, and what the parser moved here, is no neighbour. */
export function itemsOf(container: Element): Neighbour[] {
  const items: Neighbour[] = ['edge'];
  let end = 0;
  for (const node of childrenOf(container)) {
    if (!isSeen(node)) continue;
    // A formatting element that the parser opened again has the place of the first: it stands nowhere itself.
    const at = isElement(node) ? node.sourceCodeLocation : undefined;
    if (isElement(node) && standsInside(node, container) && (at?.startOffset ?? 0) >= end) {
      items.push(node);
      end = at?.endOffset ?? end;
    } else if (items.at(-1) !== 'text') items.push('text');
  }
  items.push('edge');
  return items;
}

const isSeen = (node: Node): node is TextNode | Element =>
  isText(node) ? node.value.trim() !== '' : isElement(node) && !isInvisible(node);

/** Foster-parented and reopened elements have a source place outside their parent: nothing may be placed by them. */
function standsInside(el: Element, parent: Element): boolean {
  const at = el.sourceCodeLocation;
  const around = parent.sourceCodeLocation;
  if (!at) return false;
  return !around || (at.startOffset >= around.startOffset && at.endOffset <= around.endOffset);
}

function spotBetween(container: Element, left: Neighbour, right: Neighbour): Spot | undefined {
  const beside = besideOf(container, left, right);
  if (!beside) return undefined;
  const [anchor, side] = beside;
  const at = placeOf(anchor, side);
  return at && { container, left, right, anchor, side, ...at };
}

/** What a spot hangs on: rather a block than words, rather what stands before it, else the edge of what it stands in. */
function besideOf(container: Element, left: Neighbour, right: Neighbour): [Element, Side] | undefined {
  const [before, after] = [left, right].map((n) => (typeof n === 'object' ? n : undefined));
  if (before && (isBlock(before) || !after)) return [before, 'after'];
  if (after) return [after, 'before'];
  if (left === 'edge') return [container, 'start'];
  return right === 'edge' ? [container, 'end'] : undefined;
}

/** Where a side of an element is in the source; nothing where the source does not say. */
export function placeOf(el: Element, side: Side): { offset: number; prefix: Spot['prefix'] } | undefined {
  const at = el.sourceCodeLocation;
  const plain = (offset: number | undefined) =>
    offset === undefined ? undefined : { offset, prefix: '' as const };
  if (!at) return undefined;
  if (side === 'before') return plain(at.startOffset);
  if (side === 'after')
    return { offset: at.endOffset, prefix: el.tagName === 'p' && !at.endTag && at.startTag ? '</p>' : '' };
  if (side === 'start') return plain(at.startTag?.endOffset);
  return plain(at.endTag?.startOffset ?? (at.startTag ? at.endOffset : undefined));
}

/** The element a spot on a side of `el` stands in. */
export const containerOf = (el: Element, side: Side): Element | undefined =>
  side === 'start' || side === 'end' ? el : (ancestors(el).next().value ?? undefined);
