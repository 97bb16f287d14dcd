import { namesOf } from '../entries';
import { taxClasses, visibilities } from './choices';
import { z } from 'zod';
import { zero, minor } from '../money/minor';
import { goodsKindIds } from './kinds';
import { downloads, keptFile, noDownloads } from './downloads';
import { gtinFault } from './gtin';
import type { Rating } from './reviews';
import { optionLimits } from './variants';

/**
 * What an owner may write about a product: the one form that sheet, list, CSV and programs fill. Money is in minor units of
 * the shop's currency, weights in grams, moments in ISO 8601 with an offset.
 */
const money = (what: string) =>
  z
    .number(`Write ${what}.`)
    .int(`Write ${what} in whole minor units.`)
    .min(0, 'A price is not below nought.')
    .max(1_000_000_000_000, 'That price is too large to be kept exactly.')
    .transform(minor);
const line = (most: number) => z.string().trim().max(most, `At most ${most} characters fit here.`);
const moment = z.iso.datetime({ offset: true, error: 'Enter a date and a time.' });
const hash = z.string().regex(/^[0-9a-f]{64}$/, 'This is no picture that was kept.');
const slugText = z
  .string()
  .trim()
  .max(80)
  .regex(
    /^[\p{L}\p{N}]+(-[\p{L}\p{N}]+)*$/u,
    'An address has letters, digits and hyphens: round-log-basket.',
  );

const picture = z.object({
  hash,
  alt: line(300).default(''),
  /** What must stay in view when the picture is cropped: parts of width and height, 0 to 1. */
  x: z.number().min(0).max(1).default(0.5),
  y: z.number().min(0).max(1).default(0.5),
});

const option = z.object({
  name: line(40).min(1, 'Give the option a name, like Size.'),
  as: z.enum(['list', 'swatch']).default('list'),
  values: z
    .array(
      z.object({
        name: line(60).min(1, 'A value needs a name.'),
        colour: z
          .string()
          .regex(/^(#[0-9a-f]{6})?$/i, 'Enter a colour like #7a8a5c.')
          .default(''),
      }),
    )
    .min(1, 'An option needs a value.')
    .max(optionLimits.values, `An option has at most ${optionLimits.values} values.`),
});

const variant = z.object({
  id: z.string().max(40).optional(),
  values: z.array(z.string()).max(optionLimits.options).default([]),
  /** A price of its own, or a difference to the product's. */
  price: money('the price').nullable().default(null),
  difference: z.number().int().min(-1_000_000_000_000).max(1_000_000_000_000).nullable().default(null),
  sku: line(60).default(''),
  gtin: line(20)
    .default('')
    .superRefine((text, c) => {
      const fault = text && gtinFault(text);
      if (fault) c.addIssue({ code: 'custom', message: fault });
    }),
  /** Pieces on hand when it is new; later changes go through the ledger. Null when nobody counts. */
  stock: z
    .number('Count whole pieces.')
    .int('Count whole pieces.')
    .min(0, 'Stock is not below nought.')
    .max(10_000_000)
    .nullable()
    .default(null),
  /** Grams. */
  weight: z.number().int('Enter whole grams.').min(0).max(10_000_000).nullable().default(null),
  picture: hash.nullable().default(null),
});

const offer = z
  .object({
    kind: z.enum(['amount', 'percent']),
    value: z.number().positive('An offer takes something off.'),
    from: moment.nullable().default(null),
    until: moment.nullable().default(null),
  })
  .refine((o) => o.kind !== 'percent' || o.value <= 100, 'At most 100 per cent can come off.')
  .refine((o) => o.kind !== 'amount' || Number.isInteger(o.value), 'Enter the amount in whole minor units.')
  .refine(
    (o) => !o.from || !o.until || Date.parse(o.from) < Date.parse(o.until),
    'The offer ends before it begins.',
  );

/** Films that browsers play by themselves (media types of RFC 6381 containers). */
export const filmTypes = ['video/mp4', 'video/webm'] as const;

const stockRule = z.object({
  /** From how many down shoppers read how many are left; null for what is usual. */
  low: z.number().int().min(0).max(1_000).nullable().default(null),
  whenOut: z.enum(['refuse', 'sell-on', 'preorder']).default('refuse'),
  /** Day a pre-order is expected, "2027-03-01". */
  expected: z.iso.date('Enter the day it is expected.').nullable().default(null),
});

export const productInput = z.object({
  kind: z.enum(goodsKindIds).default('ships'),
  name: z
    .string('Give it a name; shoppers search by it.')
    .trim()
    .min(1, 'Give it a name; shoppers search by it.')
    .max(140, 'A name has at most 140 characters.'),
  /** Its address; made from the name where none is given. */
  slug: z.union([z.literal(''), slugText]).default(''),
  /** Rich text as HTML, sanitised before it is kept. */
  description: z.string().trim().max(40_000, 'A description has at most 40,000 characters.').default(''),
  price: money('the price'),
  was: money('the price before').nullable().default(null),
  offer: offer.nullable().default(null),
  /** Where the buyer names the amount: the least, and amounts that are offered for a press. */
  openLeast: money('the least amount').nullable().default(null),
  openSuggestions: z.array(money('the amounts')).max(6, 'At most six amounts are suggested.').default([]),
  /** Prices of the same product for those who have a link of their own: its address carries the key. */
  linkPrices: z
    .array(
      z.object({
        key: z.string().regex(/^[a-z0-9]{8,16}$/, 'A link is made by the office.'),
        name: line(60).min(1, 'Say whom the price is for, like Members.'),
        price: money('the price for this link'),
      }),
    )
    .max(10, 'A product has at most ten prices by link.')
    .default([]),
  unit: z
    .object({
      amount: z.number().positive('Enter how much one piece holds.').max(1_000_000),
      measure: z.enum(['g', 'kg', 'ml', 'cl', 'l', 'cm', 'm', 'm2', 'piece']),
    })
    .nullable()
    .default(null),
  cost: money('the cost').nullable().default(null),
  taxClass: z.enum(taxClasses).default('standard'),
  /** In lists; by its link alone; nowhere. */
  shows: z.enum(visibilities).default('shown'),
  categories: z
    .array(z.string().trim().min(1).max(200))
    .max(20, 'A product stands in at most 20 categories.')
    .default([]),
  tags: z.array(line(40).min(1)).max(30, 'At most 30 tags.').default([]),
  badge: line(24).default(''),
  /** Words it is also found by. */
  searchWords: line(300).default(''),
  sections: z
    .array(
      z.object({
        title: line(80).min(1, 'A section needs a title, like Care.'),
        text: z.string().trim().max(20_000).default(''),
      }),
    )
    .max(8, 'At most eight sections.')
    .default([]),
  /** What the buyer may write, like initials on a label. */
  texts: z
    .array(
      z.object({
        label: line(60).min(1, 'Say what the buyer writes.'),
        most: z.number().int().min(1).max(500).default(40),
        required: z.boolean().default(false),
        price: money('what it costs').default(zero),
      }),
    )
    .max(5, 'A buyer writes at most five texts.')
    .default([]),
  /** Slugs of products that go with it; none for those that share its categories. */
  related: z.array(z.string().min(1).max(80)).max(12, 'At most twelve related products.').default([]),
  video: z
    .string()
    .trim()
    .max(500)
    .regex(/^(https?:\/\/[^\s"'<>]+)?$/, 'Enter the address of the film, beginning with https://.')
    .default(''),
  /** A film of the owner's own, in place of an address. */
  film: keptFile
    .extend({ type: z.enum(filmTypes) })
    .nullable()
    .default(null),
  pictures: z.array(picture).max(20, 'At most 20 pictures.').default([]),
  options: z.array(option).max(optionLimits.options, `At most ${optionLimits.options} options.`).default([]),
  variants: z
    .array(variant)
    .min(1)
    .max(
      optionLimits.variants,
      `At most ${optionLimits.variants.toLocaleString('en')} variants: fewer values, please.`,
    )
    .default([variant.parse({})]),
  stockRule: stockRule.default(stockRule.parse({})),
  event: z
    .object({
      start: moment,
      end: moment.nullable().default(null),
      place: line(200).default(''),
      address: line(300).default(''),
    })
    .nullable()
    .default(null),
  bundle: z
    .array(
      z.object({
        goodsId: z.string(),
        variantId: z.string(),
        quantity: z.number().int().min(1).max(99).default(1),
      }),
    )
    .max(30, 'A bundle has at most 30 parts.')
    .default([]),
  link: z
    .object({
      url: z
        .url({ protocol: /^https?$/, error: 'Enter the whole address, beginning with https://.' })
        .max(500),
      seller: line(80).default(''),
    })
    .nullable()
    .default(null),
  every: z
    .object({ count: z.number().int().min(1).max(12).default(1), unit: z.enum(['week', 'month', 'year']) })
    .nullable()
    .default(null),
  /** Files and releases, where it is downloaded. */
  downloads: downloads.default(noDownloads),
  /** Months a voucher holds; null for ever. */
  voucherMonths: z.number().int().min(1).max(120).nullable().default(null),
  /** Made up to show how it looks; taken away at one press. */
  sample: z.boolean().default(false),
});

export type ProductInput = z.input<typeof productInput>;
/** A product's form, read: nothing is left out. */
export type ProductForm = z.output<typeof productInput>;
export type Option = ProductForm['options'][number];
export type VariantInput = ProductForm['variants'][number];
export type Picture = ProductForm['pictures'][number];
export type Offer = NonNullable<ProductForm['offer']>;
export type StockRule = ProductForm['stockRule'];
export type UnitPrice = NonNullable<ProductForm['unit']>;

/** A choice that can be bought: one value of each option. A product without options has one. */
export interface Variant extends VariantInput {
  readonly id: string;
}

/** A product of the catalogue. */
export interface Product extends Omit<ProductForm, 'variants'> {
  readonly id: string;
  readonly variants: readonly Variant[];
  /** The description's words without markup. */
  readonly plain: string;
  /** When it came to the goods, in milliseconds since 1970. */
  readonly addedAt: number;
  readonly order: number;
  /** Stars of its buyers; nothing before the first. */
  readonly rating: Rating | null;
}

/** Fields that an owner writes, in the order of the sheet. */
export const productFields = namesOf(productInput.shape);

/** A product as its own form again. */
export const formOf = (p: Product): ProductForm =>
  Object.fromEntries(productFields.map((f) => [f, p[f as keyof Product]])) as unknown as ProductForm;

interface FormFault {
  readonly field: keyof ProductForm;
  readonly message: string;
}

/** What is wrong with one field beside others, or undefined. */
type FormRule = (f: ProductForm) => string | undefined;

const repeats = (values: readonly string[]): boolean => new Set(values).size < values.length;

/** What belongs together across fields, by the field to look at, in the order in which faults are told. */
const formRules: readonly (readonly [keyof ProductForm, FormRule])[] = [
  ['options', optionFault],
  ['variants', variantFault],
  [
    'was',
    (f) =>
      f.was !== null && f.was <= f.price
        ? 'The price before is more than the price now; leave it empty where there is none.'
        : undefined,
  ],
  ['downloads', downloadFault],
  ['linkPrices', linkPriceFault],
  ['event', eventFault],
  [
    'bundle',
    (f) => (f.kind === 'bundle' && f.bundle.length === 0 ? 'Choose what is in the bundle.' : undefined),
  ],
  ['link', (f) => (f.kind === 'link' && !f.link ? 'Enter where it is sold.' : undefined)],
  ['every', (f) => (f.kind === 'subscription' && !f.every ? 'Say how often it is charged.' : undefined)],
  [
    'stockRule',
    ({ stockRule: s }) => (s.whenOut === 'preorder' && !s.expected ? 'Say when it is expected.' : undefined),
  ],
];

function optionFault(f: ProductForm): string | undefined {
  if (repeats(f.options.map((o) => o.name.toLowerCase()))) return 'Two options have the same name.';
  const doubled = f.options.find((o) => repeats(o.values.map((v) => v.name)));
  return doubled && `${doubled.name} has the same value twice.`;
}

function variantFault(f: ProductForm): string | undefined {
  if (repeats(f.variants.map((v) => JSON.stringify(v.values)))) return 'Two variants are the same choice.';
  const isOfOptions = (values: readonly string[]) =>
    values.length === f.options.length &&
    values.every((x, i) => f.options[i]?.values.some((o) => o.name === x));
  return f.variants.every((v) => isOfOptions(v.values))
    ? undefined
    : 'A variant names a value that its option does not have.';
}

function downloadFault(f: ProductForm): string | undefined {
  const { releases } = f.downloads;
  const values = new Set(f.options.flatMap((o) => o.values.map((v) => v.name)));
  const stray = releases.flatMap((r) => r.files).find((x) => x.only && !values.has(x.only));
  if (stray) return `${stray.name} is meant for \u201c${stray.only}\u201d, which no option has.`;
  return repeats(releases.map((r) => r.name)) ? 'Two releases have the same name.' : undefined;
}

function linkPriceFault(f: ProductForm): string | undefined {
  if (repeats(f.linkPrices.map((l) => l.key))) return 'Two prices have the same link.';
  return f.linkPrices.length > 0 && f.openLeast !== null
    ? 'Where the buyer names the amount there is no price by link.'
    : undefined;
}

function eventFault(f: ProductForm): string | undefined {
  if (f.kind === 'event' && !f.event) return 'Say when it takes place.';
  const { start = '', end = null } = f.event ?? {};
  return end && Date.parse(end) < Date.parse(start) ? 'It ends before it begins.' : undefined;
}

/** The first thing that does not go together, with the field to look at. */
export function formFaults(f: ProductForm): FormFault | undefined {
  for (const [field, rule] of formRules) {
    const message = rule(f);
    if (message !== undefined) return { field, message };
  }
  return undefined;
}

/** Whether a product is announced as reduced, by hand or by an offer that runs. */
export const isOnOffer = (p: Pick<Product, 'price' | 'was' | 'offer'>, at: number): boolean =>
  (p.was !== null && p.was > p.price) ||
  (p.offer !== null &&
    (p.offer.from === null || Date.parse(p.offer.from) <= at) &&
    (p.offer.until === null || at < Date.parse(p.offer.until)));

/** "Round log basket" → "round-log-basket"; letters of any script stay, so that other languages have readable addresses. */
export function slugOf(name: string, taken: (slug: string) => boolean): string {
  const base =
    name
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 60)
      .replace(/-+$/, '') || 'product';
  for (let n = 1; ; n++) {
    const slug = n === 1 ? base : `${base}-${n}`;
    if (!taken(slug)) return slug;
  }
}
