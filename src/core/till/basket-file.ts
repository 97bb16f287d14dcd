import { z } from 'zod';
import { isCurrency } from '../money/currency';
import { AmountTooLarge, minor } from '../money/minor';
import { fail, ok, type Result } from '../result';
import { taxClasses } from '../goods/choices';
import { tillRules } from './rules';
import { type Asked, workOut, type WorkedSum } from './worked-sum';

const amount = z.number().int().min(0).max(1_000_000_000_000).transform(minor);

const idOfLine = (id: string | undefined, n: number): string =>
  id ?? `line-${String(n + 1).padStart(5, '0')}`;

/** A basket as a file: what `bin/stall price` reads. Amounts are in minor units, weights in grams. */
export const basketFile = z.object({
  version: z.literal(1),
  /** ISO 4217. */
  currency: z.string().refine(isCurrency, 'Enter a currency of ISO 4217, like GBP.'),
  locale: z.string().max(20).default('en'),
  lines: z
    .array(
      z.object({
        id: z.string().max(40).optional(),
        name: z.string().max(200),
        goodsId: z.string().max(80).default(''),
        price: amount,
        quantity: z.number().int().min(1).max(9_999).default(1),
        taxClass: z.enum(taxClasses).default('standard'),
        ships: z.boolean().default(true),
        digital: z.boolean().default(false),
        grams: z.number().int().min(0).nullable().default(null),
        categories: z.array(z.string()).default([]),
        onOffer: z.boolean().default(false),
        /** A gift voucher as goods: no discount on everything makes it cheaper. */
        giftVoucher: z.boolean().default(false),
      }),
    )
    .min(1, 'A basket has a line at least.')
    .max(20_000)
    .refine(
      (all) => new Set(all.map((l, n) => idOfLine(l.id, n))).size === all.length,
      'Two lines have the same id.',
    ),
  rules: tillRules.default(tillRules.parse({ tax: { charged: false } })),
  buyer: z
    .object({
      country: z
        .string()
        .regex(/^([A-Z]{2})?$/)
        .default(''),
      state: z.string().max(10).default(''),
      postcode: z.string().max(20).default(''),
      way: z.string().default(''),
      codes: z.array(z.string().max(40)).max(10).default([]),
      vouchers: z
        .array(z.object({ code: z.string().max(40), balance: amount }))
        .max(20)
        .default([]),
      wall: z
        .string()
        .regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/)
        .default('2000-01-01T00:00'),
      uses: z
        .record(z.string(), z.object({ all: z.number().int().min(0), own: z.number().int().min(0) }))
        .default({}),
    })
    .default({
      country: '',
      state: '',
      postcode: '',
      way: '',
      codes: [],
      vouchers: [],
      wall: '2000-01-01T00:00',
      uses: {},
    }),
});

export const basketSchema = (): unknown => z.toJSONSchema(basketFile, { io: 'input' });

/** Works out a basket that came as data. @returns the sum, or what is wrong with the file and where. */
export function priceFile(data: unknown): Result<WorkedSum> {
  const parsed = basketFile.safeParse(data);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return fail(`${issue?.path.join('.') || 'the basket'}: ${issue?.message ?? 'cannot be read'}`);
  }
  const {
    currency,
    locale,
    lines,
    rules,
    buyer: { country, state, postcode, ...buyer },
  } = parsed.data;
  const asked: Asked = {
    currency,
    locale,
    rules,
    buyer: { ...buyer, place: { country, state, postcode } },
    lines: lines.map(({ price, id, giftVoucher, ...l }, n) => ({
      ...l,
      ...(giftVoucher && { voucher: { months: null } }),
      id: idOfLine(id, n),
      variantId: '',
      slug: '',
      particulars: [],
      unit: price,
      available: null,
    })),
  };
  try {
    return ok(workOut(asked));
  } catch (error) {
    // Each price fits; what they come to does not.
    if (error instanceof AmountTooLarge) return fail(error.message);
    throw error;
  }
}
