import { isContainer, isInvisible } from '../html/content-model';
import {
  ancestors,
  bodyOf,
  childrenOf,
  descendants,
  type Element,
  elementsIn,
  isElement,
  isText,
} from '../html/tree';
import type { PitchAddress, Region } from './pitch-address';
import { labelFor, labelOfEdge } from './pitch-label';
import type { ParsedPage } from './read-page';
import { type Landmark, pathTo, type Regions, type RegionSpot, regionOf, regionsOf } from './regions';
import { containerOf, itemsOf, listSpots, placeOf, type Side, type Spot } from './spot';
import { aroundOf, headingBefore, outsideOf, repeatsOf, rowOf } from './surroundings';

export type { PitchAddress, Region } from './pitch-address';
export type { Side } from './spot';

export interface Pitch {
  readonly address: PitchAddress;
  /** Words for people: "after “Baskets grown and woven here”". */
  readonly label: string;
  readonly region: Region;
  /** Offset into the page's structure where inserted text goes. */
  readonly offset: number;
  /** Written before anything else there: the end tag of a paragraph that has none. */
  readonly prefix: Spot['prefix'];
  /** Offsets of the start tags of the anchor and of what it stands in, so that a view of the page can find the elements. */
  readonly anchorAt: number;
  readonly containerAt: number;
}

/** Every spot of a page where a widget may stand, in document order. */
export function listPitches(page: ParsedPage): Pitch[] {
  const regions = regionsOf(page);
  return apart(
    listSpots(page).flatMap((spot) => {
      const edge = edgeOf(regions, spot);
      // The edge of a header is in the row of its menu, wherever that stands: from here a widget would go there.
      if (edge && leadsElsewhere(page, regions, edge)) return [];
      return present(pitchOf(page, regions, edge ?? spot));
    }),
  );
}

function leadsElsewhere(page: ParsedPage, regions: Regions, { anchor, side, offset }: Spot): boolean {
  const region = regionOf(anchor, regions);
  return region !== 'page' && edgePitch(page, region, side)?.offset !== offset;
}

/** No two spots are called the same: those after the first are counted, in the order of the page. */
function apart(pitches: readonly Pitch[]): Pitch[] {
  const all = new Map<string, number>();
  for (const { label } of pitches) all.set(label, (all.get(label) ?? 0) + 1);
  const seen = new Map<string, number>();
  return pitches.map((p) => {
    const of = all.get(p.label) ?? 1;
    if (of === 1) return p;
    const n = (seen.get(p.label) ?? 0) + 1;
    seen.set(p.label, n);
    return n === 1 ? p : { ...p, label: `${p.label} (${n} of ${of})` };
  });
}

const present = <T>(x: T | undefined): T[] => (x === undefined ? [] : [x]);

/**
 * At the edges of header, footer and side columns the pitch hangs on the region itself, not on what happens to stand
 * there: that is the same spot on every page.
 */
export function edgeOf(regions: Regions, spot: Spot): Spot | undefined {
  for (const name of ['header', 'footer', 'side', 'side-2'] as const) {
    const region = regions.get(name);
    if (!region || region.first || region.element !== spot.container) continue;
    if (spot.left !== 'edge' && spot.right !== 'edge') continue;
    const side: Side = spot.left === 'edge' ? 'start' : 'end';
    const at = placeOf(region.element, side);
    if (at) return { ...spot, anchor: region.element, side, ...at };
  }
  return undefined;
}

/** What a spot is called without its number: the same wherever it stands now. */
export const bareLabel = (label: string): string => label.replace(/ \(\d+ of \d+\)$/, '');

/** A spot as a pitch: with its address and words for it. @param known its address, where it is known: making one takes as long as parsing */
export function pitchOf(
  page: ParsedPage,
  regions: Regions,
  { anchor, side, offset, prefix, container, left, right }: Spot,
  known?: PitchAddress,
): Pitch | undefined {
  const region = regionOf(anchor, regions);
  return {
    address: known ?? {
      region,
      path: pathTo(rootOf(page, regions, region), anchor),
      side,
      around: aroundOf(page, container, left, right),
      outside: outsideOf(page, container),
      heading: headingBefore(page, offset),
      row: rowOf(page, container),
      ...repeatsOf(page, offset, aroundOf(page, container, left, right), outsideOf(page, container)),
    },
    label: labelFor(page, regions, anchor, side),
    region,
    offset,
    prefix,
    anchorAt: anchor.sourceCodeLocation?.startOffset ?? 0,
    containerAt: ancestors(anchor).next().value?.sourceCodeLocation?.startOffset ?? 0,
  };
}

/** The pitch on a side of an element, whether or not it is on the list. */
export function pitchAt(
  page: ParsedPage,
  anchor: Element,
  side: Side,
  known?: PitchAddress,
): Pitch | undefined {
  const at = placeOf(anchor, side);
  const container = containerOf(anchor, side);
  if (!at || !container) return undefined;
  const items = itemsOf(container);
  const before = items.indexOf(anchor) - 1;
  const i = { start: 0, end: items.length - 2, before, after: before + 1 }[side];
  const spot = { anchor, side, container, left: items[i] ?? 'edge', right: items[i + 1] ?? 'edge', ...at };
  return pitchOf(page, regionsOf(page), spot, known);
}

/** The element that paths of a region start from. */
export const rootOf = (page: ParsedPage, regions: Regions, region: Region): Element | undefined =>
  region === 'page' ? bodyOf(page.doc) : regions.get(region)?.element;

/**
 * The pitch at an edge of a region, in it or beside it, whatever stands there: on its element, or on the run of
 * elements that it is.
 */
export function edgePitch(
  page: ParsedPage,
  region: Landmark,
  side: Side,
  known?: PitchAddress,
): Pitch | undefined {
  const regions = regionsOf(page);
  const spot = regions.get(region);
  if (!spot) return undefined;
  const pitch = edgeOfSpot(page, { spot, region, regions }, side, known);
  return (
    pitch && {
      ...pitch,
      region,
      address: { ...pitch.address, region, path: '', side },
      label: labelOfEdge(region, side),
    }
  );
}

function edgeOfSpot(
  page: ParsedPage,
  { spot, region, regions }: { spot: RegionSpot; region: Landmark; regions: Regions },
  side: Side,
  known: PitchAddress | undefined,
): Pitch | undefined {
  const first = side === 'start' || side === 'before';
  const inside = side === 'start' || side === 'end';
  const row = region === 'header' && inside ? headerRow(spot, regions) : undefined;
  if (spot.first && !row)
    return pitchAt(page, first ? spot.first : (spot.last ?? spot.first), first ? 'before' : 'after', known);
  return pitchAt(page, inside ? holderIn(row ?? spot.element, first) : spot.element, side, known);
}

/**
 * The row that things of a header stand in. Where the menu is a bar beside the header that holds more than its list (the site's name, a
 * button that opens it), that bar is the row: a header without menu is a picture or a title.
 */
function headerRow(header: RegionSpot, regions: Regions): Element | undefined {
  const menu = regions.get('menu')?.element;
  const isOutside = menu && menu !== header.element && ![...ancestors(menu)].includes(header.element);
  const bar = menu && [menu, ...ancestors(menu)].find((e) => e.tagName === 'nav');
  if (isOutside && bar) {
    const row = rowIn(bar);
    if (row !== menu && elementsIn(row).filter((e) => !isInvisible(e)).length > 1) return row;
  }
  return header.first ? undefined : rowIn(header.element);
}

/**
 * A header that holds one box and nothing beside it is that box: it has the width, the padding and the row that things of a header stand
 * in. What is put behind it would come to stand in a row of its own.
 */
function rowIn(header: Element): Element {
  let at = header;
  for (let level = 0; level < 3; level++) {
    const kids = childrenOf(at).filter((n) =>
      isText(n) ? n.value.trim() !== '' : isElement(n) && !isInvisible(n),
    );
    const [only, other] = kids;
    if (!only || other || !isElement(only) || only.tagName !== 'div') break;
    at = only;
  }
  return at;
}

/** Where a region is a row, a table or a list, its edge is in its first or last cell or item: nothing stands in a row itself. */
function holderIn(region: Element, first: boolean): Element {
  let at = region;
  for (let level = 0; level < 4 && !isContainer(at); level++) {
    const kids = elementsIn(at).filter((e) => !isInvisible(e));
    const next = first ? kids[0] : kids.at(-1);
    if (!next) break;
    at = next;
  }
  return isContainer(at) ? at : region;
}

const starts = new WeakMap<object, ReadonlyMap<number, Element>>();

/** The element that a pitch stands in: what a widget there must come to be a child of. */
export function containerOfPitch(
  page: ParsedPage,
  pitch: Pick<Pitch, 'address' | 'anchorAt' | 'containerAt'>,
): Element | undefined {
  const found =
    starts.get(page.doc) ??
    new Map(
      [...descendants(page.doc)].flatMap((e) =>
        e.sourceCodeLocation ? [[e.sourceCodeLocation.startOffset, e] as const] : [],
      ),
    );
  starts.set(page.doc, found);
  const { side } = pitch.address;
  return found.get(side === 'start' || side === 'end' ? pitch.anchorAt : pitch.containerAt);
}

export interface RegionPlace {
  readonly region: Landmark;
  readonly at: number;
  readonly confidence: number;
}

/** Where the regions of a page begin, for views that mark them. */
export const listRegions = (page: ParsedPage): RegionPlace[] =>
  [...regionsOf(page)]
    .filter(([region]) => region !== 'menu')
    .flatMap(([region, spot]) => {
      const at = (spot.first ?? spot.element).sourceCodeLocation?.startOffset;
      return at === undefined ? [] : [{ region, at, confidence: spot.confidence }];
    });
