import { z } from 'zod';

/**
 * The letters a shop writes. Which words stand in each is the owner's; which figures can be put among them is said here, so that
 * a wrong name is told while it is typed and not to a buyer.
 */
export const letterKinds = [
  'confirmation',
  'paid',
  'sent',
  'refund',
  'files',
  'reminder',
  'review',
  'left-behind',
  'to-owner',
] as const;
export type LetterKind = (typeof letterKinds)[number];

/** What can stand in braces in every letter about an order. */
const always = ['shop', 'buyer', 'number', 'day', 'goods', 'total', 'order'] as const;

interface KindFacts {
  readonly fields: readonly string[];
  /** Sent as long as the owner has said nothing. */
  readonly usual: boolean;
  /** Days before or after what it is about; null where it goes out at once. */
  readonly days: number | null;
}

export const letterFacts: Readonly<Record<LetterKind, KindFacts>> = {
  confirmation: {
    fields: [...always, 'pay', 'way', 'address', 'note', 'vouchers', 'files'],
    usual: true,
    days: null,
  },
  paid: { fields: [...always, 'files', 'vouchers'], usual: true, days: null },
  sent: { fields: [...always, 'tracking', 'address'], usual: true, days: null },
  refund: { fields: [...always, 'amount', 'back', 'reason'], usual: true, days: null },
  files: { fields: [...always, 'files'], usual: false, days: null },
  reminder: { fields: [...always, 'event', 'when', 'where'], usual: true, days: 2 },
  review: { fields: [...always, 'review'], usual: false, days: 14 },
  'left-behind': { fields: ['shop', 'buyer', 'goods', 'total', 'cart'], usual: false, days: 1 },
  'to-owner': { fields: [...always, 'pay', 'way', 'address', 'note', 'email'], usual: true, days: null },
};

const own = z.object({
  on: z.boolean(),
  /** '' where the usual words stand. */
  subject: z.string().trim().max(200).default(''),
  text: z.string().trim().max(8_000).default(''),
  days: z.number('Enter a number of days.').int('Enter whole days.').min(0).max(120).nullable().default(null),
});
export type OwnLetter = z.output<typeof own>;

export const letterRules = z.partialRecord(z.enum(letterKinds), own);
export type LetterRules = z.output<typeof letterRules>;

/** Names in braces that a letter does not know. */
export const unknownFields = (kind: LetterKind, text: string): string[] =>
  [...new Set([...text.matchAll(/\{(\w*)\}/g)].map((m) => m[1] ?? ''))].filter(
    (name) => !letterFacts[kind].fields.includes(name),
  );

/** What is wrong with letters, in words. */
export function letterFaults(rules: LetterRules): string[] {
  return letterKinds.flatMap((kind) => {
    const unknown = rules[kind] ? unknownFields(kind, `${rules[kind].subject} ${rules[kind].text}`) : [];
    return unknown.map(
      (name) =>
        `The letter “${kind}” does not know {${name}}. It knows ${letterFacts[kind].fields.map((f) => `{${f}}`).join(', ')}.`,
    );
  });
}
