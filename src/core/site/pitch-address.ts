import type { Landmark } from './regions';
import type { Signature } from './signature';
import type { Side } from './spot';

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
