/**
 * Wrong tries in a row that cost nothing: whoever mistypes a password does not do it more often. Chosen by
 * hand.
 */
export const FREE_TRIES = 5;
/** The first lock, in milliseconds; each further wrong try makes it twice as long. */
const FIRST_LOCK_MS = 60_000;
/** No lock is longer, so that a stranger cannot shut anybody out for a day. */
const LONGEST_LOCK_MS = 60 * 60_000;
/** Wrong tries are forgotten after that long without another. */
export const FORGOTTEN_MS = 24 * 60 * 60_000;

/**
 * How long nobody may try after that many wrong tries in a row, in milliseconds: nothing for the first few,
 * then a lock that doubles up to an hour. That is 28 tries in a day, and under 9,000 in a year, whatever the
 * attacker's patience and however many machines.
 */
export function lockAfter(wrong: number): number {
  if (wrong < FREE_TRIES) return 0;
  // The exponent is held down: 2^1024 is no number any more.
  return Math.min(LONGEST_LOCK_MS, FIRST_LOCK_MS * 2 ** Math.min(20, wrong - FREE_TRIES));
}
