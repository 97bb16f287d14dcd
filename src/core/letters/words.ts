import type { LetterKind } from './kinds';
import { de } from './words/de';
import { en } from './words/en';
import { fr } from './words/fr';

export type LetterWords = Readonly<Record<LetterKind, { readonly subject: string; readonly text: string }>>;

const written: Readonly<Record<string, LetterWords>> = { en, de, fr };

/** The usual words of letters, in the language of a tag; English where there are none. */
export const lettersIn = (lang: string): LetterWords => written[lang.slice(0, 2).toLowerCase()] ?? en;
