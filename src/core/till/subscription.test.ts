import { addMonths, addYears } from 'date-fns';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { chargeTime, retryTime } from './subscription';

const day = (iso: string) => new Date(`${iso}T09:30:00Z`);

it('a month that is shorter takes its last day, and the next has the first day of all again', () => {
  const from = (n: number) =>
    chargeTime(day('2027-01-31'), { count: 1, unit: 'month' }, n).toISOString().slice(0, 10);
  expect([1, 2, 3, 13].map(from)).toEqual(['2027-02-28', '2027-03-31', '2027-04-30', '2028-02-29']);
  expect(chargeTime(day('2028-02-29'), { count: 1, unit: 'year' }, 1).toISOString()).toBe(
    '2029-02-28T09:30:00.000Z',
  );
  expect(chargeTime(day('2026-12-28'), { count: 2, unit: 'week' }, 1).toISOString()).toBe(
    '2027-01-11T09:30:00.000Z',
  );
});

it('months and years are those of date-fns, a general library of dates', () => {
  // date-fns works in the machine's own zone: at noon, in zones of the test machines, days are the same.
  fc.assert(
    fc.property(
      fc.date({ min: day('2000-01-01'), max: day('2060-01-01'), noInvalidDate: true }),
      fc.integer({ min: 1, max: 12 }),
      fc.nat(40),
      (at, count, n) => {
        const start = new Date(`${at.toISOString().slice(0, 10)}T12:00:00Z`);
        const dayOf = (d: Date) => d.toISOString().slice(0, 10);
        expect(dayOf(chargeTime(start, { count, unit: 'month' }, n))).toBe(
          dayOf(addMonths(start, count * n)),
        );
        expect(dayOf(chargeTime(start, { count, unit: 'year' }, n))).toBe(dayOf(addYears(start, count * n)));
      },
    ),
  );
});

it('each charge comes after the one before, whatever it began on', () => {
  fc.assert(
    fc.property(
      fc.date({ min: day('2000-01-01'), max: day('2060-01-01'), noInvalidDate: true }),
      fc.record({
        count: fc.integer({ min: 1, max: 12 }),
        unit: fc.constantFrom('week' as const, 'month' as const, 'year' as const),
      }),
      fc.nat(60),
      (start, every, n) => {
        expect(chargeTime(start, every, n + 1).getTime()).toBeGreaterThan(
          chargeTime(start, every, n).getTime(),
        );
        expect(chargeTime(start, every, 0).getTime()).toBe(start.getTime());
      },
    ),
  );
});

it('a declined charge is tried again three times, later each time, and then no more', () => {
  expect([1, 2, 3, 4].map((n) => retryTime(day('2027-01-01'), n)?.toISOString().slice(0, 10))).toEqual([
    '2027-01-02',
    '2027-01-04',
    '2027-01-06',
    undefined,
  ]);
});
