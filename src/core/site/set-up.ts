import countryToCurrency from 'country-to-currency';
import { z } from 'zod';
import { payKinds } from '../till/pay-kinds';

/** What the owner sells; decides which fields and pages the shop asks for first. */
export const sells = ['ships', 'downloads', 'events', 'services'] as const;

/** Pages of the shop that can be left out: nothing is lost without them, and widgets lead to the plain pages then. */
export const optionalPages = ['lookup', 'account'] as const;
export type OptionalPage = (typeof optionalPages)[number];

/** The short set-up: only what cannot be read from the site. Every answer has a usual value and can be changed later. */
export const setUp = z.object({
  /** ISO 3166-1 alpha-2. */
  country: z.string().regex(/^[A-Z]{2}$/, 'Choose the country the business is in.'),
  /** ISO 4217. */
  currency: z.string().regex(/^[A-Z]{3}$/, 'Choose the currency of the prices.'),
  units: z.enum(['metric', 'imperial']).default('metric'),
  sells: z.array(z.enum(sells)).min(1, 'Choose at least one thing the shop sells.').default(['ships']),
  /** Whether tax is charged at all; a business below the threshold charges none. */
  taxed: z.boolean().default(false),
  /** Whether prices hold the tax already. */
  taxIncluded: z.boolean().default(true),
  takesMoney: z.array(z.enum(payKinds)).min(1, 'Choose at least one way to be paid.').default(['card']),
  /** Where a transfer goes: an IBAN, or the account as the bank writes it. */
  account: z.string().trim().max(120).default(''),
});
export type SetUp = z.infer<typeof setUp>;

/** A set-up as it was kept by a release that asked less. */
export type KeptSetUp = Pick<
  SetUp,
  'country' | 'currency' | 'units' | 'sells' | 'taxIncluded' | 'takesMoney'
> &
  Partial<Pick<SetUp, 'taxed' | 'account'>>;

const slug = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9][a-z0-9-]{0,39}$/, 'An address has small letters, digits and hyphens, at most 40.');

/** Where the shop's own page stands. */
export const shopAddress = z.object({
  /** "shop": the page is /shop/ or /shop.html, in the site's own manner. */
  slug: slug.default('shop'),
  /** What it is called in menu and heading. */
  name: z.string().trim().min(1, 'Enter what the shop is called in the menu.').max(40).default('Shop'),
  /** The shop is the site's front page, and the owner's stands beside it. */
  front: z.boolean().default(false),
  /** Pages beside those that buying needs. */
  pages: z.array(z.enum(optionalPages)).default([...optionalPages]),
  /** What "Add selling" made together with it, so that all of it can be taken back as one. */
  made: z
    .object({
      cart: z.string().nullable(),
      /** Carts of their own for pages whose header is of another make. */
      carts: z.array(z.string()).default([]),
      line: z.string().nullable().default(null),
      menu: z.boolean(),
    })
    .default({ cart: null, carts: [], line: null, menu: false }),
  /** Addresses it had before: they keep leading to it. */
  old: z.array(slug).max(20).default([]),
});
export type ShopAddress = z.infer<typeof shopAddress>;

/** Country and currency as the site lets one guess, with the reason in words. */
export interface Guess {
  readonly country: string;
  readonly currency: string;
  readonly why: string;
}

/**
 * Countries by what a page says: the region of its language tag, a top-level domain, a currency sign beside a number, a
 * calling code. Currencies of countries after ISO 4217 list one; the countries are those of the languages this list knows.
 */
const countries: readonly {
  readonly code: string;
  readonly currency: string;
  readonly lang: string;
  readonly domain: string;
  readonly dial: string;
}[] = [
  { code: 'GB', currency: 'GBP', lang: 'en', domain: 'uk', dial: '44' },
  { code: 'IE', currency: 'EUR', lang: 'en', domain: 'ie', dial: '353' },
  { code: 'US', currency: 'USD', lang: 'en', domain: 'us', dial: '1' },
  { code: 'CA', currency: 'CAD', lang: 'en', domain: 'ca', dial: '1' },
  { code: 'AU', currency: 'AUD', lang: 'en', domain: 'au', dial: '61' },
  { code: 'NZ', currency: 'NZD', lang: 'en', domain: 'nz', dial: '64' },
  { code: 'DE', currency: 'EUR', lang: 'de', domain: 'de', dial: '49' },
  { code: 'AT', currency: 'EUR', lang: 'de', domain: 'at', dial: '43' },
  { code: 'CH', currency: 'CHF', lang: 'de', domain: 'ch', dial: '41' },
  { code: 'FR', currency: 'EUR', lang: 'fr', domain: 'fr', dial: '33' },
  { code: 'BE', currency: 'EUR', lang: 'nl', domain: 'be', dial: '32' },
  { code: 'NL', currency: 'EUR', lang: 'nl', domain: 'nl', dial: '31' },
  { code: 'ES', currency: 'EUR', lang: 'es', domain: 'es', dial: '34' },
  { code: 'IT', currency: 'EUR', lang: 'it', domain: 'it', dial: '39' },
  { code: 'PT', currency: 'EUR', lang: 'pt', domain: 'pt', dial: '351' },
  { code: 'SE', currency: 'SEK', lang: 'sv', domain: 'se', dial: '46' },
  { code: 'NO', currency: 'NOK', lang: 'nb', domain: 'no', dial: '47' },
  { code: 'DK', currency: 'DKK', lang: 'da', domain: 'dk', dial: '45' },
  { code: 'FI', currency: 'EUR', lang: 'fi', domain: 'fi', dial: '358' },
  { code: 'PL', currency: 'PLN', lang: 'pl', domain: 'pl', dial: '48' },
  { code: 'CZ', currency: 'CZK', lang: 'cs', domain: 'cz', dial: '420' },
  { code: 'JP', currency: 'JPY', lang: 'ja', domain: 'jp', dial: '81' },
];
const signs: readonly (readonly [RegExp, string])[] = [
  [/£\s?\d/, 'GBP'],
  [/€\s?\d|\d\s?€/, 'EUR'],
  [/\bCHF\s?\d/, 'CHF'],
  [/(?:^|\s)\$\s?\d/, 'USD'],
  [/¥\s?\d/, 'JPY'],
  [/\d\s?zł/, 'PLN'],
];

/** What a site can be guessed to be in. */
export const guessedCountries: readonly { readonly code: string; readonly currency: string }[] = countries;

/** All countries with the currency each uses first (ISO 3166-1 to ISO 4217, from the package country-to-currency). */
export const countryList: readonly { readonly code: string; readonly currency: string }[] = Object.entries(
  countryToCurrency,
).map(([code, currency]) => ({ code, currency }));

/** The language tag that a shop writes money and dates by: the site's language, as the shop's country writes it (BCP 47). */
export function localeIn(lang: string, country: string): string {
  try {
    const tag = new Intl.Locale(lang || 'en');
    return (tag.region || !country ? tag : new Intl.Locale(tag, { region: country })).toString();
  } catch {
    return 'en';
  }
}

/** Guesses where a business is. `texts` are the words of some pages, `lang` the site's language tag, `host` its address. */
export function guessPlace(lang: string, host: string, texts: readonly string[]): Guess {
  const region = /[-_]([A-Za-z]{2})\b/.exec(lang)?.[1]?.toUpperCase();
  const byRegion = countries.find((c) => c.code === region);
  if (byRegion)
    return { country: byRegion.code, currency: byRegion.currency, why: `the pages say lang="${lang}"` };
  const domain = host.split('.').at(-1)?.toLowerCase();
  const byDomain = countries.find((c) => c.domain === domain);
  if (byDomain)
    return { country: byDomain.code, currency: byDomain.currency, why: `the address ends in .${domain}` };
  const all = texts.join(' ');
  const byDial = countries.find((c) => new RegExp(`(?:\\+|\\b00)${c.dial}[\\s(]`).test(all));
  if (byDial)
    return {
      country: byDial.code,
      currency: byDial.currency,
      why: `a telephone number begins with +${byDial.dial}`,
    };
  const currency = signs.find(([sign]) => sign.test(all))?.[1];
  const short = lang.slice(0, 2).toLowerCase();
  const bySign =
    currency &&
    (countries.find((c) => c.currency === currency && c.lang === short) ??
      countries.find((c) => c.currency === currency));
  if (bySign)
    return {
      country: bySign.code,
      currency: bySign.currency,
      why: `prices in ${bySign.currency} stand on the pages`,
    };
  const byLang = countries.find((c) => c.lang === short) ?? countries[0];
  return {
    country: byLang?.code ?? 'GB',
    currency: byLang?.currency ?? 'GBP',
    why: short
      ? `the pages are written in ${languageName(short)}; nothing on them says where`
      : 'nothing on the pages says where',
  };
}

/** "German"; the tag itself where it is none that Intl knows. */
function languageName(tag: string): string {
  try {
    return new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag;
  } catch {
    return tag;
  }
}
