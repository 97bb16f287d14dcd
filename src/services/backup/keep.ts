const DAY_MS = 86_400_000;

/** How many are kept: one of each of the last days, weeks and months. */
export interface KeepRule {
  readonly days: number;
  readonly weeks: number;
  readonly months: number;
}

export const usualKeep: KeepRule = { days: 7, weeks: 5, months: 12 };

/**
 * Which backups are kept of those that are there: of each of the last days, weeks (Monday to Sunday) and months (all UTC) that have any, the
 * newest; and always the newest of all. Periods without one are passed over, so that a machine that was off for a month keeps what it has.
 */
export function kept(times: readonly Date[], rule: KeepRule): Set<Date> {
  const newestFirst = [...times].sort((a, b) => b.getTime() - a.getTime());
  const keep = new Set(newestFirst.slice(0, 1));
  const periods: readonly (readonly [number, (at: Date) => string | number])[] = [
    [rule.days, (at) => at.toISOString().slice(0, 10)],
    // 1970-01-01 was a Thursday.
    [rule.weeks, (at) => Math.floor((at.getTime() / DAY_MS + 3) / 7)],
    [rule.months, (at) => at.toISOString().slice(0, 7)],
  ];
  for (const [most, periodOf] of periods) {
    const seen = new Set<string | number>();
    for (const at of newestFirst) {
      const period = periodOf(at);
      if (seen.has(period)) continue;
      if (seen.size >= most) break;
      seen.add(period);
      keep.add(at);
    }
  }
  return keep;
}
