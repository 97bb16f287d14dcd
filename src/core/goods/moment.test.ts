import { describe, expect, it } from 'vitest';
import { momentIn } from './moment';

describe('moments as they are written in tables', () => {
  // The tz database: Berlin is an hour ahead in winter and two in summer; Kolkata five and a half; New York
  // five behind in winter.
  it.each([
    ['2026-12-12 10:00', 'Europe/Berlin', '2026-12-12T10:00:00+01:00'],
    ['2026-07-04T9:30', 'Europe/Berlin', '2026-07-04T09:30:00+02:00'],
    ['2026-7-4 09.30', 'Asia/Kolkata', '2026-07-04T09:30:00+05:30'],
    ['2026-12-12 10:00:15', 'America/New_York', '2026-12-12T10:00:15-05:00'],
    ['2026-12-12 10:00', 'UTC', '2026-12-12T10:00:00+00:00'],
  ])('%s in %s', (text, zone, wanted) => expect(momentIn(text, zone)).toBe(wanted));

  it('an offset that is written goes before the zone', () => {
    expect(momentIn('2026-12-12T10:00:00+03:00', 'Europe/Berlin')).toBe('2026-12-12T10:00:00+03:00');
    expect(momentIn('2026-12-12 10:00 +0300', 'Europe/Berlin')).toBe('2026-12-12T10:00:00+03:00');
    expect(momentIn('2026-12-12T10:00Z', 'Europe/Berlin')).toBe('2026-12-12T10:00:00Z');
  });

  it('what cannot be known, or is no day, is nothing', () => {
    for (const text of ['12/11/2026 10:00', '2026-11-31 10:00', '2026-12-12', '2026-12-12 25:00', 'Saturday'])
      expect(momentIn(text, 'UTC')).toBeUndefined();
  });
});
