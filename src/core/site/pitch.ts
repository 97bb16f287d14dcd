import { isClosed, isInvisible, takesBlocks } from '../html/content-model';
import { textOf } from '../html/source';
import { ancestors, attr, bodyOf, collapse, descendants, type Element, elementsIn, find, rawText } from '../html/tree';
import { fingerprint } from '../hash';
import { findLandmarks, type Landmark, type Landmarks } from './landmarks';
import type { ParsedPage } from './read-page';

export type Side = 'before' | 'after' | 'start' | 'end';
export type Region = Landmark | 'page';

/**
 * A pitch's address: how to find the spot again after the page changed. It names the region, the path of the anchor
 * element below it ("section:1/div:0", tag and index among its like), fingerprints of the anchor and of its two
 * neighbours, and the side of the anchor. No offset: offsets do not survive edits.
 */
export interface PitchAddress {
  readonly region: Region;
  readonly path: string;
  readonly mark: string;
  readonly before: string;
  readonly after: string;
  readonly side: Side;
}

export interface Pitch {
  readonly address: PitchAddress;
  /** Words for people: "after “Baskets grown and woven here”". */
  readonly label: string;
  readonly region: Region;
  /** Offset into the page's structure where inserted text goes. */
  readonly offset: number;
  /** Offsets of the start tags of the anchor and of what it stands in, so that a view of the page can find the elements. */
  readonly anchorAt: number;
  readonly containerAt: number;
}

/** How sure a resolution must be before anything is placed; chosen by hand. */
export const SURE = 0.55;

/** Every spot of a page where a widget may stand, in document order. */
export function listPitches(page: ParsedPage): Pitch[] {
  const body = bodyOf(page.doc);
  if (!body) return [];
  const marks = findLandmarks(page.doc);
  const pitches: Pitch[] = [];
  for (const container of [body, ...descendants(body)]) {
    if (!takesBlocks(container) || [container, ...ancestors(container)].some(isClosed)) continue;
    const kids = elementsIn(container).filter((el) => !isInvisible(el) && standsInside(el, container));
    pitches.push(...pitchesIn(page, marks, container, kids, container === body));
  }
  return pitches.sort((a, b) => a.offset - b.offset);
}

/**
 * Before the first block and after each. At the edges of header, footer and side column the pitch hangs on the region
 * itself, not on what happens to stand there: that is the same spot on every page.
 */
function pitchesIn(page: ParsedPage, marks: Landmarks, container: Element, kids: readonly Element[], isBody: boolean): Pitch[] {
  const shared = (['header', 'footer', 'side'] as const).some((r) => marks.get(r) === container);
  const edge = (side: 'start' | 'end') => (shared ? pitchAt(page, marks, container, side) : undefined);
  const [first] = kids;
  if (!first) return isBody ? [] : present(pitchAt(page, marks, container, 'start'));
  const out = present(edge('start') ?? pitchAt(page, marks, first, 'before'));
  for (const kid of kids) {
    // A field is tied to what follows it (its label, a sibling selector): nothing comes between.
    if (kid.tagName === 'input') continue;
    const last = kid === kids.at(-1) ? edge('end') : undefined;
    out.push(...present(last ?? pitchAt(page, marks, kid, 'after')));
  }
  return out;
}

const present = <T>(x: T | undefined): T[] => (x === undefined ? [] : [x]);

/** Foster-parented and reopened elements have a source place outside their parent: nothing may be placed by them. */
function standsInside(el: Element, parent: Element): boolean {
  const at = el.sourceCodeLocation;
  const around = parent.sourceCodeLocation;
  if (!at) return false;
  return !around || (at.startOffset >= around.startOffset && at.endOffset <= around.endOffset);
}

export function pitchAt(page: ParsedPage, marks: Landmarks, anchor: Element, side: Side): Pitch | undefined {
  const offset = offsetOf(anchor, side);
  if (offset === undefined) return undefined;
  const region = regionOf(anchor, marks);
  return {
    address: addressFor(page, marks, anchor, side),
    label: labelFor(page, marks, anchor, side),
    region,
    offset,
    anchorAt: anchor.sourceCodeLocation?.startOffset ?? 0,
    containerAt: ancestors(anchor).next().value?.sourceCodeLocation?.startOffset ?? 0,
  };
}

/** Void elements have no inside; elements without a written end tag have no certain end inside. */
export function offsetOf(el: Element, side: Side): number | undefined {
  const at = el.sourceCodeLocation;
  if (!at) return undefined;
  if (side === 'before') return at.startOffset;
  if (side === 'after') return at.endOffset;
  if (side === 'start') return at.startTag?.endOffset;
  return at.endTag?.startOffset;
}

export function regionOf(el: Element, marks: Landmarks): Region {
  for (const up of [el, ...ancestors(el)]) {
    for (const [name, root] of marks) if (root === up && name !== 'menu') return name;
  }
  return 'page';
}

const rootOf = (page: ParsedPage, marks: Landmarks, region: Region): Element | undefined =>
  region === 'page' ? bodyOf(page.doc) : marks.get(region);

function addressFor(page: ParsedPage, marks: Landmarks, el: Element, side: Side): PitchAddress {
  const region = regionOf(el, marks);
  const [before, after] = neighbours(page, el);
  return { region, path: pathFrom(rootOf(page, marks, region), el), mark: markOf(page, el), before, after, side };
}

function pathFrom(root: Element | undefined, el: Element): string {
  const steps: string[] = [];
  for (let at: Element | undefined = el; at && at !== root; ) {
    const up: Element | undefined = ancestors(at).next().value ?? undefined;
    if (!up) break;
    const tag: string = at.tagName;
    const like = elementsIn(up).filter((e) => e.tagName === tag);
    steps.unshift(`${tag}:${like.indexOf(at)}`);
    at = up;
  }
  return steps.join('/');
}

/** What an element is recognised by: tag, id, first words, first picture. Classes are left out: templates rename them. */
function markOf(page: ParsedPage, el: Element | undefined): string {
  if (!el) return '';
  const picture = el.tagName === 'img' ? el : find(el, (e) => e.tagName === 'img');
  const words = collapse(textOf(page.source, rawText(el))).slice(0, 80);
  return fingerprint([el.tagName, attr(el, 'id') ?? '', words, (picture && attr(picture, 'alt')) ?? ''].join('|'));
}

function neighbours(page: ParsedPage, el: Element): [string, string] {
  const up = ancestors(el).next().value;
  const kids = up ? elementsIn(up).filter((e) => !isInvisible(e)) : [];
  const i = kids.indexOf(el);
  return [markOf(page, kids[i - 1]), markOf(page, kids[i + 1])];
}

export type Resolution =
  | { readonly found: true; readonly pitch: Pitch; readonly confidence: number }
  | { readonly found: false; readonly best?: Pitch; readonly confidence: number };

/**
 * Finds an address on a page. A region's own edge ("the end of the header") is certain wherever the region is found.
 * Else every element of the same tag is weighed: same words 0.45, same path 0.35, each neighbour 0.1 (weights chosen
 * by hand). Below {@link SURE}, or with a rival nearly as good, the answer is "lost" with the best proposal.
 */
export function resolvePitch(page: ParsedPage, address: PitchAddress): Resolution {
  const marks = findLandmarks(page.doc);
  const root = rootOf(page, marks, address.region);
  if (root && address.path === '') return certain(pitchAt(page, marks, root, address.side));
  const tag = address.path.split('/').pop()?.split(':')[0];
  const scored = (root ? [...descendants(root)] : [])
    .filter((el) => el.tagName === tag)
    .map((el) => ({ el, score: weigh(page, root, el, address) }))
    .sort((a, b) => b.score - a.score);
  const [first, second] = scored;
  if (!first) return { found: false, confidence: 0 };
  const pitch = pitchAt(page, marks, first.el, address.side);
  const confidence = first.score;
  const clear = first.score - (second?.score ?? 0) >= 0.1;
  if (pitch && confidence >= SURE && clear) return { found: true, pitch, confidence };
  return { found: false, confidence, ...(pitch && { best: pitch }) };
}

const certain = (pitch: Pitch | undefined): Resolution =>
  pitch ? { found: true, pitch, confidence: 1 } : { found: false, confidence: 0 };

function weigh(page: ParsedPage, root: Element | undefined, el: Element, address: PitchAddress): number {
  const [before, after] = neighbours(page, el);
  return (
    (markOf(page, el) === address.mark ? 45 : 0) +
    (pathFrom(root, el) === address.path ? 35 : 0) +
    (before === address.before ? 10 : 0) +
    (after === address.after ? 10 : 0)
  ) / 100;
}

/** The pitch at the edge of a region: "at the end of the header". */
export function regionPitch(page: ParsedPage, region: Landmark, side: 'start' | 'end'): Pitch | undefined {
  const marks = findLandmarks(page.doc);
  const root = marks.get(region);
  return root && pitchAt(page, marks, root, side);
}

function labelFor(page: ParsedPage, marks: Landmarks, el: Element, side: Side): string {
  const where = side === 'start' ? 'at the start of' : side === 'end' ? 'at the end of' : side;
  return `${where} ${nameOf(page, marks, el)}`;
}

const regionNames: Readonly<Record<Landmark, string>> = { header: 'the header', footer: 'the footer', main: 'the main part', side: 'the side column', menu: 'the menu' };
const tagNames: Readonly<Record<string, string>> = { ul: 'the list', ol: 'the list', form: 'the form', table: 'the table', p: 'the paragraph', hr: 'the line', nav: 'the menu', img: 'the picture', label: 'the label', input: 'the field' };

function nameOf(page: ParsedPage, marks: Landmarks, el: Element): string {
  for (const [name, root] of marks) if (root === el) return regionNames[name];
  const heading = /^h[1-6]$/.test(el.tagName) ? el : find(el, (e) => /^h[1-6]$/.test(e.tagName));
  const quoted = (text: string) => `“${text.length > 34 ? `${text.slice(0, 32).trimEnd()}…` : text}”`;
  const say = (e: Element) => collapse(textOf(page.source, rawText(e)));
  if (heading && say(heading)) return quoted(say(heading));
  if (tagNames[el.tagName] && el.tagName !== 'p') {
    const alt = attr(el, 'alt');
    return alt ? `${tagNames[el.tagName]} ${quoted(textOf(page.source, alt))}` : (tagNames[el.tagName] ?? el.tagName);
  }
  return say(el) ? quoted(say(el)) : 'the block';
}

export interface RegionPlace {
  readonly region: Landmark;
  readonly at: number;
}

/** Where the regions of a page begin, for views that mark them. */
export const listRegions = (page: ParsedPage): RegionPlace[] =>
  [...findLandmarks(page.doc)].filter(([region]) => region !== 'menu').flatMap(([region, el]) => {
    const at = el.sourceCodeLocation?.startOffset;
    return at === undefined ? [] : [{ region, at }];
  });

export const samePitch = (a: PitchAddress, b: PitchAddress): boolean =>
  a.region === b.region && a.path === b.path && a.side === b.side;
