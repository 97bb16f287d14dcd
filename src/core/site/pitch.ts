import { isInvisible, type Neighbour } from '../html/content-model';
import { textOf } from '../html/source';
import { ancestors, attr, bodyOf, collapse, descendants, type Element, elementsIn, find, rawText } from '../html/tree';
import { fingerprint } from '../hash';
import type { ParsedPage } from './read-page';
import { elementAt, type Landmark, type Regions, regionOf, regionsOf, pathTo, UNSURE } from './regions';
import { isWeak, lookalikesOf, type Signature, type SignedBlock, signatureOf, similarity } from './signature';
import { containerOf, itemsOf, listSpots, placeOf, type Side, type Spot } from './spot';

export type { Side } from './spot';
export type Region = Landmark | 'page';

/**
 * A pitch's address: how to find the spot again after the page changed. It names the region, the path of the anchor
 * below it ("section:1/div:0"; '' is the region's own edge) and the side of the anchor; and what stands around: the
 * signatures of two neighbours to each side, the nearest heading above, and the whole row it stands in. No offset:
 * offsets do not survive edits.
 */
export interface PitchAddress {
  readonly region: Region;
  readonly path: string;
  readonly side: Side;
  /** Signatures of the second and the first block before, and of the first and second after. */
  readonly around: readonly [Signature, Signature, Signature, Signature];
  /** The same one level up, before and after what the spot stands in; wrappers with nothing beside them are passed over. */
  readonly outside: readonly [Signature, Signature];
  readonly heading: string;
  readonly row: string;
  /** Which one of how many spots that are the same inside and outside: "1/1", or "2/3" where the page repeats itself. */
  readonly twin: string;
  /** How many gaps of the page have the same blocks around, whatever stands outside. */
  readonly repeats: number;
  /** Whether all that it is known by stands, nearly, elsewhere on the page too: cards, rows of dates. */
  readonly alike: boolean;
}

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
  return listSpots(page).flatMap((spot) => present(pitchOf(page, regions, edgeOf(regions, spot) ?? spot)));
}

const present = <T>(x: T | undefined): T[] => (x === undefined ? [] : [x]);

/**
 * At the edges of header, footer and side columns the pitch hangs on the region itself, not on what happens to stand
 * there: that is the same spot on every page.
 */
function edgeOf(regions: Regions, spot: Spot): Spot | undefined {
  for (const name of ['header', 'footer', 'side', 'side-2'] as const) {
    const region = regions.get(name);
    if (!region || region.first || region.element !== spot.container) continue;
    const side: Side | undefined = spot.left === 'edge' ? 'start' : spot.right === 'edge' ? 'end' : undefined;
    const at = side && placeOf(region.element, side);
    if (at && side) return { ...spot, anchor: region.element, side, ...at };
  }
  return undefined;
}

function pitchOf(page: ParsedPage, regions: Regions, { anchor, side, offset, prefix, container, left, right }: Spot): Pitch | undefined {
  const region = regionOf(anchor, regions);
  return {
    address: {
      region, path: pathTo(rootOf(page, regions, region), anchor), side,
      around: aroundOf(page, container, left, right), outside: outsideOf(page, container), heading: headingBefore(page, offset), row: rowOf(page, container), ...repeatsOf(page, offset, aroundOf(page, container, left, right), outsideOf(page, container)),
    },
    label: labelFor(page, regions, anchor, side), region, offset, prefix,
    anchorAt: anchor.sourceCodeLocation?.startOffset ?? 0,
    containerAt: ancestors(anchor).next().value?.sourceCodeLocation?.startOffset ?? 0,
  };
}

/** The pitch on a side of an element, whether or not it is on the list. */
export function pitchAt(page: ParsedPage, anchor: Element, side: Side): Pitch | undefined {
  const at = placeOf(anchor, side);
  const container = containerOf(anchor, side);
  if (!at || !container) return undefined;
  const items = itemsOf(container);
  const i = side === 'start' ? 0 : side === 'end' ? items.length - 2 : items.indexOf(anchor) - (side === 'before' ? 1 : 0);
  return pitchOf(page, regionsOf(page), { anchor, side, container, left: items[i] ?? 'edge', right: items[i + 1] ?? 'edge', ...at });
}

const rootOf = (page: ParsedPage, regions: Regions, region: Region): Element | undefined =>
  region === 'page' ? bodyOf(page.doc) : regions.get(region)?.element;

/** The blocks around a gap of a container, the far ones skipping over text. */
function aroundOf(page: ParsedPage, container: Element, left: Neighbour, right: Neighbour): PitchAddress['around'] {
  const items = rowItems(container);
  const at = gapIndex(items, left, right);
  const sig = (n: number): Signature => signatureOf(page, items[n] ?? 'edge', container);
  return [sig(at - 1), sig(at), sig(at + 1), sig(at + 2)];
}

/** Levels that are climbed to find something beside a wrapper. */
const LEVELS = 5;

const outsides = new WeakMap<Element, PitchAddress['outside']>();
function outsideOf(page: ParsedPage, container: Element): PitchAddress['outside'] {
  const known = outsides.get(container);
  if (known) return known;
  let found: PitchAddress['outside'] = ['', ''];
  let at = container;
  for (let level = 0; level < LEVELS && found.every(isWeak); level++) {
    const up = ancestors(at).next().value;
    if (!up) break;
    const kids = elementsIn(up).filter((e) => !isInvisible(e));
    const i = kids.indexOf(at);
    const sig = (n: number): Signature => (kids[n] ? signatureOf(page, kids[n] as Element, up) : '');
    found = [sig(i - 1), sig(i + 1)];
    at = up;
  }
  outsides.set(container, found);
  return found;
}

const rows = new WeakMap<Element, Neighbour[]>();
const rowItems = (container: Element): Neighbour[] => {
  const found = rows.get(container) ?? itemsOf(container);
  rows.set(container, found);
  return found;
};

const places = new WeakMap<readonly Neighbour[], ReadonlyMap<Neighbour, number>>();

/** Which item of a row stands to the left of a gap. Rows of thousands are common: places are looked up, not searched for. */
function gapIndex(items: readonly Neighbour[], left: Neighbour, right: Neighbour): number {
  const index = places.get(items) ?? new Map(items.map((item, i) => [item, i]));
  places.set(items, index);
  if (typeof left === 'object') return index.get(left) ?? -1;
  if (typeof right === 'object') return (index.get(right) ?? 0) - 1;
  return left === 'edge' ? 0 : items.length - 2;
}

const rowMarks = new WeakMap<Element, string>();
function rowOf(page: ParsedPage, container: Element): string {
  const found = rowMarks.get(container) ?? fingerprint(rowItems(container).map((n) => signatureOf(page, n, container)).join('|'));
  rowMarks.set(container, found);
  return found;
}

const headings = new WeakMap<object, { at: number; mark: string }[]>();

/** An edited heading is still the same one, as long as half of its words are. */
const sameHeading = (a: string, b: string): boolean => a !== '' && b !== '' && similarity(`${a}:`, `${b}:`) >= 0.45;

/** The nearest heading that begins before an offset. */
function headingBefore(page: ParsedPage, offset: number): string {
  const found = headings.get(page.doc) ?? [...descendants(page.doc)].filter((e) => /^h[1-6]$/.test(e.tagName) && e.sourceCodeLocation).map((e) => ({ at: e.sourceCodeLocation?.startOffset ?? 0, mark: signatureOf(page, e, e).split(':').slice(0, 3).join(':').replace(/^h\d/, 'h') }));
  headings.set(page.doc, found);
  let [low, high] = [0, found.length];
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((found[mid]?.at ?? 0) < offset) low = mid + 1;
    else high = mid;
  }
  return found[low - 1]?.mark ?? '';
}

export type Resolution =
  | { readonly found: true; readonly pitch: Pitch; readonly confidence: number }
  | { readonly found: false; readonly best?: Pitch; readonly confidence: number };

/** How sure a resolution must be before anything is placed; chosen by hand, and held by bin/bench reanchor. */
export const SURE = 0.5;
/**
 * Things that must speak for a spot: a neighbour that is the same counts 1, an edited one as much as it is alike; a far
 * neighbour, what is beside the container, the heading and the very same path a half. One neighbour alone is not
 * enough: its words may stand elsewhere too. Chosen by hand, and held by bin/bench reanchor.
 */
const EVIDENCE = 1.5;
/** By how much it must be better than any other spot. */
const CLEAR = 0.12;

/**
 * Finds an address on a page. A region's own edge ("the end of the header") is where the region is, if that is sure.
 * A row of blocks that is as it was is certain. Else every spot of the page is weighed by what stands around it;
 * below {@link SURE}, or with a rival nearly as good, the answer is "lost" with the best proposal.
 */
export function resolvePitch(page: ParsedPage, address: PitchAddress): Resolution {
  const regions = regionsOf(page);
  if (address.path === '' && address.region !== 'page') return resolveEdge(page, regions, address.region, address.side);
  const same = twins(page, regions, address) ?? unchanged(page, regions, address);
  if (same) return { found: true, pitch: same, confidence: 1 };
  const weighed = listSpots(page).map((spot) => ({ spot, ...weigh(page, spot, address) })).sort((a, b) => b.score - a.score);
  const [first] = weighed;
  if (!first || first.score < 0.15) return { found: false, confidence: 0 };
  const best = pitchOf(page, regions, first.spot);
  const confidence = Math.round(first.score * 100) / 100;
  // Where the page repeated itself and does so no longer the same way, nobody can tell which one is left.
  const exact = Math.max(first.left, first.right) >= 0.9;
  const alone = (address.twin === '1/1' || (first.inPlace && exact && first.outside >= 0.9)) && ((address.repeats === 1 && (!address.alike || exact)) || first.outside >= 1.7 || (address.repeats === 1 && first.inPlace && first.outside >= 0.9));
  const sure = alone && first.score >= SURE && first.evidence >= EVIDENCE;
  const rival = weighed.slice(1).find((w) => w.score > first.score - CLEAR && !complements(first, w) && !oneGap(page, first.spot, w.spot));
  if (best && sure && !rival) return { found: true, pitch: best, confidence };
  return { found: false, confidence: rival || !alone ? Math.min(confidence, 0.49) : confidence, ...(best && { best }) };
}

function resolveEdge(page: ParsedPage, regions: Regions, region: Landmark, side: Side): Resolution {
  const spot = regions.get(region);
  const pitch = spot && edgePitch(page, regions, region, side);
  if (!spot || !pitch) return { found: false, confidence: 0 };
  return spot.confidence >= UNSURE ? { found: true, pitch, confidence: spot.confidence } : { found: false, best: pitch, confidence: spot.confidence };
}

/** A region's first or last spot: inside its element, or around the run of elements that it is. */
function edgePitch(page: ParsedPage, regions: Regions, region: Landmark, side: Side): Pitch | undefined {
  const spot = regions.get(region);
  if (!spot) return undefined;
  const pitch = spot.first ? pitchAt(page, side === 'start' ? spot.first : (spot.last ?? spot.first), side === 'start' ? 'before' : 'after') : pitchAt(page, spot.element, side);
  return pitch && { ...pitch, region, address: { ...pitch.address, region, path: '', side }, label: labelOfEdge(region, side) };
}

const labelOfEdge = (region: Landmark, side: Side): string => `at the ${side} of ${regionNames[region]}`;

/** The anchor is where it was, in a row of blocks that is as it was. */
function unchanged(page: ParsedPage, regions: Regions, address: PitchAddress): Pitch | undefined {
  const root = rootOf(page, regions, address.region);
  const anchor = root && elementAt(root, address.path);
  const container = anchor && containerOf(anchor, address.side);
  if (!anchor || !container || rowOf(page, container) !== address.row || isInvisible(anchor)) return undefined;
  const pitch = pitchAt(page, anchor, address.side);
  return pitch && pitch.address.around.join() === address.around.join() && pitch.address.heading === address.heading && pitch.address.twin === address.twin ? pitch : undefined;
}

/**
 * The spot with the very same blocks around it, wherever it stands now. Where the page repeats itself, the one of the
 * same number, as long as there are as many as there were and its place or the heading above speaks for it too.
 */
function twins(page: ParsedPage, regions: Regions, address: PitchAddress): Pitch | undefined {
  if (address.around.every(isWeak)) return undefined;
  const gaps = sameOutside(page, address.around, address.outside);
  const [nth = 1, all = 1] = address.twin.split('/').map(Number);
  const gap = gaps.length === all ? gaps[nth - 1] : undefined;
  const spot = gap && nearest(page, gap, address);
  if (!spot) return undefined;
  const heading = sameHeading(headingBefore(page, spot.offset), address.heading);
  const place = samePlace(page, spot, address) >= 0.7;
  const strong = address.around.filter((s) => !isWeak(s)).length > 1;
  const supported = all > 1 ? place || heading : strong || heading || place || rowOf(page, spot.container) === address.row;
  return supported ? pitchOf(page, regions, edgeOf(regions, spot) ?? spot) : undefined;
}

/** Inside and outside of wrappers are one gap; of its spots, the one whose place is most like the old. */
const nearest = (page: ParsedPage, gap: readonly Spot[], address: PitchAddress): Spot | undefined =>
  [...gap].sort((a, b) => samePlace(page, b, address) - samePlace(page, a, address))[0];

const around = new WeakMap<object, ReadonlyMap<string, readonly (readonly Spot[])[]>>();

/** The gaps of a page by the blocks around them, in document order; spots with nothing to see between them are one gap. */
function spotsAround(page: ParsedPage): ReadonlyMap<string, readonly (readonly Spot[])[]> {
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

const sameOutside = (page: ParsedPage, near: PitchAddress['around'], outside: PitchAddress['outside']): (readonly Spot[])[] =>
  (spotsAround(page).get(near.join()) ?? []).filter((gap) => gap.some((s) => outsideOf(page, s.container).join() === outside.join()));

const lookalikes = new WeakMap<object, ReadonlySet<Signature>>();

/** The blocks that spots stand beside, each once. */
function signedBlocks(page: ParsedPage): SignedBlock[] {
  const blocks = new Map<Element, SignedBlock>();
  for (const spot of listSpots(page)) {
    for (const n of [spot.left, spot.right]) {
      if (typeof n !== 'object' || blocks.has(n)) continue;
      blocks.set(n, { signature: signatureOf(page, n, spot.container), from: n.sourceCodeLocation?.startOffset ?? 0, to: n.sourceCodeLocation?.endOffset ?? 0 });
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

function repeatsOf(page: ParsedPage, offset: number, near: PitchAddress['around'], outside: PitchAddress['outside']): Pick<PitchAddress, 'twin' | 'repeats' | 'alike'> {
  const gaps = sameOutside(page, near, outside);
  const n = gaps.findIndex((gap) => gap.some((s) => s.offset === offset));
  return { twin: gaps.length < 2 || n < 0 ? '1/1' : `${n + 1}/${gaps.length}`, repeats: Math.max(1, spotsAround(page).get(near.join())?.length ?? 1), alike: alikeElsewhere(page, near) };
}

interface Weighed {
  readonly spot: Spot;
  readonly score: number;
  readonly left: number;
  readonly right: number;
  readonly evidence: number;
  /** The very same path, and nothing foreign beside the container. */
  readonly inPlace: boolean;
  /** How much what stands beside the container is the same, 0 to 2. */
  readonly outside: number;
}

/** Weights of the evidence, adding up to 1; chosen by hand on the mutated copies of bin/bench reanchor. */
const W = { left: 0.29, right: 0.29, far: 0.06, outside: 0.07, heading: 0.07, place: 0.09 } as const;

function weigh(page: ParsedPage, spot: Spot, a: PitchAddress): Omit<Weighed, 'spot'> {
  const items = rowItems(spot.container);
  const at = gapIndex(items, spot.left, spot.right);
  const sig = (n: number): Signature => (n < 0 || n >= items.length ? '-' : signatureOf(page, items[n] as Neighbour, spot.container));
  const [farLeft, toLeft, toRight, farRight] = a.around;
  const [before, after] = outsideOf(page, spot.container);
  const place = samePlace(page, spot, a);
  const now = headingBefore(page, spot.offset);
  const heading = a.heading !== '' && now === a.heading ? 0.5 : sameHeading(now, a.heading) ? 0.25 : 0;
  // A block that came between, or went, leaves the next one in its place: worth half.
  const left = Math.max(similarity(sig(at), toLeft), 0.5 * similarity(sig(at), farLeft), 0.5 * similarity(sig(at - 1), toLeft));
  const right = Math.max(similarity(sig(at + 1), toRight), 0.5 * similarity(sig(at + 1), farRight), 0.5 * similarity(sig(at + 2), toRight));
  const score = W.left * left + W.right * right + W.far * (similarity(sig(at - 1), farLeft) + similarity(sig(at + 2), farRight))
    + W.outside * (similarity(before, a.outside[0]) + similarity(after, a.outside[1])) + (now === a.heading || heading ? W.heading : 0) + W.place * place;
  // The neighbour that the address hangs on decides between the two sides of a block that came in.
  const anchored = (a.side === 'after' || a.side === 'end' ? left : right) >= 0.9 ? 0.02 : 0;
  const known = (s: Signature, was: Signature): number => (isWeak(was) ? 0 : similarity(s, was));
  // Something else beside the container speaks against a spot: cards and rows are much alike, and shift.
  const foreign = (s: Signature, was: Signature): number => (!isWeak(was) && similarity(s, was) === 0 ? 0.4 : 0);
  const sure = (alike: number): number => (alike >= 0.75 ? alike : 0);
  const evidence = Math.max(known(sig(at), toLeft), 0.6 * known(sig(at - 1), toLeft), 0.5 * known(sig(at), farLeft)) + Math.max(known(sig(at + 1), toRight), 0.6 * known(sig(at + 2), toRight), 0.5 * known(sig(at + 1), farRight))
    + 0.5 * (sure(known(sig(at - 1), farLeft)) + sure(known(sig(at + 2), farRight)) + sure(known(before, a.outside[0])) + sure(known(after, a.outside[1]))) - foreign(before, a.outside[0]) - foreign(after, a.outside[1]) + heading + (place === 1 ? 0.45 : 0);
  return { score: score + anchored, left: similarity(sig(at), toLeft), right: similarity(sig(at + 1), toRight), evidence, inPlace: place === 1 && foreign(before, a.outside[0]) + foreign(after, a.outside[1]) === 0, outside: known(before, a.outside[0]) + known(after, a.outside[1]) };
}

function samePlace(page: ParsedPage, spot: Spot, a: PitchAddress): number {
  const regions = regionsOf(page);
  const region = regionOf(spot.anchor, regions);
  if (region !== a.region) return 0;
  const path = pathTo(rootOf(page, regions, region), spot.anchor);
  if (path === a.path && spot.side === a.side) return 1;
  // Inside and outside of a wrapper are told apart by the tags that lead there.
  const alike = tagsOf(path).endsWith(tagsOf(a.path).slice(-24)) && spot.side === a.side ? 0.15 : 0;
  return (path.replace(/:\d+$/, '') === a.path.replace(/:\d+$/, '') ? 0.7 : 0.4) + alike;
}

const tagsOf = (path: string): string => path.replace(/:\d+/g, '');

/** Two spots around one block that came in between the neighbours: either is right, so they are no rivals. */
const complements = (a: Weighed, b: Weighed): boolean =>
  a.spot.container === b.spot.container && (a.spot.left === b.spot.right || a.spot.right === b.spot.left) &&
  ((a.left >= 0.55 && b.left < 0.55 && b.right >= 0.55 && a.right < 0.55) || (a.right >= 0.55 && b.right < 0.55 && b.left >= 0.55 && a.left < 0.55));

/** Two spots with nothing to see between them: inside and outside of a wrapper. To a shopper they are one. */
function oneGap(page: ParsedPage, a: Spot, b: Spot): boolean {
  const piece = page.source.structure.slice(Math.min(a.offset, b.offset), Math.max(a.offset, b.offset));
  return piece.length < 4000 && !/<(img|input|iframe|video|audio|hr|svg|object|canvas|embed)\b/i.test(piece) && piece.replace(/<!--[\s\S]*?-->|<(script|style|template)\b[\s\S]*?<\/\1\s*>|<[^>]*>|&nbsp;/gi, '').trim() === '';
}

/** The pitch at the edge of a region: "at the end of the header". */
export function regionPitch(page: ParsedPage, region: Landmark, side: 'start' | 'end'): Pitch | undefined {
  return edgePitch(page, regionsOf(page), region, side);
}

function labelFor(page: ParsedPage, regions: Regions, el: Element, side: Side): string {
  const where = side === 'start' ? 'at the start of' : side === 'end' ? 'at the end of' : side;
  return `${where} ${nameOf(page, regions, el)}`;
}

const regionNames: Readonly<Record<Landmark, string>> = { header: 'the header', footer: 'the footer', main: 'the main part', side: 'the side column', 'side-2': 'the second side column', menu: 'the menu' };
const tagNames: Readonly<Record<string, string>> = {
  ul: 'the list', ol: 'the list', dl: 'the list', li: 'the item', form: 'the form', table: 'the table', td: 'the cell', p: 'the paragraph', hr: 'the line', nav: 'the menu', img: 'the picture', label: 'the label', input: 'the field', iframe: 'the frame', br: 'the line break',
};

function nameOf(page: ParsedPage, regions: Regions, el: Element): string {
  for (const [name, root] of regions) if (root.element === el && !root.first) return regionNames[name];
  const heading = /^h[1-6]$/.test(el.tagName) ? el : find(el, (e) => /^h[1-6]$/.test(e.tagName));
  const quoted = (text: string) => `“${text.length > 34 ? `${text.slice(0, 32).trimEnd()}…` : text}”`;
  const say = (e: Element) => collapse(textOf(page.source, rawText(e)));
  if (heading && say(heading)) return quoted(say(heading));
  const tag = tagNames[el.tagName];
  if (tag && el.tagName !== 'p' && el.tagName !== 'td' && el.tagName !== 'li') {
    const alt = attr(el, 'alt');
    return alt ? `${tag} ${quoted(textOf(page.source, alt))}` : tag;
  }
  if (say(el)) return quoted(say(el));
  const picture = find(el, (e) => e.tagName === 'img' && Boolean(attr(e, 'alt')));
  return picture ? `the picture ${quoted(textOf(page.source, attr(picture, 'alt') ?? ''))}` : (tag ?? 'the block');
}

export interface RegionPlace {
  readonly region: Landmark;
  readonly at: number;
  readonly confidence: number;
}

/** Where the regions of a page begin, for views that mark them. */
export const listRegions = (page: ParsedPage): RegionPlace[] =>
  [...regionsOf(page)].filter(([region]) => region !== 'menu').flatMap(([region, spot]) => {
    const at = (spot.first ?? spot.element).sourceCodeLocation?.startOffset;
    return at === undefined ? [] : [{ region, at, confidence: spot.confidence }];
  });

export const samePitch = (a: PitchAddress, b: PitchAddress): boolean =>
  a.region === b.region && a.path === b.path && a.side === b.side;

