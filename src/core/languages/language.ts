import type { LetterKind } from '../letters/kinds';
import type * as papers from './en/papers';
import type * as shop from './en/shop';
import type { Plural } from './plural';

/** The same keys in every language: a text, or a text with a number in its forms. English says which keys there are. */
type Catalogue<T> = { readonly [K in keyof T]: T[K] extends string ? string : Plural };

/** What widgets say; `{n}` and `{x}` are filled in. */
export type Words = Catalogue<typeof shop.widgets>;
/** What is said from the cart to the order, and about orders. */
export type StepWords = Catalogue<typeof shop.steps>;
/** What invoices, credit notes and packing slips say. */
export type PaperWords = Catalogue<typeof papers.papers>;
/** The usual words of letters. */
export type LetterWords = Readonly<Record<LetterKind, { readonly subject: string; readonly text: string }>>;

/** Keys of texts that have no number in them. */
export type StepText = {
  [K in keyof StepWords]: StepWords[K] extends string ? K : never;
}[keyof StepWords];

/** All that a shop says in one language: a folder of its own, and one line in languages.ts. */
export interface Language {
  readonly widgets: Words;
  readonly steps: StepWords;
  readonly letters: LetterWords;
  readonly papers: PaperWords;
}
