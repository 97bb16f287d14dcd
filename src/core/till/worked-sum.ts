import { type Minor, sum, times } from '../money/minor';

export interface BasketLine {
  readonly id: string;
  readonly goodsId: string;
  readonly variantId: string;
  readonly slug: string;
  readonly name: string;
  /** The choice and what the buyer wrote: "M, natural", "Initials: A. P.". */
  readonly particulars: readonly string[];
  readonly unit: Minor;
  readonly quantity: number;
  /** Pieces this buyer could have now; null when nobody counts. */
  readonly available: number | null;
}

export interface WorkedLine extends BasketLine {
  readonly amount: Minor;
}

/** One step of the sum: what it is, the rule behind it, and the figure. */
export interface Step {
  readonly what: string;
  readonly rule: string;
  readonly amount: Minor;
}

export interface WorkedSum {
  readonly currency: string;
  readonly lines: readonly WorkedLine[];
  readonly steps: readonly Step[];
  readonly total: Minor;
  readonly pieces: number;
}

/**
 * The one worked sum: checkout, cart and order all call this. Today's rules are prices times pieces; shipping, tax and
 * discounts join as further steps (src/core/till/).
 * @throws AmountError when an amount would no longer be exact.
 */
export function workOut(currency: string, basket: readonly BasketLine[]): WorkedSum {
  const lines = basket.map((l) => ({ ...l, amount: times(l.unit, l.quantity) }));
  const goods = sum(lines.map((l) => l.amount));
  const pieces = lines.reduce((n, l) => n + l.quantity, 0);
  return { currency, lines, pieces, total: goods, steps: [{ what: 'Goods', rule: 'each price times its pieces', amount: goods }] };
}

/** Lines that ask for more than there is. */
export const shortLines = (lines: readonly BasketLine[]): BasketLine[] =>
  lines.filter((l) => l.available !== null && l.quantity > l.available);
