import { type Minor, minor, sum, zero } from '../money/minor';
import { ratio } from '../money/round';
import type { WorkedLine, WorkedSum } from './worked-sum';

/** What a buyer paid for a line, with tax, after its discounts. */
export const lineGross = (l: WorkedLine): Minor =>
  l.net === undefined ? minor(l.amount - (l.discount ?? 0)) : minor(l.net + (l.tax ?? 0));

/** What a buyer paid for shipping, with tax: all that is not lines. */
export const shippingGross = (w: WorkedSum): Minor =>
  w.totals ? minor(w.totals.withTax - sum(w.lines.map(lineGross))) : zero;

export interface Returned {
  readonly lineId: string;
  readonly quantity: number;
}

export interface RefundAsked {
  readonly lines: readonly Returned[];
  readonly shipping: boolean;
  /** Another amount than the pieces come to; null for what they come to. */
  readonly amount: number | null;
}

export interface Before {
  /** Given back already: all of it, onto vouchers of it, pieces by line, and whether shipping was among it. */
  readonly amount: number;
  readonly toVouchers: number;
  readonly lines: readonly Returned[];
  readonly shipping?: boolean;
}

export type RefundPlan =
  | { readonly ok: true; readonly amount: Minor; readonly toMoney: Minor; readonly toVouchers: Minor }
  | {
      readonly ok: false;
      readonly why: 'nothing' | 'too-much' | 'too-many-pieces' | 'unknown-line';
      readonly most: Minor;
    };

/**
 * What some pieces of a line are worth, those that came back before not among them: the first round down and the last takes the
 * rest, so that all of them are the whole. @param paid for the line, with tax. @param of pieces in the line.
 */
export const worthOfPieces = (paid: number, of: number, before: number, quantity: number): Minor =>
  minor(ratio(paid, before + quantity, of, 'down') - ratio(paid, before, of, 'down'));

/** The same for a line of a worked sum. */
export const worthOf = (line: WorkedLine, before: number, quantity: number): Minor =>
  worthOfPieces(lineGross(line), line.quantity, before, quantity);

/**
 * Works out a refund: what the pieces come to, and where it goes. Money goes back first, up to what was paid in money; the rest
 * goes back onto the vouchers it was paid with. Never more than was paid. A policy of this shop; which part goes first is no law.
 */
export function planRefund(worked: WorkedSum, asked: RefundAsked, before: Before): RefundPlan {
  const vouchers = worked.totals?.paid ?? zero;
  const paid = minor(worked.total + vouchers);
  const most = minor(Math.max(0, paid - before.amount));
  let amount = zero;
  for (const { lineId, quantity } of asked.lines) {
    const line = worked.lines.find((l) => l.id === lineId);
    if (!line) return { ok: false, why: 'unknown-line', most };
    const gone = before.lines.filter((l) => l.lineId === lineId).reduce((n, l) => n + l.quantity, 0);
    if (quantity < 0 || !Number.isInteger(quantity) || gone + quantity > line.quantity)
      return { ok: false, why: 'too-many-pieces', most };
    amount = minor(amount + worthOf(line, gone, quantity));
  }
  if (asked.shipping && !before.shipping) amount = minor(amount + shippingGross(worked));
  if (asked.amount !== null) amount = minor(asked.amount);
  // What was given back freely before may leave less than the pieces come to.
  else amount = minor(Math.min(amount, most));
  if (amount <= 0) return { ok: false, why: 'nothing', most };
  if (amount > most) return { ok: false, why: 'too-much', most };
  const moneyLeft = Math.max(0, worked.total - (before.amount - before.toVouchers));
  const toMoney = minor(Math.min(amount, moneyLeft));
  return { ok: true, amount, toMoney, toVouchers: minor(amount - toMoney) };
}
