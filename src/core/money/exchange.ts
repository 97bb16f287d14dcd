import { z } from 'zod';
import { isCurrency, minorDigits } from './currency';
import { formatMoney } from './format';
import { type Minor, minor } from './minor';

/**
 * Prices told in other currencies, for orientation: by a table that the owner keeps and dates. What is charged is always the
 * shop's own currency.
 */
export const exchangeRules = z.object({
  /** The day of the rates; nothing while there are none. */
  date: z.iso.date().nullable().default(null),
  /** How much of each currency one unit of the shop's own is, as decimal text: "1.1734". */
  rates: z
    .array(
      z.object({
        currency: z.string().refine(isCurrency, 'Choose a currency of ISO 4217.'),
        rate: z
          .string()
          .regex(/^\d{1,9}(\.\d{1,9})?$/, 'Enter the rate in figures, like 1.1734.')
          .refine((r) => Number(r) > 0, 'A rate is more than nought.'),
      }),
    )
    .max(40)
    .default([]),
});
export type ExchangeRules = z.output<typeof exchangeRules>;

/** An amount in another currency, exact until it is rounded once, halves up. @param rate units of `to` for one unit of `from`, decimal text. */
export function convert(amount: Minor, from: string, to: string, rate: string): Minor {
  const [whole = '0', part = ''] = rate.split('.');
  const digits = BigInt(part.length);
  const n = BigInt(amount) * BigInt(whole + part) * 10n ** BigInt(minorDigits(to));
  const d = 10n ** digits * 10n ** BigInt(minorDigits(from));
  const sign = n < 0n ? -1n : 1n;
  return minor(Number(sign * ((n * sign * 2n + d) / (d * 2n))));
}

/** "about €79.79"; nothing where the table has no such currency. */
export function inOther(
  rules: ExchangeRules,
  amount: Minor,
  from: string,
  to: string,
  locale: string,
): string {
  const found = rules.rates.find((r) => r.currency === to);
  return found && to !== from
    ? formatMoney({ amount: convert(amount, from, to, found.rate), currency: to }, locale)
    : '';
}
