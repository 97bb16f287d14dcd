import countryToCurrency from 'country-to-currency';
import { z } from 'zod';
import { priceMentions } from '../money/mention';
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
  /** More than a language tag that templates come with speaks for it. */
  readonly isSure: boolean;
}

/**
 * Countries by what a page says: the region of its language tag, a top-level domain, prices, a calling code. Currencies of
 * countries after ISO 4217 list one; the countries are those of the languages this list knows.
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

/** What speaks for a country: how much, and in words. */
type Country = (typeof countries)[number];
interface Clue {
  readonly weight: number;
  readonly why: string | ((c: Country) => string);
  readonly speaksFor: (c: Country) => boolean;
}

/** Clues of this weight together are believed without asking. */
const SURE = 2;

/** Currencies that share the dollar's sign; the first is meant where nothing says which. */
const dollars = ['USD', 'CAD', 'AUD', 'NZD'];

/**
 * Guesses where a business is. `texts` are the words of some pages, `lang` the site's language tag, `host` its address.
 * Clues are weighed (set by hand): an address and a telephone number are chosen, prices were written by somebody who charges
 * them; a language tag is often what a template came with. The currency is that of the prices, wherever the business is.
 */
export function guessPlace(lang: string, host: string, texts: readonly string[]): Guess {
  const all = texts.join(' ');
  const priced = currenciesOf(all);
  const clues = cluesOf(lang, host, all, priced);
  const score = (c: Country) => clues.reduce((sum, clue) => sum + (clue.speaksFor(c) ? clue.weight : 0), 0);
  const [best] = countries.toSorted((a, b) => score(b) - score(a));
  const country = best ?? { code: 'GB', currency: 'GBP' };
  // Said is what speaks for the fewest others beside it: prices in euros are of many countries.
  const spokenFor = (clue: Clue) => countries.filter(clue.speaksFor).length;
  const [first] = clues
    .filter((clue) => best && clue.speaksFor(best))
    .toSorted((a, b) => spokenFor(a) - spokenFor(b) || b.weight - a.weight);
  return {
    country: country.code,
    currency: priced.includes(country.currency) ? country.currency : (priced[0] ?? country.currency),
    why: whyOf(first, best),
    isSure: priced.length > 0 || (best !== undefined && score(best) >= SURE),
  };
}

function whyOf(clue: Clue | undefined, best: Country | undefined): string {
  if (!clue || !best) return 'nothing on the pages says where';
  return typeof clue.why === 'string' ? clue.why : clue.why(best);
}

function cluesOf(lang: string, host: string, all: string, priced: readonly string[]): Clue[] {
  const region = /[-_]([A-Za-z]{2})\b/.exec(lang)?.[1]?.toUpperCase();
  const domain = host.split('.').at(-1)?.toLowerCase() ?? '';
  const short = lang.slice(0, 2).toLowerCase();
  const dial = countries.find((c) => new RegExp(`(?:\\+|\\b00)${c.dial}[\\s(]`).test(all))?.dial;
  return [
    { weight: 4, why: `the address ends in .${domain}`, speaksFor: (c) => c.domain === domain },
    { weight: 3.5, why: `a telephone number begins with +${dial}`, speaksFor: (c) => c.dial === dial },
    {
      weight: 3,
      why: (c) => `prices in ${c.currency} stand on the pages`,
      speaksFor: (c) => priced.includes(c.currency),
    },
    {
      weight: region === 'US' ? 1 : 2.5,
      why: `the pages say lang="${lang}"`,
      speaksFor: (c) => c.code === region,
    },
    {
      weight: 0.5,
      why: `the pages are written in ${languageName(short)}; nothing on them says where`,
      speaksFor: (c) => c.lang === short,
    },
  ];
}

/** The currency that most prices in a text are in; those that share a sign all stand, where it is that sign. */
function currenciesOf(text: string): readonly string[] {
  const met = new Map<string, number>();
  for (const { currency, text: written } of priceMentions(text, '')) {
    const is = currency || (written.includes('$') ? '$' : '');
    if (is) met.set(is, (met.get(is) ?? 0) + 1);
  }
  const [most] = [...met].toSorted((a, b) => b[1] - a[1]);
  if (!most) return [];
  return most[0] === '$' ? dollars : [most[0]];
}

/** "German"; the tag itself where it is none that Intl knows. */
function languageName(tag: string): string {
  try {
    return new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag;
  } catch {
    return tag;
  }
}
