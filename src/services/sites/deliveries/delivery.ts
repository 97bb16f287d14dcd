import type { Manifest } from '../../../data/schema/site';
import type { Ctx } from '../../context';

/** A publication on its way out. */
export interface Parcel {
  /** What is live now, and what shall be. */
  readonly previous: Manifest;
  readonly manifest: Manifest;
  /** Where it is noted while it is under way, and what is noted: the next start finishes what was cut off. */
  readonly journal: string;
  readonly note: object;
}

/** A way in which publications go out: one file like its neighbours and one line in index.ts. `To` is kept with the site, as JSON. */
export interface DeliveryKind<To extends object> {
  /** Brings it where shoppers find it. @throws Refusal when that fails: what is live is as it was, then. */
  readonly deliver: (ctx: Ctx, to: To, parcel: Parcel) => Promise<void>;
  /** The hash of a file where it is live, '' where it is gone; nothing where it cannot be read back. */
  readonly hashThere: (to: To, path: string) => Promise<string> | undefined;
  /** Whether the owner still has to put it up. */
  readonly byHand: boolean;
}
