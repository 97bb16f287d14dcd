import { namesOf } from '../../core/entries';
import { allCountries } from 'country-region-data';
import { formatAddress } from 'localized-address-format';
import isPostalCode, { locales as postcodeCountries } from 'validator/lib/isPostalCode.js';
import type { Buyer } from '../../data/schema/till';
import { countryName } from './countries';

/**
 * Addresses as each country writes them. Which parts there are and in which order comes from the data of localized-address-format
 * (derived from the open address data that browsers fill forms with), states from country-region-data, patterns of postcodes
 * from validator. What a package does not know is not checked.
 */
export type AddressPart = 'town' | 'state' | 'postcode';

export interface AddressForm {
  /** In the country's own order. */
  readonly parts: readonly AddressPart[];
  /** Offered where there is a list; written by hand where there is none. */
  readonly states: readonly { readonly code: string; readonly name: string }[];
  readonly needs: readonly AddressPart[];
}

const marks: Readonly<Record<AddressPart, string>> = { town: '\u0001', state: '\u0002', postcode: '\u0003' };
const forms = new Map<string, AddressForm>();
/** As its type says: a module of CommonJS may come with its default inside. */
const fitsCountry = ((isPostalCode as unknown as { default?: typeof isPostalCode }).default ??
  isPostalCode) as typeof isPostalCode;
const patterns = new Set<string>(postcodeCountries);

/** Countries where an address without its state does not arrive, by the practice of their posts (from memory): elsewhere it may be left out. */
const stateNeeded = new Set(['US', 'CA', 'AU', 'BR', 'MX', 'IN', 'IT', 'JP', 'CN', 'MY']);

export function addressForm(country: string): AddressForm {
  const known = forms.get(country);
  if (known) return known;
  const written = formatAddress(
    {
      postalCountry: country || 'GB',
      locality: marks.town,
      administrativeArea: marks.state,
      postalCode: marks.postcode,
      name: 'n',
      addressLines: ['a'],
    },
    'latin',
  ).join('\n');
  const parts = namesOf(marks)
    .filter((p) => written.includes(marks[p]))
    .sort((a, b) => written.indexOf(marks[a]) - written.indexOf(marks[b]));
  const listed = allCountries.find(([, code]) => code === country)?.[2] ?? [];
  const states = parts.includes('state')
    ? listed.flatMap(([name, code]) => (code ? [{ code, name }] : []))
    : [];
  const needless = new Set([
    ...(patterns.has(country) || !country ? [] : ['postcode']),
    ...(stateNeeded.has(country) ? [] : ['state']),
  ]);
  const needs = parts.filter((p) => !needless.has(p));
  const form = { parts, states, needs };
  forms.set(country, form);
  return form;
}

/** States of the countries whose addresses have one, by country: what tax and shipping may be set for. */
export const statesByCountry = (): Readonly<Record<string, AddressForm['states']>> =>
  Object.fromEntries(
    allCountries.flatMap(([, code]) => {
      const { states } = addressForm(code);
      return states.length ? [[code, states]] : [];
    }),
  );

/** The code of a state that was written as its code or its name; undefined where its country has no such state. */
export function stateCode(country: string, written: string): string | undefined {
  const { states } = addressForm(country);
  const text = written.trim().toLowerCase();
  if (states.length === 0 || text === '') return written.trim();
  return states.find((s) => s.code.toLowerCase() === text || s.name.toLowerCase() === text)?.code;
}

/** Whether a postcode can be one of a country; yes where nobody knows its pattern. */
export const isPostcodeOf = (country: string, postcode: string): boolean =>
  !patterns.has(country) ||
  fitsCountry(postcode.trim().toUpperCase(), country as Parameters<typeof isPostalCode>[1]);

/** A postcode that others understand, for the sentence that asks for one. */
export const examplePostcode: Readonly<Record<string, string>> = {
  GB: 'AB1 2CD',
  DE: '12345',
  FR: '12345',
  US: '12345',
  CA: 'A1B 2C3',
  NL: '1234 AB',
  AT: '1234',
  CH: '1234',
  IE: 'A12 B3C4',
  IT: '12345',
  ES: '12345',
  SE: '123 45',
  PL: '12-345',
};

/** Lines of an address as its own country writes them, with the country's name below where it goes abroad. */
export function addressLines(b: Buyer, home: string, lang: string): string[] {
  const lines = formatAddress(
    {
      postalCountry: /^[A-Z]{2}$/.test(b.country) ? b.country : 'GB',
      locality: b.town,
      administrativeArea: b.state ?? '',
      postalCode: b.postcode,
      organization: b.company ?? '',
      name: b.name,
      addressLines: b.street.split('\n'),
    },
    'latin',
  ).filter((l) => l.trim());
  return b.country && b.country !== home
    ? [...lines, /^[A-Z]{2}$/.test(b.country) ? countryName(b.country, lang) : b.country]
    : lines;
}
