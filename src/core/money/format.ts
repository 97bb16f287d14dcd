import { fail, ok, type Result } from '../result';
import { minorDigits } from './currency';
import { isMinor, type Minor, type Money, minor } from './minor';

const formats = new Map<string, Intl.NumberFormat>();

function formatOf(locale: string, currency: string): Intl.NumberFormat {
  const key = `${locale}|${currency}`;
  const known = formats.get(key);
  if (known) return known;
  const digits = minorDigits(currency);
  const made = new Intl.NumberFormat(locale, {
    style: 'currency',
    currency,
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
  });
  formats.set(key, made);
  return made;
}

/** The amount as plain decimal text, exact: 6800 GBP is "68.00", 5 KWD is "0.005". No float is involved. */
export function decimalText(amount: Minor, currency: string): string {
  const digits = minorDigits(currency);
  const bare = String(Math.abs(amount)).padStart(digits + 1, '0');
  const cut = bare.length - digits;
  return (amount < 0 ? '-' : '') + bare.slice(0, cut) + (digits ? `.${bare.slice(cut)}` : '');
}

/** Local form by CLDR (Intl), with the digits of ISO 4217. Intl takes decimal text exactly, so no rounding happens. */
export function formatMoney({ amount, currency }: Money, locale: string): string {
  return formatOf(locale, currency).format(decimalText(amount, currency) as unknown as number);
}

/**
 * Reads what a person typed ("68", "68.5", "1,200.00", "£ 68", "68,50") as minor units.
 * The last `.` or `,` is the decimal mark when no more figures follow it than the currency has digits; all others
 * group thousands, in threes. Not checked: whether the symbol matches the currency.
 */
export function parseMoney(text: string, currency: string): Result<Minor> {
  const digits = minorDigits(currency);
  const bare = text.replace(/[\s\p{Sc}'’]|[A-Z]{3}/gu, '');
  const unclear = fail(`Enter the amount in figures, like ${decimalText(minor(1250), currency)}.`);
  const m = /^(-?)([\d.,]+)$/.exec(bare);
  if (!m) return unclear;
  const [, sign = '', figures = ''] = m;
  const mark = Math.max(figures.lastIndexOf('.'), figures.lastIndexOf(','));
  const decimal = mark >= 0 && figures.length - mark - 1 <= digits;
  const whole = decimal ? figures.slice(0, mark) : figures;
  const fraction = decimal ? figures.slice(mark + 1) : '';
  if (!/^(\d+|\d{1,3}(?:([.,])\d{3})(?:\2\d{3})*)$/.test(whole)) return unclear;
  const value = Number(whole.replace(/[.,]/g, '') + fraction.padEnd(digits, '0'));
  if (!isMinor(value)) return fail('That amount is too large to be kept exactly.');
  return ok(minor(sign ? -value : value));
}

/** A per cent as a language writes it, without its sign: 5.5 is "5,5" in German. */
export const percentText = (percent: number, locale: string): string =>
  new Intl.NumberFormat(locale, { maximumFractionDigits: 3 }).format(percent);
