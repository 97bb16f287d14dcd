import { randomBytes, timingSafeEqual } from 'node:crypto';

/** The one-time link by which the first owner comes in; printed at start, gone once used. */
export interface Welcome {
  readonly key: string;
  readonly fits: (key: string) => boolean;
  readonly use: () => void;
}

export function makeWelcome(): Welcome {
  const key = randomBytes(18).toString('base64url');
  let open = true;
  return {
    key,
    fits: (given) =>
      open && given.length === key.length && timingSafeEqual(Buffer.from(given), Buffer.from(key)),
    use: () => {
      open = false;
    },
  };
}
