import { dateFormat } from '../intl';
import { formatMoney, percentText } from '../money/format';
import { type Minor, minor } from '../money/minor';
import { fill } from '../languages/languages';
import type { PrintLook } from '../look/print-look';
import type { Invoice } from '../till/invoice';
import type { PaperWords } from '../languages/language';
import { paperWordsIn } from '../languages/languages';

/** A paper as it is laid out, whether on a page to print or in a PDF: texts are ready, money is formatted. */
export interface Paper {
  readonly title: string;
  readonly lang: string;
  readonly from: readonly string[];
  readonly to: readonly string[];
  /** Beside the title: number, dates, order. */
  readonly facts: readonly { readonly label: string; readonly value: string }[];
  readonly columns: readonly { readonly name: string; readonly right: boolean }[];
  readonly rows: readonly (readonly string[])[];
  readonly sums: readonly { readonly label: string; readonly value: string; readonly strong: boolean }[];
  readonly notes: readonly string[];
  /** What it wears of the shop's look; nothing of what it says hangs on that. */
  readonly look?: PrintLook;
}

const dayIn = (iso: string, lang: string): string =>
  dateFormat(lang, { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(`${iso}T12:00:00Z`));
const named = (l: { readonly name: string; readonly particulars: readonly string[] }): string =>
  l.particulars.length ? `${l.name} (${l.particulars.join('; ')})` : l.name;

/** An invoice or credit note, every figure as it was issued. */
export function paperOf(i: Invoice): Paper {
  const w = paperWordsIn(i.locale);
  const money = (amount: Minor): string => formatMoney({ amount, currency: i.currency }, i.locale);
  const taxed = i.rows.some((r) => r.percent > 0);
  return {
    title: i.type === 380 ? w.invoice : w.credit,
    lang: i.locale,
    from: [
      i.seller.name,
      ...i.seller.lines,
      ...(i.seller.email ? [i.seller.email] : []),
      ...(i.seller.taxNumber ? [`${w.taxNumber}: ${i.seller.taxNumber}`] : []),
    ],
    to: [i.buyer.name, ...i.buyer.lines],
    facts: facts(i, w),
    columns: [
      { name: w.what, right: false },
      { name: w.pieces, right: true },
      { name: w.each, right: true },
      ...(taxed ? [{ name: w.rate, right: true }] : []),
      { name: i.included ? w.amount : w.without, right: true },
    ],
    rows: [
      ...i.lines.map((l) => [
        named(l),
        String(l.quantity),
        money(l.unit),
        ...(taxed ? [`${percentText(l.percent, i.locale)} %`] : []),
        money(i.included ? l.gross : l.net),
      ]),
      ...i.charges.map((c) => [
        c.name,
        '',
        '',
        ...(taxed ? [`${percentText(c.percent, i.locale)} %`] : []),
        money(i.included ? grossOf(i, c) : c.net),
      ]),
    ],
    sums: [
      { label: w.without, value: money(i.totals.withoutTax), strong: false },
      ...i.rows
        .filter((r) => r.percent > 0)
        .map((r) => ({
          label: `${fill(w.tax, { n: percentText(r.percent, i.locale) })} ${fill(w.on, { x: money(r.taxable) })}`,
          value: money(r.tax),
          strong: false,
        })),
      { label: i.type === 380 ? w.total : w.givenBack, value: money(i.totals.withTax), strong: true },
    ],
    notes: [...(taxed && i.included ? [w.included] : []), ...i.notes],
  };
}

/** Shipping with its tax: what its rate taxes in all, less the lines of that rate. */
function grossOf(i: Invoice, charge: Invoice['charges'][number]): Minor {
  const row = i.rows.find((r) => r.percent === charge.percent);
  const lines = i.lines.filter((l) => l.percent === charge.percent).reduce((n, l) => n + l.gross, 0);
  return minor(row ? row.taxable + row.tax - lines : charge.net);
}

function facts(i: Invoice, w: PaperWords): Paper['facts'] {
  return [
    { label: w.number, value: i.number },
    { label: w.issued, value: dayIn(i.issued, i.locale) },
    ...(i.type === 380 && i.supplied !== i.issued
      ? [{ label: w.supplied, value: dayIn(i.supplied, i.locale) }]
      : []),
    ...(i.about ? [{ label: w.about, value: i.about }] : []),
    { label: w.order, value: i.order },
  ];
}

export interface SlipOf {
  readonly number: string;
  readonly day: string;
  readonly lang: string;
  readonly from: readonly string[];
  readonly to: readonly string[];
  readonly way: string;
  readonly note: string;
  readonly lines: readonly {
    readonly name: string;
    readonly particulars: readonly string[];
    readonly quantity: number;
    readonly sku: string;
  }[];
}

/** What goes into the parcel, without prices: it may be a present. */
export function packingSlip(s: SlipOf): Paper {
  const w = paperWordsIn(s.lang);
  const skus = s.lines.some((l) => l.sku);
  return {
    title: w.slip,
    lang: s.lang,
    from: s.from,
    to: s.to,
    facts: [
      { label: w.order, value: s.number },
      { label: w.issued, value: dayIn(s.day, s.lang) },
      ...(s.way ? [{ label: w.by, value: s.way }] : []),
    ],
    columns: [
      { name: w.what, right: false },
      ...(skus ? [{ name: 'SKU', right: false }] : []),
      { name: w.pieces, right: true },
    ],
    rows: s.lines.map((l) => [named(l), ...(skus ? [l.sku] : []), String(l.quantity)]),
    sums: [],
    notes: s.note ? [`${w.note}: ${s.note}`] : [],
  };
}
