/**
 * Moments between what a date-and-time field holds ("2026-12-12T10:00", by the owner's clock) and ISO 8601 with its offset.
 * The clock time that was written stays readable: it is what a shopper is told.
 */
export const typedMoment = (iso: string | null): string => (iso ? iso.slice(0, 16) : '');

export function momentOf(typed: string): string | null {
  if (!typed) return null;
  const at = new Date(typed);
  if (Number.isNaN(at.getTime())) return null;
  const minutes = -at.getTimezoneOffset();
  const two = (n: number) => String(Math.floor(Math.abs(n))).padStart(2, '0');
  return `${typed.slice(0, 16)}:00${minutes < 0 ? '-' : '+'}${two(minutes / 60)}:${two(minutes % 60)}`;
}
