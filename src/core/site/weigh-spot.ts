import { entryAt } from '../entries';

import type { PitchAddress } from './pitch-address';
import { rootOf } from './pitch';
import type { ParsedPage } from './read-page';
import { pathTo, regionOf, regionsOf } from './regions';
import { isWeak, type Signature, signatureOf, similarity } from './signature';
import type { Spot } from './spot';
import { gapIndex, headingBefore, outsideOf, rowItems, sameHeading } from './surroundings';

/** A spot of a newer page, weighed against an address. */
export interface Weighed {
  readonly spot: Spot;
  /** How well it fits, 0 to 1: for choosing between spots. */
  readonly score: number;
  /** How much speaks for it, one point for each neighbour that is the same: for being sure. See {@link weighSpot}. */
  readonly evidence: number;
  /** How much the immediate neighbours are those of the address, 0 to 1 each. */
  readonly left: number;
  readonly right: number;
  /** How much what stands beside the container is the same, 0 to 2. */
  readonly outside: number;
  /** The very same path, and nothing foreign beside the container. */
  readonly inPlace: boolean;
}

/** Weights of the score, adding up to 1; chosen by hand on the mutated copies of bin/bench reanchor. */
const W = { left: 0.29, right: 0.29, far: 0.06, outside: 0.07, heading: 0.07, place: 0.09 } as const;

/**
 * Weighs one spot. Evidence: a neighbour that is the same counts 1, an edited one as much as it is alike, one that a
 * new block keeps apart 0.6; a far neighbour, what is beside the container, the heading and the very same path count a
 * half; something foreign beside the container takes 0.4 away, because cards and rows are much alike, and shift.
 */
export function weighSpot(page: ParsedPage, spot: Spot, a: PitchAddress): Weighed {
  const [farLeft, left, right, farRight] = rowAround(page, spot);
  const [before, after] = outsideOf(page, spot.container);
  const was = {
    farLeft: a.around[0],
    left: a.around[1],
    right: a.around[2],
    farRight: a.around[3],
    before: a.outside[0],
    after: a.outside[1],
  };
  const place = samePlace(page, spot, a);
  const heading = headingEvidence(headingBefore(page, spot.offset), a.heading);
  // A block that came between, or went, leaves the next one in its place: worth half.
  const atLeft = Math.max(
    similarity(left, was.left),
    0.5 * similarity(left, was.farLeft),
    0.5 * similarity(farLeft, was.left),
  );
  const atRight = Math.max(
    similarity(right, was.right),
    0.5 * similarity(right, was.farRight),
    0.5 * similarity(farRight, was.right),
  );
  // The neighbour that the address hangs on decides between the two sides of a block that came in.
  const anchored = (a.side === 'after' || a.side === 'end' ? atLeft : atRight) >= 0.9 ? 0.02 : 0;
  const score =
    W.left * atLeft +
    W.right * atRight +
    W.far * (similarity(farLeft, was.farLeft) + similarity(farRight, was.farRight)) +
    W.outside * (similarity(before, was.before) + similarity(after, was.after)) +
    (heading > 0 || a.heading === headingBefore(page, spot.offset) ? W.heading : 0) +
    W.place * place +
    anchored;
  const near =
    Math.max(known(left, was.left), 0.6 * known(farLeft, was.left), 0.5 * known(left, was.farLeft)) +
    Math.max(known(right, was.right), 0.6 * known(farRight, was.right), 0.5 * known(right, was.farRight));
  const far =
    sure(known(farLeft, was.farLeft)) +
    sure(known(farRight, was.farRight)) +
    sure(known(before, was.before)) +
    sure(known(after, was.after));
  const strange = foreign(before, was.before) + foreign(after, was.after);
  return {
    spot,
    score,
    evidence: near + 0.5 * far - strange + heading + (place === 1 ? 0.45 : 0),
    left: similarity(left, was.left),
    right: similarity(right, was.right),
    outside: known(before, was.before) + known(after, was.after),
    inPlace: place === 1 && strange === 0,
  };
}

/** Nothing stands there, not even the edge of the row. */
const BEYOND: Signature = '-';

function rowAround(page: ParsedPage, spot: Spot): [Signature, Signature, Signature, Signature] {
  const items = rowItems(spot.container);
  const at = gapIndex(items, spot.left, spot.right);
  const sig = (n: number): Signature =>
    n < 0 || n >= items.length ? BEYOND : signatureOf(page, entryAt(items, n), spot.container);
  return [sig(at - 1), sig(at), sig(at + 1), sig(at + 2)];
}

/** Edges and blocks with nothing to know them by are no evidence. */
const known = (now: Signature, was: Signature): number => (isWeak(was) ? 0 : similarity(now, was));
/** Of what stands farther off, only what is surely the same. */
const sure = (alike: number): number => (alike >= 0.75 ? alike : 0);
const foreign = (now: Signature, was: Signature): number =>
  !isWeak(was) && similarity(now, was) === 0 ? 0.4 : 0;
function headingEvidence(now: string, was: string): number {
  if (was !== '' && now === was) return 0.5;
  return sameHeading(now, was) ? 0.25 : 0;
}

/** How much the place of a spot is that of an address, 0 to 1: the region, the tags that lead there, the very same path. */
export function samePlace(page: ParsedPage, spot: Spot, a: PitchAddress): number {
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
export const complements = (a: Weighed, b: Weighed): boolean =>
  a.spot.container === b.spot.container &&
  (a.spot.left === b.spot.right || a.spot.right === b.spot.left) &&
  ((a.left >= 0.55 && b.left < 0.55 && b.right >= 0.55 && a.right < 0.55) ||
    (a.right >= 0.55 && b.right < 0.55 && b.left >= 0.55 && a.left < 0.55));
