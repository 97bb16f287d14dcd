import { randomBytes, timingSafeEqual } from 'node:crypto';

/** The one-time link by which the first owner comes in; printed at start, gone once used. */
export interface Welcome {
  readonly key: string;
  readonly fits: (key: string) => boolean;
  readonly use: () => void;
  /** Nobody came in after all. */
  readonly giveBack: () => void;
}

export function makeWelcome(): Welcome {
  const key = randomBytes(18).toString('base64url');
  let open = true;
  return {
    key,
    fits: (given) => {
      const [a, b] = [Buffer.from(given), Buffer.from(key)];
      // Letters may have several bytes: equal in letters is not equal in length.
      return open && a.length === b.length && timingSafeEqual(a, b);
    },
    use: () => {
      open = false;
    },
    giveBack: () => {
      open = true;
    },
  };
}
