import { minorDigits } from './currency';

/** An amount of money in a text. */
export interface PriceMention {
  /** As it is written, with its currency. */
  readonly text: string;
  /** Place in the text that was given. */
  readonly at: number;
  /** Minor units. */
  readonly amount: number;
  /** ISO 4217; '' where the sign is shared by several, and nothing says which. */
  readonly currency: string;
}

/**
 * Signs and words for currencies, as texts of shops and makers have them; common practice. `$` and `kr` mean what the
 * shop's own currency is, where that is one of theirs.
 */
const signs: readonly (readonly [pattern: string, currencies: readonly string[]])[] = [
  ['£', ['GBP']],
  ['€', ['EUR']],
  ['US\\$', ['USD']],
  ['C\\$|CA\\$', ['CAD']],
  ['A\\$|AU\\$', ['AUD']],
  ['NZ\\$', ['NZD']],
  ['\\$', ['USD', 'CAD', 'AUD', 'NZD']],
  ['¥|円', ['JPY']],
  ['zł', ['PLN']],
  ['Kč', ['CZK']],
  ['SFr\\.?|Fr\\.|CHF', ['CHF']],
  ['kr\\.?|:-', ['SEK', 'NOK', 'DKK']],
  ['EUR|[Ee]uros?', ['EUR']],
  ['GBP|pounds?(?! of)', ['GBP']],
  ['USD|dollars?', ['USD']],
  ['SEK', ['SEK']],
  ['NOK', ['NOK']],
  ['DKK', ['DKK']],
  ['PLN', ['PLN']],
  ['CZK', ['CZK']],
  ['CAD', ['CAD']],
  ['AUD', ['AUD']],
  ['JPY', ['JPY']],
];

/** No amount has more groups than five: without an end a text of nothing but figures took minutes, each group begun anew. */
const figures = String.raw`\d{1,3}(?:[.,'’\u00a0\u202f ]\d{3}){1,5}(?:[.,](?:\d{1,2}|[-–—]{1,2}))?|\d{1,16}(?:[.,](?:\d{1,3}|[-–—]{1,2}))?`;
const sign = signs.map(([s]) => s).join('|');
/** A sign before or behind figures; neither may be a piece of a longer word or number. */
const before = new RegExp(
  String.raw`(?<![\p{L}\p{N}$£€.,])(${sign})[\s\u00a0\u202f]?(${figures})(?![\p{N}%])`,
  'gu',
);
const behind = new RegExp(
  String.raw`(?<![\p{L}\p{N}.,/$£€-])(${figures})[\s\u00a0\u202f]?(${sign})(?![\p{L}\p{N}])`,
  'gu',
);
const exact = signs.map(([s, c]) => [new RegExp(`^(?:${s})$`, 'u'), c] as const);

/** Whether a text can hold a price at all: asked of every run of text, so it is quick. */
export const mayHavePrice = (text: string): boolean =>
  /\d/.test(text) &&
  /[£€$¥円]|zł|Kč|:-|\b(?:kr|fr|chf|eur|gbp|usd|sek|nok|dkk|pln|czk|cad|aud|jpy|pound|dollar)/i.test(text);

/**
 * Amounts of money in a text of any of the languages that guessed shops are in. Which mark is the decimal one is told by where it
 * stands: with three figures behind it groups them, with one or two it parts pence from pounds.
 * @param own the shop's currency, for signs that several share.
 */
export function priceMentions(text: string, own: string): PriceMention[] {
  if (!mayHavePrice(text)) return [];
  const found: PriceMention[] = [];
  for (const [pattern, money, number] of [
    [before, 1, 2],
    [behind, 2, 1],
  ] as const)
    for (const m of text.matchAll(pattern)) {
      const currency = currencyOf(m[money] ?? '', own);
      const amount = amountOf(m[number] ?? '', currency || own);
      if (amount === undefined) continue;
      found.push({ text: m[0].trim(), at: m.index, amount, currency });
    }
  return apart(found);
}

function currencyOf(written: string, own: string): string {
  const meant = exact.find(([is]) => is.test(written))?.[1] ?? [];
  if (meant.includes(own)) return own;
  return meant.length === 1 ? (meant[0] ?? '') : '';
}

/** Figures as minor units; nothing where a currency has no such part. */
function amountOf(written: string, currency: string): number | undefined {
  const digits = safeDigits(currency);
  const bare = written.replace(/['’\s\u00a0\u202f]/g, '').replace(/[.,][-–—]{1,2}$/, '');
  const [, whole = '', , fraction = ''] = /^(.*?)(?:([.,])(\d{1,2}|\d{3}))?$/.exec(bare) ?? [];
  // Three figures behind one mark are a group, unless the currency itself has three places.
  const isGroup = fraction.length === 3 && digits !== 3;
  const pounds = (whole + (isGroup ? fraction : '')).replace(/[.,]/g, '');
  const pence = isGroup ? '' : fraction;
  if (!/^\d+$/.test(pounds) || pence.length > digits) return undefined;
  const value = Number(pounds + pence.padEnd(digits, '0'));
  return Number.isSafeInteger(value) ? value : undefined;
}

function safeDigits(currency: string): number {
  try {
    return minorDigits(currency);
  } catch {
    return 2;
  }
}

/** Of two that overlap ("€ 12 €") the first is meant. */
function apart(found: PriceMention[]): PriceMention[] {
  found.sort((a, b) => a.at - b.at || b.text.length - a.text.length);
  const out: PriceMention[] = [];
  for (const m of found) {
    const last = out.at(-1);
    if (!last || m.at >= last.at + last.text.length) out.push(m);
  }
  return out;
}
