/** An amount in minor units (pence, cents, yen): always a safe integer. The currency travels beside it in {@link Money}. */
export type Minor = number & { readonly __minor: unique symbol };

export interface Money {
  readonly amount: Minor;
  /** ISO 4217 alphabetic code. */
  readonly currency: string;
}

export class AmountError extends RangeError {
  override name = 'AmountError';
}

/** Beyond what is kept exactly: ±(2^53 − 1) minor units. Nobody pays that; whoever types it is told the limit. */
export class AmountTooLarge extends AmountError {
  override name = 'AmountTooLarge';
  constructor() {
    super(
      `This comes to more than can be kept exactly. The limit is ${Number.MAX_SAFE_INTEGER.toLocaleString('en')} of the currency's smallest coin.`,
    );
  }
}

/**
 * Checks that `n` is a whole amount that JavaScript can hold exactly.
 * @throws AmountError for fractions, NaN and anything beyond ±(2^53 − 1): such an amount is refused, never rounded.
 */
export function minor(n: number): Minor {
  if (Math.abs(n) > Number.MAX_SAFE_INTEGER) throw new AmountTooLarge();
  if (!Number.isSafeInteger(n))
    throw new AmountError(`${n} is not a whole amount within ±9007199254740991 minor units`);
  return (Object.is(n, -0) ? 0 : n) as Minor;
}

export const isMinor = (n: unknown): n is Minor => Number.isSafeInteger(n);
export const zero = 0 as Minor;
export const add = (a: Minor, b: Minor): Minor => minor(a + b);
export const subtract = (a: Minor, b: Minor): Minor => minor(a - b);
export const sum = (amounts: readonly Minor[]): Minor => amounts.reduce(add, zero);

/** A price times a count of pieces. @throws AmountError when the product is no longer exact. */
export function times(price: Minor, quantity: number): Minor {
  if (!Number.isSafeInteger(quantity)) throw new AmountError(`${quantity} is not a whole number of pieces`);
  return minor(price * quantity);
}

/**
 * Shares `total` over `weights` by largest remainder (Hamilton's method), so that the shares add up to the total
 * exactly. Ties go to the earlier weight. Weights are non-negative integers, not all zero.
 * @throws AmountError for weights that cannot share anything.
 */
export function allocate(total: Minor, weights: readonly number[]): Minor[] {
  if (weights.some((w) => !Number.isSafeInteger(w) || w < 0))
    throw new AmountError('weights must be whole and not negative');
  // Plain numbers where every product stays exact: ten times as fast, with the same result.
  const heaviest = weights.reduce((most, w) => Math.max(most, w), 0);
  const whole = weights.reduce((n, w) => n + w, 0);
  if (Number.isSafeInteger(whole) && Number.isSafeInteger(Math.abs(total) * heaviest))
    return allocateNumbers(total, weights, whole);
  const all = weights.reduce((s, w) => s + BigInt(w), 0n);
  if (all === 0n) throw new AmountError('weights must not all be zero');
  const sign = total < 0 ? -1n : 1n;
  const amount = BigInt(Math.abs(total));
  const parts = weights.map((w, index) => {
    const exact = amount * BigInt(w);
    return { index, share: exact / all, remainder: exact % all };
  });
  let left = amount - parts.reduce((s, p) => s + p.share, 0n);
  const largestFirst = [...parts].sort((a, b) => {
    if (a.remainder === b.remainder) return a.index - b.index;
    return a.remainder > b.remainder ? -1 : 1;
  });
  for (const part of largestFirst) {
    if (left === 0n) break;
    part.share += 1n;
    left -= 1n;
  }
  return parts.map((p) => minor(Number(sign * p.share)));
}

function allocateNumbers(total: Minor, weights: readonly number[], all: number): Minor[] {
  if (all === 0) throw new AmountError('weights must not all be zero');
  const sign = total < 0 ? -1 : 1;
  const amount = Math.abs(total);
  const remainders = new Float64Array(weights.length);
  const shares = weights.map((w, n) => {
    const exact = amount * w;
    remainders[n] = exact % all;
    return (exact - (remainders[n] ?? 0)) / all;
  });
  let left = amount - shares.reduce((n, s) => n + s, 0);
  if (left > 0) {
    const order = weights
      .map((_, n) => n)
      .sort((a, b) => (remainders[b] ?? 0) - (remainders[a] ?? 0) || a - b);
    for (const n of order) {
      if (left-- <= 0) break;
      shares[n] = (shares[n] ?? 0) + 1;
    }
  }
  return shares.map((s) => minor(sign * s));
}
