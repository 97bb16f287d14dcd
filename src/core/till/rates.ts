import type { ProductForm } from '../goods/product';

/**
 * Rates of value added tax in per cent, by country (ISO 3166-1): standard, reduced, printed books. A beginning that the
 * owner confirms; the till holds what is charged. From memory, as of 2026; not checked against a published table yet.
 */
const rates: Readonly<Record<string, readonly [standard: number, reduced: number, books: number]>> = {
  AT: [20, 10, 10],
  BE: [21, 6, 6],
  BG: [20, 9, 9],
  CH: [8.1, 2.6, 2.6],
  CY: [19, 5, 3],
  CZ: [21, 12, 0],
  DE: [19, 7, 7],
  DK: [25, 25, 25],
  EE: [24, 9, 9],
  ES: [21, 10, 4],
  FI: [25.5, 13.5, 13.5],
  FR: [20, 5.5, 5.5],
  GB: [20, 5, 0],
  GR: [24, 13, 6],
  HR: [25, 13, 5],
  HU: [27, 18, 5],
  IE: [23, 13.5, 0],
  IT: [22, 10, 4],
  LT: [21, 9, 5],
  LU: [17, 8, 3],
  LV: [21, 12, 5],
  MT: [18, 7, 5],
  NL: [21, 9, 9],
  NO: [25, 15, 0],
  PL: [23, 8, 5],
  PT: [23, 13, 6],
  RO: [21, 11, 11],
  SE: [25, 12, 6],
  SI: [22, 9.5, 5],
  SK: [23, 19, 5],
};

/** The month the table above is of. */
export const RATES_AS_OF = '2026-01';

/** Whether the table knows a country. */
export const knowsRates = (country: string): boolean => rates[country] !== undefined;

/** The rates of one country as rules; none where the table does not know it. */
export const ratesIn = (country: string) => startingRates().filter((r) => r.country === country);

/** The rate a tax class has where the business is; nought where no table is known. */
export function rateOf(country: string, taxClass: ProductForm['taxClass']): number {
  const [standard, reduced, books] = rates[country] ?? [0, 0, 0];
  return { standard, reduced, zero: 0, books, digital: standard }[taxClass];
}

/** The table as rules, for an owner to begin with and to look over: each country's standard, reduced and book rate. */
export const startingRates = (): {
  country: string;
  state: string;
  class: 'standard' | 'reduced' | 'books';
  percent: number;
}[] =>
  Object.entries(rates).flatMap(([country, own]) =>
    (['standard', 'reduced', 'books'] as const).map((cls, n) => ({
      country,
      state: '',
      class: cls,
      percent: own[n] ?? 0,
    })),
  );
