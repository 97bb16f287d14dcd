import { isInvisible } from '../html/content-model';
import { carryPitch, nearest } from './align-pages';
import { edgeOf, edgePitch, type Pitch, type PitchAddress, pitchAt, pitchOf, rootOf } from './pitch';
import type { ParsedPage } from './read-page';
import { elementAt, type Landmark, type Regions, regionsOf, UNSURE } from './regions';
import { isWeak } from './signature';
import { containerOf, listSpots } from './spot';
import { headingBefore, oneGap, rowOf, sameHeading, sameOutside } from './surroundings';
import { complements, samePlace, type Weighed, weighSpot } from './weigh-spot';

export type Resolution =
  | { readonly found: true; readonly pitch: Pitch; readonly confidence: number }
  | { readonly found: false; readonly best?: Pitch; readonly confidence: number };

/** How sure a resolution must be before anything is placed; chosen by hand, and held by bin/bench reanchor. */
export const SURE = 0.5;
/** How much must speak for a spot. One neighbour alone is not enough: its words may stand elsewhere too. Chosen and held likewise. */
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
  if (address.path === '' && address.region !== 'page')
    return resolveEdge(page, regions, address.region, address);
  const same = twins(page, regions, address) ?? unchanged(page, regions, address);
  if (same) return { found: true, pitch: same, confidence: 1 };
  const weighed = listSpots(page)
    .map((spot) => weighSpot(page, spot, address))
    .sort((a, b) => b.score - a.score);
  const [first] = weighed;
  if (!first || first.score < 0.15) return { found: false, confidence: 0 };
  const best = pitchOf(page, regions, first.spot);
  const confidence = Math.round(first.score * 100) / 100;
  const alone = isTheOne(address, first);
  const sure = alone && first.score >= SURE && first.evidence >= EVIDENCE;
  const rival = weighed
    .slice(1)
    .find(
      (w) => w.score > first.score - CLEAR && !complements(first, w) && !oneGap(page, first.spot, w.spot),
    );
  if (best && sure && !rival) return { found: true, pitch: best, confidence };
  return {
    found: false,
    confidence: rival || !alone ? Math.min(confidence, 0.49) : confidence,
    ...(best && { best }),
  };
}

/**
 * Finds a pitch of an older version of a page on a newer one, both at hand: by laying the two side by side, and where that
 * leaves it open by its address.
 */
export function resolveFrom(before: ParsedPage, after: ParsedPage, address: PitchAddress): Resolution {
  const was = address.path === '' ? undefined : resolvePitch(before, address);
  const carried = was?.found ? carryPitch(before, after, was.pitch) : undefined;
  return carried ? { found: true, pitch: carried, confidence: 1 } : resolvePitch(after, address);
}

/**
 * Whether the best spot can be no other than the one that was meant. Where the page repeated itself, or nearly, what
 * stands outside must say so too, and the more the less the neighbours do.
 */
function isTheOne(
  { twin, repeats, alike }: PitchAddress,
  { left, right, inPlace, outside }: Weighed,
): boolean {
  const exact = Math.max(left, right) >= 0.9;
  const there = inPlace && outside >= 0.9;
  if (twin !== '1/1' && !(there && exact)) return false;
  return outside >= 1.7 || (repeats === 1 && (!alike || exact || there));
}

function resolveEdge(
  page: ParsedPage,
  regions: Regions,
  region: Landmark,
  address: PitchAddress,
): Resolution {
  const spot = regions.get(region);
  const pitch = spot && edgePitch(page, region, address.side, address);
  if (!spot || !pitch) return { found: false, confidence: 0 };
  return spot.confidence >= UNSURE
    ? { found: true, pitch, confidence: spot.confidence }
    : { found: false, best: pitch, confidence: spot.confidence };
}

/** The anchor is where it was, in a row of blocks that is as it was. */
function unchanged(page: ParsedPage, regions: Regions, address: PitchAddress): Pitch | undefined {
  const root = rootOf(page, regions, address.region);
  const anchor = root && elementAt(root, address.path);
  const container = anchor && containerOf(anchor, address.side);
  if (!anchor || !container || rowOf(page, container) !== address.row || isInvisible(anchor))
    return undefined;
  const pitch = pitchAt(page, anchor, address.side);
  return pitch &&
    pitch.address.around.join() === address.around.join() &&
    pitch.address.heading === address.heading &&
    pitch.address.twin === address.twin
    ? pitch
    : undefined;
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
  const supported =
    all > 1 ? place || heading : strong || heading || place || rowOf(page, spot.container) === address.row;
  return supported ? pitchOf(page, regions, edgeOf(regions, spot) ?? spot) : undefined;
}
