import { TZDate } from '@date-fns/tz';

/** ISO 8601 as spreadsheets and people write it: a space for the T, seconds and offset left out. */
const WRITTEN =
  /^(\d{4})-(\d{1,2})-(\d{1,2})[T ]+(\d{1,2})[:.](\d{2})(?::(\d{2})(?:\.\d+)?)?\s*(Z|[+-]\d{2}:?\d{2})?$/;
const two = (n: string | number): string => String(n).padStart(2, '0');

/**
 * A moment with its offset, "2026-12-12T10:00:00+01:00". What is written without one is meant by the clock
 * of `zone` (an IANA
 * name), summer time included. Days that do not exist and orders of day and month that cannot be known give nothing.
 */
export function momentIn(text: string, zone: string): string | undefined {
  const read = WRITTEN.exec(text.trim());
  if (!read) return undefined;
  const [, year = '', month = '', day = '', hour = '', minute = '', second = '0', offset] = read;
  const wall = `${year}-${two(month)}-${two(day)}T${two(hour)}:${minute}:${two(second)}`;
  // A day like 31 November would move on to the next month by itself.
  const same = new Date(`${wall}Z`);
  if (Number.isNaN(same.getTime()) || !same.toISOString().startsWith(wall)) return undefined;
  if (offset === 'Z') return `${wall}Z`;
  if (offset) return `${wall}${offset.length === 5 ? `${offset.slice(0, 3)}:${offset.slice(3)}` : offset}`;
  const [y = 0, mo = 0, d = 0, h = 0, mi = 0, s = 0] = [year, month, day, hour, minute, second].map(Number);
  const at = new TZDate(y, mo - 1, d, h, mi, s, zone);
  const off = -at.getTimezoneOffset();
  const size = Math.abs(off);
  return `${wall}${off < 0 ? '-' : '+'}${two(Math.floor(size / 60))}:${two(size % 60)}`;
}
