import { randomBytes } from 'node:crypto';
import { isSecret } from '../../services/ids';

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
    fits: (given) => open && isSecret(given, key),
    use: () => {
      open = false;
    },
    giveBack: () => {
      open = true;
    },
  };
}
