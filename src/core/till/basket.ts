import { compareCodes } from '../compare';
import type { Minor } from '../money/minor';
import type { Place } from './place';
import type { TaxClass } from '../goods/choices';
import type { Every } from './subscription';

/** A line as it goes into the sum. */
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
  /** Charged again this often, at the same price. */
  readonly every?: Every;
  /** Left out, it is usual: standard tax, nothing to send. */
  readonly taxClass?: TaxClass;
  readonly ships?: boolean;
  /** Delivered over the wire: taxed where the buyer is, if the owner says so. */
  readonly digital?: boolean;
  /** Of one piece; null when nobody weighed it. */
  readonly grams?: number | null;
  /** Paths of categories. */
  readonly categories?: readonly string[];
  readonly onOffer?: boolean;
  /** A gift voucher: made when it is paid, and good for so many months; null for ever. */
  readonly voucher?: { readonly months: number | null };
}

export interface Voucher {
  readonly code: string;
  readonly balance: Minor;
}

/** What the sum depends on beside goods and rules. */
export interface Buyer {
  readonly place: Place;
  /** The way of shipping that was chosen; the first offered while none is. */
  readonly way: string;
  /** As typed. */
  readonly codes: readonly string[];
  readonly vouchers: readonly Voucher[];
  /** The shop's own clock, "2026-11-25T23:10". */
  readonly wall: string;
  /** How often rules with a limit were used, in all and by this buyer. */
  readonly uses: Readonly<Record<string, { readonly all: number; readonly own: number }>>;
}

/**
 * Places of lines in the order of their ids: whatever is shared goes over them so, and the order of a basket changes nothing.
 * @returns indices into `lines`.
 */
export const inOrderOfIds = (lines: readonly Pick<BasketLine, 'id'>[]): number[] =>
  lines.map((_, n) => n).sort((a, b) => compareCodes(lines[a]?.id ?? '', lines[b]?.id ?? ''));
