/** Weights of the eight digits of the serial number; UPU standard S10, check digit. */
const WEIGHTS = [8, 6, 4, 2, 3, 5, 9, 7] as const;

const twoDigits: ReadonlyMap<number, number> = new Map([
  [10, 0],
  [11, 5],
]);

/** The check digit of eight digits: 11 less the remainder of the weighted sum by 11; 10 is written 0, 11 is written 5 (UPU S10). */
export function s10CheckDigit(serial: string): number {
  const sum = WEIGHTS.reduce((n, weight, at) => n + weight * Number(serial[at]), 0);
  const digit = 11 - (sum % 11);
  return twoDigits.get(digit) ?? digit;
}

export type Tracking =
  | { readonly kind: 'none' }
  | { readonly kind: 'other'; readonly number: string }
  | { readonly kind: 's10'; readonly number: string }
  | { readonly kind: 'wrong'; readonly number: string; readonly digit: number };

/**
 * Reads what was typed as a tracking number. Thirteen signs in the shape of UPU S10 (two letters, nine digits, two letters) are
 * held against their check digit; anything else is a number of the carrier's own and taken as it is.
 */
export function readTracking(typed: string): Tracking {
  const number = typed.trim().replace(/\s+/g, ' ');
  if (!number) return { kind: 'none' };
  const bare = number.replace(/[\s-]/g, '').toUpperCase();
  const parts = /^[A-Z]{2}(\d{8})(\d)[A-Z]{2}$/.exec(bare);
  if (!parts) return { kind: 'other', number };
  const digit = s10CheckDigit(parts[1] ?? '');
  return digit === Number(parts[2]) ? { kind: 's10', number: bare } : { kind: 'wrong', number: bare, digit };
}
