import { type Minor, minor } from './minor';

/** How a part of a minor unit is rounded; halves away from nought, so that a refund mirrors what was paid. */
export const roundingModes = ['half-up', 'half-even', 'down'] as const;
export type RoundingMode = (typeof roundingModes)[number];

/**
 * amount × numerator ÷ denominator, exact until it is rounded once.
 * @throws AmountError when the result is beyond what is kept exactly.
 */
export function ratio(amount: number, numerator: number, denominator: number, mode: RoundingMode): Minor {
  const product = BigInt(amount) * BigInt(numerator);
  const by = BigInt(denominator);
  const negative = product < 0n !== by < 0n;
  const [n, d] = [product < 0n ? -product : product, by < 0n ? -by : by];
  const whole = n / d;
  const twice = (n % d) * 2n;
  const up =
    mode === 'down' ? false : twice > d || (twice === d && (mode === 'half-up' || whole % 2n === 1n));
  const rounded = Number(up ? whole + 1n : whole);
  return minor(negative ? -rounded : rounded);
}

/** Per cents are kept to a thousandth: 5.5 % is 5,500 of 100,000. */
const HUNDRED = 100_000;
const thousandths = (percent: number): number => Math.round(percent * 1000);

/** Per cents of an amount: tax that is added, a reduction. */
export const percentOf = (amount: number, percent: number, mode: RoundingMode): Minor =>
  ratio(amount, thousandths(percent), HUNDRED, mode);

/** The tax that an amount holds: at 20 % a sixth of it (the VAT fraction, UK VAT Notice 700, section 7.3.1). */
export const taxWithin = (amount: number, percent: number, mode: RoundingMode): Minor =>
  ratio(amount, thousandths(percent), HUNDRED + thousandths(percent), mode);
