import { taxClasses } from '../goods/choices';
import { z } from 'zod';
import { letterFaults, letterRules } from '../letters/kinds';
import { exchangeRules } from '../money/exchange';
import { zero, minor } from '../money/minor';
import { payRules } from './paying';
import { shippingKinds } from './goes';
import { measureNames } from './measures';
import { weightUnits } from './weight';
import { roundingModes } from '../money/round';

/**
 * What an owner sets in the till. Money is in minor units of the shop's currency, weights in grams, moments are the clock of the
 * shop's own time zone ("2026-12-01T00:00"), so that an offer ends at midnight where the shop is.
 */
const amount = z
  .number('Enter an amount.')
  .int('Enter an amount in whole minor units.')
  .min(0, 'An amount is not below nought.')
  .max(1_000_000_000_000)
  .transform(minor);
const percent = z
  .number('Enter a number.')
  .min(0, 'Not below nought.')
  .max(100, 'At most 100 per cent.')
  .refine((n) => Math.abs(n * 1000 - Math.round(n * 1000)) < 1e-9, 'At most three decimals.');
const name = z.string().trim().min(1, 'Give it a name.').max(80);
const id = z.string().regex(/^[\w-]{1,40}$/, 'An id has letters, digits and hyphens.');
const wall = z.string().regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/, 'Enter a day and a time.');
const country = z.string().regex(/^([A-Z]{2}|\*)$/, 'Choose a country.');

const zones = new Map<string, boolean>();
/** Whether Intl knows a time zone; asked once for each. */
function isZone(zone: string): boolean {
  const known = zones.get(zone);
  if (known !== undefined) return known;
  let is = true;
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
  } catch {
    is = false;
  }
  if (zones.size < 1_000) zones.set(zone, is);
  return is;
}

/** A state by its code, or as its owner writes it: the service knows the codes of each country. */
const state = z.string().trim().max(60);

const rate = z.object({
  country,
  state: state.default(''),
  class: z.enum(taxClasses).default('standard'),
  percent,
});

export const taxRules = z.object({
  /** Prices hold the tax already; else it is added. */
  included: z.boolean().default(true),
  /** Nothing is charged at all: a business below the threshold, or exempt. */
  charged: z.boolean().default(true),
  /** What invoices say where no tax is charged. */
  exemptWords: z.string().trim().max(200).default(''),
  home: z
    .object({
      country: z
        .string()
        .regex(/^([A-Z]{2})?$/)
        .default(''),
      state: state.default(''),
    })
    .default({ country: '', state: '' }),
  /** Whose rates goods have, and what is delivered over the wire. */
  goodsBy: z.enum(['seller', 'buyer']).default('seller'),
  digitalBy: z.enum(['seller', 'buyer']).default('buyer'),
  /** Where no tax is due: prices stay as they are, or the tax they hold at home is taken off. */
  abroad: z.enum(['same', 'net']).default('same'),
  /** Tax on shipping: none, in the proportion of the goods, or that of a class. */
  shipping: z.enum(['none', 'proportion', ...taxClasses]).default('proportion'),
  rounding: z.enum(roundingModes).default('half-up'),
  /** Where rounding is done: for each line, or once for each rate. */
  roundAt: z.enum(['line', 'rate']).default('rate'),
  rates: z.array(rate).max(2_000).default([]),
  /** When the owner looked the rates over; nothing until then. */
  confirmed: z.iso.date().nullable().default(null),
});

const area = z.object({
  country,
  states: z.array(state).max(100).default([]),
  postcodes: z.array(z.string().trim().min(1).max(30)).max(200).default([]),
});
const band = z.object({
  upTo: z
    .number('Enter a number.')
    .int('Enter a whole number.')
    .positive('More than nought.')
    .nullable()
    .default(null),
  price: amount,
});

const shippingWay = z.object({
  id,
  name,
  kind: z.enum(shippingKinds).default('post'),
  by: z.enum(['flat', ...measureNames]).default('flat'),
  /** Added whatever is in the parcel; all there is to a flat price. */
  base: amount.default(zero),
  /** Grams, minor units or pieces, each up to and with its end; the last may have none. */
  bands: z.array(band).max(40).default([]),
  /** For each piece, beside the bands. */
  each: amount.default(zero),
  /** Products with an amount of their own for each piece: they count in no band. */
  own: z
    .array(z.object({ goodsId: z.string(), each: amount }))
    .max(500)
    .default([]),
  freeFrom: amount.nullable().default(null),
  days: z
    .object({ least: z.number().int().min(0).max(120), most: z.number().int().min(0).max(120) })
    .refine((d) => d.least <= d.most, 'The most is less than the least.')
    .nullable()
    .default(null),
  hint: z.string().trim().max(200).default(''),
});

export const shippingRules = z.object({
  regions: z
    .array(
      z.object({
        id,
        name,
        areas: z.array(area).min(1, 'A region has a country at least.').max(300),
        ways: z.array(shippingWay).max(20).default([]),
      }),
    )
    .max(60)
    .default([]),
  /** What "free from" looks at: goods before or after discounts. */
  freeBy: z.enum(['before', 'after']).default('after'),
  /** The unit that weights are told in; bands are kept in grams. */
  unit: z.enum(weightUnits).default('kg'),
  /** Days on which nothing goes out: 0 is Sunday; and single days. */
  closedWeekdays: z
    .array(z.number().int().min(0).max(6))
    .max(6, 'One day of the week is open at least.')
    .default([]),
  closedDays: z.array(z.iso.date()).max(200).default([]),
});

const scope = z.object({
  to: z.enum(['all', 'categories', 'goods']).default('all'),
  categories: z.array(z.string()).max(100).default([]),
  goods: z.array(z.string()).max(500).default([]),
  notOnOffer: z.boolean().default(false),
});

export const discountRule = z
  .object({
    id,
    name,
    /** '' is given to everybody whom it fits. Small and capital letters are the same. */
    code: z
      .string()
      .trim()
      .max(40)
      .regex(/^[\w-]*$/, 'A code has letters, digits and hyphens.')
      .default(''),
    active: z.boolean().default(true),
    kind: z.enum(['percent', 'amount', 'shipping', 'price', 'buy-get']).default('percent'),
    percent: percent.default(10),
    amount: amount.default(zero),
    buy: z.number().int().min(1).max(999).default(1),
    get: z.number().int().min(1).max(999).default(1),
    /** Per cent off what is got: 100 is free. */
    off: percent.default(100),
    scope: scope.default(scope.parse({})),
    from: wall.nullable().default(null),
    until: wall.nullable().default(null),
    leastAmount: amount.nullable().default(null),
    leastPieces: z.number().int().min(1).max(9_999).nullable().default(null),
    limit: z.number().int().min(1).max(10_000_000).nullable().default(null),
    limitEach: z.number().int().min(1).max(10_000).nullable().default(null),
    /** Goes together with others; one that does not stands alone, where it saves more. */
    combines: z.boolean().default(true),
  })
  .refine((d) => !d.from || !d.until || d.from < d.until, 'It ends before it begins.');

/** Who sells, as invoices have to say. */
export const sellerRules = z.object({
  name: z.string().trim().max(120).default(''),
  /** Several lines. */
  address: z.string().trim().max(400).default(''),
  taxNumber: z.string().trim().max(40).default(''),
  /** Letters about new orders go there, and answers of buyers. */
  email: z.union([z.literal(''), z.email('Enter an e-mail address like name@example.org.')]).default(''),
  /** Before the number of invoices: "W-". */
  prefix: z
    .string()
    .trim()
    .max(12)
    .regex(/^[\w./-]*$/, 'Letters, digits and - . / stand before a number.')
    .default(''),
  foot: z.string().trim().max(400).default(''),
});

/** What the checkout asks for, and what is said at its ends. */
export const checkoutRules = z.object({
  /** What a buyer has to agree to: a page of the site, or a text. */
  policies: z
    .array(
      z
        .object({
          id,
          name,
          page: z.string().max(300).default(''),
          text: z.string().trim().max(40_000).default(''),
        })
        .refine((p) => p.page || p.text, 'Choose a page, or write the text.'),
    )
    .max(8)
    .default([]),
  note: z.boolean().default(true),
  phone: z.enum(['no', 'may', 'must']).default('no'),
  company: z.boolean().default(false),
  /** The owner's own words, beside the usual ones. */
  thanks: z.string().trim().max(1_000).default(''),
  failed: z.string().trim().max(1_000).default(''),
});

export const tillRules = z.object({
  tax: taxRules.default(taxRules.parse({})),
  shipping: shippingRules.default(shippingRules.parse({})),
  discounts: z.array(discountRule).max(500).default([]),
  zone: z.string().max(60).refine(isZone, 'Choose a time zone.').default('UTC'),
  pay: payRules.default(() => payRules.parse({})),
  seller: sellerRules.default(sellerRules.parse({})),
  checkout: checkoutRules.default(checkoutRules.parse({})),
  letters: letterRules.default({}),
  exchange: exchangeRules.default(exchangeRules.parse({})),
});

export type TillRules = z.output<typeof tillRules>;
export type TaxRules = z.output<typeof taxRules>;
export type ShippingRules = z.output<typeof shippingRules>;
export type Region = ShippingRules['regions'][number];
export type ShippingWay = z.output<typeof shippingWay>;
export type Band = z.output<typeof band>;
export type DiscountRule = z.output<typeof discountRule>;

/** Nothing set: prices as they are, nothing sent, no tax. */
export const noRules: TillRules = tillRules.parse({ tax: { charged: false } });

/** What belongs together across rules; each fault in words. */
export function ruleFaults(r: TillRules): string[] {
  const codes = r.discounts.flatMap((d) => (d.code ? [d.code.toLowerCase()] : []));
  const ids = [
    ...r.discounts.map((d) => d.id),
    ...r.shipping.regions.map((g) => g.id),
    ...r.shipping.regions.flatMap((g) => g.ways.map((w) => w.id)),
  ];
  const rates = r.tax.rates.map((t) => `${t.country} ${t.state} ${t.class}`);
  return [
    ...letterFaults(r.letters),
    ...(new Set(r.pay.ways.map((w) => w.id)).size < r.pay.ways.length
      ? ['Two ways to pay have the same id.']
      : []),
    ...(new Set(codes).size < codes.length ? ['Two discounts have the same code.'] : []),
    ...(new Set(ids).size < ids.length ? ['Two rules have the same id.'] : []),
    ...(new Set(rates).size < rates.length ? ['A country has two rates for the same class.'] : []),
    ...r.shipping.regions.flatMap((g) =>
      g.ways.flatMap((w) =>
        w.by === 'flat'
          ? []
          : bandFaults(w.bands)
              .filter((f) => f.kind !== 'end')
              .map((f) => `${g.name}, ${w.name}: ${f.message}`),
      ),
    ),
  ];
}

export interface BandFault {
  readonly kind: 'none' | 'overlap' | 'after-end' | 'end';
  /** The band it is about. */
  readonly at: number;
  readonly message: string;
}

/** What is wrong with bands as they are typed: overlaps, bands behind one without an end, and that nothing is said beyond the last. */
export function bandFaults(bands: readonly Band[]): BandFault[] {
  if (bands.length === 0) return [{ kind: 'none', at: 0, message: 'it has no band yet' }];
  const out: BandFault[] = [];
  for (const [n, b] of bands.entries()) {
    const before = bands[n - 1];
    if (before && before.upTo === null)
      out.push({ kind: 'after-end', at: n, message: `band ${n + 1} stands behind one without an end` });
    else if (before && b.upTo !== null && before.upTo !== null && b.upTo <= before.upTo)
      out.push({ kind: 'overlap', at: n, message: `band ${n + 1} ends before the one above it does` });
  }
  const last = bands.at(-1);
  if (last && last.upTo !== null)
    out.push({ kind: 'end', at: bands.length - 1, message: `beyond ${last.upTo} this way is not offered` });
  return out;
}
