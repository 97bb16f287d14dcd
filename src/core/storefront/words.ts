import { formFor, type Plural } from './plural';
import type { PayKind } from '../till/paying';
import * as de from './words/de';
import * as en from './words/en';
import * as fr from './words/fr';

/**
 * What the shop says to shoppers, in the languages it speaks: one file to each. A shop speaks its site's language; a widget
 * may be told another. Where a language is not among these, English stands.
 */
export type { StepText, StepWords, Words } from './words/en';

const spoken: Readonly<Record<string, { readonly widgets: en.Words; readonly steps: en.StepWords }>> = {
  en,
  de,
  fr,
};
export const languages = Object.keys(spoken);

/** What widgets say in the language of a tag: "de-AT" is German. */
export const wordsIn = (lang: string): en.Words => (spoken[lang.slice(0, 2).toLowerCase()] ?? en).widgets;

/** What is said from the cart to the order, and about orders. */
export const stepWordsIn = (lang: string): en.StepWords =>
  (spoken[lang.slice(0, 2).toLowerCase()] ?? en).steps;

export const fill = (
  text: string,
  values: { readonly n?: number | string; readonly x?: number | string; readonly c?: string },
): string => text.replace(/\{([nxc])\}/g, (_, key: 'n' | 'x' | 'c') => String(values[key] ?? ''));

/** A text with a number in it, in the form that its language has for the number. */
export const count = (
  w: { readonly lang: string },
  text: Plural,
  n: number,
  values: { readonly x?: number | string } = {},
): string => fill(formFor(text, n, w.lang), { ...values, n });

const payWords = {
  card: 'payCard',
  wallet: 'payWallet',
  transfer: 'payTransfer',
  delivery: 'payDelivery',
  person: 'payPerson',
} as const satisfies Record<PayKind, keyof en.StepWords>;

/** How a way to pay is called: as the owner named it, or by its kind. */
export const payName = (way: { readonly kind: PayKind; readonly name: string }, w: en.StepWords): string =>
  way.name || w[payWords[way.kind]];
