/** How often something is charged again. */
export interface Every {
  readonly count: number;
  readonly unit: 'week' | 'month' | 'year';
}

const DAY = 86_400_000;

/**
 * When something that began at `start` is charged for the nth time again: weeks are seven days; months keep the day of the
 * month it began on, or the last one where a month is shorter (31 January, 28 February, 31 March), so that nothing drifts.
 * Common practice of recurring bills; in UTC, at the time of day it began.
 */
export function chargeTime(start: Date, every: Every, n: number): Date {
  const steps = every.count * n;
  if (every.unit === 'week') return new Date(start.getTime() + steps * 7 * DAY);
  const months = start.getUTCMonth() + steps * (every.unit === 'year' ? 12 : 1);
  const last = new Date(Date.UTC(start.getUTCFullYear(), months + 1, 0)).getUTCDate();
  const to = new Date(start);
  to.setUTCFullYear(start.getUTCFullYear(), months, Math.min(start.getUTCDate(), last));
  return to;
}

/** The first turn after some turn that lies ahead: turns that passed while nothing could be charged are not charged at once. */
export function nextTurn(
  start: Date,
  every: Every,
  after: number,
  now: Date,
): { readonly turn: number; readonly at: Date } {
  let turn = after + 1;
  while (chargeTime(start, every, turn) <= now) turn++;
  return { turn, at: chargeTime(start, every, turn) };
}

/** Days after which a charge that was declined is tried again; after the last it is over. Chosen by hand. */
export const retryDays = [1, 3, 5] as const;

/** When to try again after some charges in a row were declined; nothing when that was the last. */
export const retryTime = (now: Date, declined: number): Date | undefined => {
  const days = retryDays[declined - 1];
  return days === undefined ? undefined : new Date(now.getTime() + days * DAY);
};
