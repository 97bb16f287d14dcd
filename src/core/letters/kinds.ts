import { namesOf } from '../entries';
import { z } from 'zod';

/** What can stand in braces in every letter about an order. */
const always = ['shop', 'buyer', 'number', 'day', 'goods', 'total', 'order'] as const;

interface KindFacts {
  /** As the owner finds it in the till, and when it is sent. */
  readonly name: string;
  readonly when: string;
  readonly fields: readonly string[];
  /** Sent as long as the owner has said nothing. */
  readonly usual: boolean;
  /** Days before or after what it is about; null where it goes out at once. */
  readonly days: number | null;
}

/**
 * The letters a shop writes: one entry to each, and its usual words in every language (core/languages/). Which words stand in it is
 * the owner's; which figures can be put among them is said here, so that a wrong name is told while it is typed and not to a buyer.
 */
export const letterTable = {
  confirmation: {
    name: 'The order',
    when: 'when somebody has ordered',
    fields: [...always, 'pay', 'way', 'address', 'note', 'vouchers', 'files'],
    usual: true,
    days: null,
  },
  paid: {
    name: 'The payment',
    when: 'when you mark an order as paid',
    fields: [...always, 'files', 'vouchers'],
    usual: true,
    days: null,
  },
  sent: {
    name: 'On its way',
    when: 'when you mark it as sent',
    fields: [...always, 'tracking', 'address'],
    usual: true,
    days: null,
  },
  refund: {
    name: 'Refund',
    when: 'when money is refunded',
    fields: [...always, 'amount', 'back', 'reason'],
    usual: true,
    days: null,
  },
  files: {
    name: 'The files',
    when: 'beside the order’s letter',
    fields: [...always, 'files'],
    usual: false,
    days: null,
  },
  reminder: {
    name: 'The date',
    when: 'before a workshop, with an entry for the calendar',
    fields: [...always, 'event', 'when', 'where'],
    usual: true,
    days: 2,
  },
  review: {
    name: 'Asks for a review',
    when: 'a while after it was sent',
    fields: [...always, 'review'],
    usual: false,
    days: 14,
  },
  'left-behind': {
    name: 'Left in the cart',
    when: 'only to those who ticked that they want it',
    fields: ['shop', 'buyer', 'goods', 'total', 'cart'],
    usual: false,
    days: 1,
  },
  'to-owner': {
    name: 'To you',
    when: 'for each new order',
    fields: [...always, 'pay', 'way', 'address', 'note', 'email'],
    usual: true,
    days: null,
  },
} as const satisfies Readonly<Record<string, KindFacts>>;

export type LetterKind = keyof typeof letterTable;
export const letterKinds = namesOf(letterTable);
/** Whether a name, as it is kept with a letter, is that of a kind there is. */
export const isLetterKind = (name: string): name is LetterKind => letterKinds.some((known) => known === name);
export const letterFacts: Readonly<Record<LetterKind, KindFacts>> = letterTable;

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
