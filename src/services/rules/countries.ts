import { regionNames } from '../../core/intl';
import iso from 'i18n-iso-countries';

/** Names that people use and no list has. */
const also: Readonly<Record<string, string>> = {
  uk: 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  usa: 'US',
  holland: 'NL',
};

/** ISO 3166-1 alpha-2 of a code or a name in English; nothing for what is no country. */
export function countryCode(typed: string): string | undefined {
  const text = typed.trim();
  if (/^[A-Za-z]{2}$/.test(text) && iso.isValid(text.toUpperCase())) return text.toUpperCase();
  return also[text.toLowerCase()] ?? iso.getAlpha2Code(text, 'en') ?? undefined;
}

/** "GB" as "United Kingdom" in a language; what is no code stays as it is. */
export function countryName(code: string, locale: string): string {
  return /^[A-Z]{2}$/.test(code) ? (regionNames(locale).of(code) ?? code) : code;
}

interface Country {
  readonly code: string;
  readonly name: string;
}
const listed = new Map<string, readonly Country[]>();

/** All countries in a language, by name. */
export function countriesIn(locale: string): readonly Country[] {
  const known = listed.get(locale);
  if (known) return known;
  const order = new Intl.Collator(locale);
  const made = Object.keys(iso.getAlpha2Codes())
    .map((code) => ({ code, name: countryName(code, locale) }))
    .sort((a, b) => order.compare(a.name, b.name));
  listed.set(locale, made);
  return made;
}
