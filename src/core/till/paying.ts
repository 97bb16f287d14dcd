import { z } from 'zod';
import type { Goes } from './goes';
import { payKindOf, payKinds, providerNames, viaProvider } from './pay-kinds';

const amount = z.number().int().min(0).max(1_000_000_000_000).nullable().default(null);

const payWay = z.object({
  id: z.string().regex(/^[\w-]{1,40}$/),
  kind: z.enum(payKinds),
  name: z.string().trim().max(60).default(''),
  active: z.boolean().default(true),
  /** ISO 3166-1 alpha-2; none is everywhere. */
  countries: z
    .array(z.string().regex(/^[A-Z]{2}$/))
    .max(300)
    .default([]),
  /** Offered from and up to a total, both among it, in minor units. */
  least: amount,
  most: amount,
  /** What the buyer is told to do, in the owner's words. */
  words: z.string().trim().max(600).default(''),
  /** For transfers: ISO 13616, without blanks; '' where the words say it. */
  iban: z
    .string()
    .transform((s) => s.replace(/\s/g, '').toUpperCase())
    .default(''),
});
export type PayWay = z.output<typeof payWay>;

export const payRules = z.object({
  ways: z
    .array(payWay)
    .max(20)
    .default(() => providerNames.map((kind) => payWay.parse({ id: kind, kind }))),
  /** Trying things out: orders are marked, and nobody is charged. */
  test: z.boolean().default(false),
});
export type PayRules = z.output<typeof payRules>;

export interface PayFacts {
  readonly country: string;
  readonly total: number;
  readonly goes: Goes;
  /** Something is charged again: only a card can be. */
  readonly again: boolean;
  /** Providers that are set up. */
  readonly connected: readonly string[];
}

/** Why a way is not offered; for the owner. */
export type NotOffered =
  | 'off'
  | 'no-account'
  | 'not-connected'
  | 'country'
  | 'amount'
  | 'again'
  | 'nothing-sent'
  | 'not-collected';

/** Whether buyers are told where a transfer goes: by an IBAN, or by words with a number as long as accounts have. */
export const tellsAccount = (way: PayWay): boolean =>
  !payKindOf(way.kind).account || way.iban !== '' || /\d(?:[ .-]?\d){4,}/.test(way.words);

export function whyNot(way: PayWay, f: PayFacts): NotOffered | null {
  if (!way.active) return 'off';
  if (!tellsAccount(way)) return 'no-account';
  if (viaProvider(way.kind) && !f.connected.includes(way.kind)) return 'not-connected';
  if (f.country && way.countries.length > 0 && !way.countries.includes(f.country)) return 'country';
  if (!isBetween(f.total, way)) return 'amount';
  const { again, goes } = payKindOf(way.kind);
  if (f.again && !again) return 'again';
  if (!goes || goes.includes(f.goes)) return null;
  return goes.includes('post') ? 'nothing-sent' : 'not-collected';
}

const isBetween = (total: number, { least, most }: Pick<PayWay, 'least' | 'most'>): boolean =>
  (least === null || total >= least) && (most === null || total <= most);

/** Ways to pay that a buyer is offered, in the owner's order. */
export const offeredWays = (rules: PayRules, f: PayFacts): PayWay[] =>
  rules.ways.filter((w) => whyNot(w, f) === null);
