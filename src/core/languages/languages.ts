import { de } from './de';
import { en } from './en';
import { fr } from './fr';
import type { Language, LetterWords, PaperWords, StepWords, Words } from './language';
import { formFor, type Plural } from './plural';

export type { StepText, StepWords, Words } from './language';

/**
 * What the shop says to shoppers, in the languages it speaks. A shop speaks its site's language; a widget
 * may be told another. Where a language is not among these, English stands.
 */
const spoken: Readonly<Record<string, Language>> = { en, de, fr };
export const languages = Object.keys(spoken);

/** The language of a tag: "de-AT" is German (BCP 47). */
const languageOf = (tag: string): Language => spoken[tag.slice(0, 2).toLowerCase()] ?? en;

export const wordsIn = (tag: string): Words => languageOf(tag).widgets;
export const stepWordsIn = (tag: string): StepWords => languageOf(tag).steps;
export const lettersIn = (tag: string): LetterWords => languageOf(tag).letters;
export const paperWordsIn = (tag: string): PaperWords => languageOf(tag).papers;

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
