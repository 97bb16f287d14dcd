import { add, allocate, type Minor, minor, subtract, sum, zero } from '../money/minor';
import { lineGross } from './refund';
import { taxWithin } from '../money/round';
import type { TaxRow } from './tax';
import type { Totals, WorkedSum } from './worked-sum';

export interface Party {
  readonly name: string;
  readonly lines: readonly string[];
}

export interface InvoiceLine {
  readonly name: string;
  readonly particulars: readonly string[];
  readonly quantity: number;
  /** As it was told when it was bought. */
  readonly unit: Minor;
  /** BT-131: without tax, after discounts. */
  readonly net: Minor;
  /** BT-152. */
  readonly percent: number;
  readonly gross: Minor;
}

/** An invoice or a credit note as it was issued; the terms are those of EN 16931. It never changes. */
export interface Invoice {
  /** BT-3: 380 is an invoice, 381 a credit note (UNTDID 1001). */
  readonly type: 380 | 381;
  /** BT-1. */
  readonly number: string;
  /** BT-2, "2026-11-26", in the shop's time zone. */
  readonly issued: string;
  /** BT-73: when it was paid or handed over. */
  readonly supplied: string;
  readonly order: string;
  /** BT-25: the invoice that a credit note is about. */
  readonly about: string;
  readonly currency: string;
  readonly locale: string;
  readonly seller: Party & { readonly taxNumber: string; readonly email: string };
  readonly buyer: Party;
  readonly lines: readonly InvoiceLine[];
  /** BG-21: shipping, by rate. */
  readonly charges: readonly { readonly name: string; readonly net: Minor; readonly percent: number }[];
  readonly rows: readonly TaxRow[];
  readonly totals: Totals;
  /** Prices hold the tax. */
  readonly included: boolean;
  /** Why no tax is charged, what the owner adds below, how it was paid. */
  readonly notes: readonly string[];
}

export interface Heading
  extends Pick<
    Invoice,
    'number' | 'issued' | 'supplied' | 'order' | 'locale' | 'seller' | 'buyer' | 'included' | 'notes'
  > {
  readonly about?: string;
}

const none: Totals = {
  lines: zero,
  charges: zero,
  withoutTax: zero,
  tax: zero,
  withTax: zero,
  paid: zero,
  due: zero,
};

/**
 * The invoice of a worked sum: every figure is the sum's own, none is worked out again. @param shipping how
 * it is called.
 * @param unpaid what did not come of it, in minor units: it stays due (BT-115).
 */
export function invoiceOf(
  worked: WorkedSum,
  head: Heading,
  shipping = 'Shipping',
  unpaid: Minor = zero,
): Invoice {
  const totals = worked.totals ?? {
    ...none,
    lines: worked.total,
    withoutTax: worked.total,
    withTax: worked.total,
    due: worked.total,
  };
  const lines = worked.lines.map(
    (l): InvoiceLine => ({
      name: l.name,
      particulars: l.particulars,
      quantity: l.quantity,
      unit: l.unit,
      net: l.net ?? minor(l.amount - (l.discount ?? 0)),
      percent: l.percent ?? 0,
      gross: lineGross(l),
    }),
  );
  // What a row taxes beside its lines is shipping.
  const charges =
    totals.charges === 0
      ? []
      : (worked.taxes ?? []).flatMap((row) => {
          const net = subtract(
            row.taxable,
            sum(lines.filter((l) => l.percent === row.percent).map((l) => l.net)),
          );
          return net === 0 ? [] : [{ name: shipping, net, percent: row.percent }];
        });
  return {
    type: 380,
    about: '',
    currency: worked.currency,
    ...head,
    lines,
    charges,
    rows: worked.taxes ?? [],
    totals: { ...totals, paid: subtract(totals.withTax, unpaid), due: unpaid },
  };
}

export interface CreditOf {
  readonly amount: Minor;
  readonly lines: readonly { readonly lineId: string; readonly quantity: number; readonly gross: Minor }[];
  /** What it is called where it is more or less than its lines: "Goodwill". */
  readonly rest: string;
}

/**
 * The credit note of a refund. Pieces carry the tax of their line; what is given back beside them is shared over the rates of
 * the invoice in proportion to what was paid at each (largest remainder), and the tax within it is worked out once for each rate.
 */
export function creditOf(worked: WorkedSum, credit: CreditOf, head: Heading): Invoice {
  const rows = worked.taxes?.length
    ? worked.taxes
    : [{ percent: 0, category: 'E' as const, where: '', taxable: worked.total, tax: zero }];
  const rateOf = (percent: number): number =>
    Math.max(
      0,
      rows.findIndex((r) => r.percent === percent),
    );
  const lines = credit.lines.flatMap(({ lineId, quantity, gross }): InvoiceLine[] => {
    const l = worked.lines.find((x) => x.id === lineId);
    return l
      ? [
          {
            name: l.name,
            particulars: l.particulars,
            quantity,
            unit: l.unit,
            net: subtract(gross, taxWithin(gross, l.percent ?? 0, 'half-up')),
            percent: l.percent ?? 0,
            gross,
          },
        ]
      : [];
  });
  const rest = subtract(credit.amount, sum(lines.map((l) => l.gross)));
  const weights = rows.map((r) => add(r.taxable, r.tax));
  const shares = weights.some((w) => w > 0)
    ? allocate(rest, weights)
    : rows.map((_, n) => (n === 0 ? rest : zero));
  const gross = rows.map((_, n) =>
    add(shares[n] ?? zero, sum(lines.filter((l) => rateOf(l.percent) === n).map((l) => l.gross))),
  );
  const tax = rows.map((r, n) => taxWithin(gross[n] ?? 0, r.percent, 'half-up'));
  const credited = rows
    .map(
      (r, n): TaxRow => ({ ...r, taxable: subtract(gross[n] ?? zero, tax[n] ?? zero), tax: tax[n] ?? zero }),
    )
    .filter((r) => r.taxable !== 0 || r.tax !== 0);
  // The nets of lines follow their row, so that they add up to it (BR-CO-10): what rounding leaves is the last line's, or the rest's.
  const charges = rows.flatMap((r, n) => {
    const own = lines.filter((l) => rateOf(l.percent) === n);
    const net = subtract(subtract(gross[n] ?? zero, tax[n] ?? zero), sum(own.map((l) => l.net)));
    return net === 0 ? [] : [{ name: credit.rest, net, percent: r.percent }];
  });
  const taxed = sum(tax);
  const linesNet = sum(lines.map((l) => l.net));
  const chargesNet = sum(charges.map((c) => c.net));
  return {
    type: 381,
    about: '',
    currency: worked.currency,
    ...head,
    lines,
    charges,
    rows: credited,
    totals: {
      lines: linesNet,
      charges: chargesNet,
      withoutTax: add(linesNet, chargesNet),
      tax: taxed,
      withTax: credit.amount,
      paid: credit.amount,
      due: zero,
    },
  };
}
