import { numberFormat } from '../intl';
import { fail, ok, type Result } from '../result';
import { minorDigits } from './currency';
import { isMinor, type Minor, minor } from './minor';

const formats = new Map<string, Intl.NumberFormat>();

function formatOf(locale: string, currency: string): Intl.NumberFormat {
  const key = `${locale}|${currency}`;
  const known = formats.get(key);
  if (known) return known;
  const digits = minorDigits(currency);
  const made = numberFormat(locale, {
    style: 'currency',
    currency,
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
  });
  formats.set(key, made);
  return made;
}

/** The amount as plain decimal text, exact: 6800 GBP is "68.00", 5 KWD is "0.005". No float is involved. */
export function decimalText(amount: number, currency: string): string {
  const digits = minorDigits(currency);
  const bare = String(Math.abs(amount)).padStart(digits + 1, '0');
  const cut = bare.length - digits;
  return (amount < 0 ? '-' : '') + bare.slice(0, cut) + (digits ? `.${bare.slice(cut)}` : '');
}

/** Local form by CLDR (Intl), with the digits of ISO 4217. Intl takes decimal text exactly, so no rounding happens. */
export function formatMoney(
  { amount, currency }: { readonly amount: number; readonly currency: string },
  locale: string,
): string {
  return formatOf(locale, currency).format(decimalText(amount, currency) as unknown as number);
}

interface Marks {
  readonly decimal: string;
  readonly group: string;
}
const marks = new Map<string, Marks>();
/** Which marks a language writes numbers with (CLDR by Intl): in German 1.234,50 is what is 1,234.50 in English. */
function marksOf(locale: string): Marks {
  const known = marks.get(locale);
  if (known) return known;
  const parts = numberFormat(locale).formatToParts(1_234_567.5);
  const mark = (type: string) => parts.find((p) => p.type === type)?.value ?? '';
  // Scripts with marks of their own are typed with a point.
  const decimal = mark('decimal') === ',' ? ',' : '.';
  const made = { decimal, group: mark('group') };
  marks.set(locale, made);
  return made;
}

/**
 * Reads what a person typed ("68", "68.5", "1,200.00", "£ 68", "68,50") as minor units. Where both marks
 * stand the last is the decimal
 * mark. A single one with three figures after it is read as its language has it, and refused where that
 * says neither: never guessed.
 * Not checked: whether the symbol matches the currency. @param locale whose marks they are; the office
 * speaks English.
 */
export function parseMoney(text: string, currency: string, locale = 'en'): Result<Minor> {
  const digits = minorDigits(currency);
  const bare = text.replace(/[\s\p{Sc}'’]|[A-Z]{3}/gu, '');
  const unclear = fail(`Enter an amount, like ${amountText(minor(1250), currency, locale)}.`);
  const m = /^(-?)([\d.,]+)$/.exec(bare);
  if (!m) return unclear;
  const [, sign = '', figures = ''] = m;
  const decimal = decimalMark(figures, digits, marksOf(locale));
  if (decimal === undefined) return unclear;
  const at = decimal ? figures.lastIndexOf(decimal) : -1;
  const whole = at >= 0 ? figures.slice(0, at) : figures;
  const fraction = at >= 0 ? figures.slice(at + 1) : '';
  if (fraction.length > digits || !/^(\d+|\d{1,3}(?:([.,])\d{3})(?:\2\d{3})*)$/.test(whole)) return unclear;
  const value = Number(whole.replace(/[.,]/g, '') + fraction.padEnd(digits, '0'));
  if (!isMinor(value)) return fail('That amount is too large to be kept exactly.');
  return ok(minor(sign ? -value : value));
}

/** The mark that stands before a fraction; '' where there is no fraction, nothing where it cannot be known. */
function decimalMark(figures: string, digits: number, { decimal, group }: Marks): string | undefined {
  const points = figures.split('.').length - 1;
  const commas = figures.split(',').length - 1;
  if (points === 0 && commas === 0) return '';
  if (points > 0 && commas > 0) return figures.lastIndexOf('.') > figures.lastIndexOf(',') ? '.' : ',';
  if (points + commas > 1) return '';
  const mark = points ? '.' : ',';
  const after = figures.length - figures.indexOf(mark) - 1;
  if (after === 3 && mark === group) return '';
  return after <= digits || mark === decimal ? mark : undefined;
}

/** An amount as a language writes it into a field, without sign and groups: 1250 EUR is "12,50" in German. */
export function amountText(amount: number, currency: string, locale: string): string {
  return decimalText(amount, currency).replace('.', marksOf(locale).decimal);
}

/** A per cent as a language writes it, without its sign: 5.5 is "5,5" in German. */
export const percentText = (percent: number, locale: string): string =>
  numberFormat(locale, { maximumFractionDigits: 3 }).format(percent);
