import { data } from 'currency-codes';

/** ISO 4217 list one, as the `currency-codes` package carries it: alphabetic code to minor-unit digits and name. */
const list: ReadonlyMap<string, { digits: number; name: string }> = new Map(
  data.map((c) => [c.code, { digits: c.digits, name: c.currency }]),
);

export const isCurrency = (code: string): boolean => list.has(code);

/** Digits of the minor unit: 2 for GBP, 0 for JPY, 3 for KWD. @throws RangeError for a code that ISO 4217 does not list. */
export function minorDigits(code: string): number {
  const found = list.get(code);
  if (!found) throw new RangeError(`${code} is not an ISO 4217 currency code`);
  return found.digits;
}

export const currencyName = (code: string): string => list.get(code)?.name ?? code;
export const currencies = (): string[] => [...list.keys()].sort();
