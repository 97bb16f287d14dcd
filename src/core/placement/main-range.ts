import { bodyOf, type Element, elementsIn, rawText } from '../html/tree';
import type { ParsedPage } from '../site/read-page';
import type { Regions } from '../site/regions';

/** Offsets in the page's source. */
export type Range = readonly [from: number, to: number];

type Kept = 'header' | 'menu' | 'footer';
const kept: readonly Kept[] = ['header', 'menu', 'footer'];

/**
 * Where the content of another page goes: the main region; without one, all between header and footer; without those, the whole body. A header,
 * menu or footer that was found within the main region stays, and what is before or after it in the same box.
 */
export function mainRange(model: ParsedPage, regions: Regions): Range {
  const main = regions.get('main');
  if (!main || (!main.first && main.element.tagName === 'body')) return between(model, regions);
  const inside = main.first ? outsideOf(main.first, main.last ?? main.first) : insideOf(main.element);
  if (!inside) return between(model, regions);
  return withoutKept(main.element, inside, keptRegions(regions));
}

const insideOf = (el: Element): Range | undefined => {
  const at = el.sourceCodeLocation;
  return at?.startTag && [at.startTag.endOffset, at.endTag?.startOffset ?? at.endOffset];
};

const outsideOf = (first: Element, last: Element): Range | undefined => {
  const [from, to] = [first.sourceCodeLocation?.startOffset, last.sourceCodeLocation?.endOffset];
  return from === undefined || to === undefined ? undefined : [from, to];
};

/** Of a range of boxes the stretch around the one that holds most, up to the next that holds something kept; or that one's inside. */
function withoutKept(box: Element, [from, to]: Range, all: readonly Element[]): Range {
  const kids = elementsIn(box).filter((k) => {
    const at = k.sourceCodeLocation;
    return at && at.startOffset >= from && at.endOffset <= to;
  });
  const holds = (k: Element) => all.some((a) => contains(k, a));
  if (!kids.some(holds)) return [from, to];
  const weights = kids.map((k) => (all.includes(k) ? -1 : weightWithout(k, all)));
  const n = weights.indexOf(Math.max(...weights));
  const most = kids[n];
  const inMost = most && holds(most) && !all.includes(most) ? insideOf(most) : undefined;
  if (most && inMost) return withoutKept(most, inMost, all);
  const before = kids.slice(0, n).findLast(holds)?.sourceCodeLocation?.endOffset ?? from;
  const after = kids.slice(n + 1).find(holds)?.sourceCodeLocation?.startOffset ?? to;
  return [before, after];
}

const weightWithout = (el: Element, all: readonly Element[]): number =>
  lengthOf(el) - all.filter((a) => contains(el, a)).reduce((sum, a) => sum + lengthOf(a), 0);

const lengthOf = (el: Element): number => rawText(el).replace(/\s+/g, '').length;

function between(model: ParsedPage, regions: Regions): Range {
  const body = bodyOf(model.doc)?.sourceCodeLocation;
  const edge = (name: Kept, side: 'start' | 'end') => {
    const spot = regions.get(name);
    const el = side === 'start' ? (spot?.first ?? spot?.element) : (spot?.last ?? spot?.element);
    return side === 'start' ? el?.sourceCodeLocation?.startOffset : el?.sourceCodeLocation?.endOffset;
  };
  const from = edge('header', 'end') ?? edge('menu', 'end') ?? body?.startTag?.endOffset ?? 0;
  const to = edge('footer', 'start') ?? body?.endTag?.startOffset ?? model.source.structure.length;
  return from <= to ? [from, to] : [from, model.source.structure.length];
}

/** Of header, menu and footer: a page of the shop keeps them. */
export const keptRegions = (regions: Regions): readonly Element[] =>
  kept.flatMap((name) => blocksOf(regions, name));

/** The elements that a region is made of. */
export function blocksOf(regions: Regions, name: 'header' | 'menu' | 'footer'): readonly Element[] {
  const spot = regions.get(name);
  if (!spot) return [];
  return spot.first ? runOf(spot.element, spot.first, spot.last ?? spot.first) : [spot.element];
}

/** Whether an element lies in another, or is it. */
export const contains = (outer: Element, inner: Element): boolean => {
  const a = outer.sourceCodeLocation;
  const b = inner.sourceCodeLocation;
  return (
    a !== null &&
    a !== undefined &&
    b !== null &&
    b !== undefined &&
    a.startOffset <= b.startOffset &&
    a.endOffset >= b.endOffset
  );
};

const runOf = (parent: Element, first: Element, last: Element): Element[] => {
  const kids = elementsIn(parent);
  return kids.slice(kids.indexOf(first), kids.indexOf(last) + 1);
};
