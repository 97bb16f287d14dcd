import { describe, expect, it } from 'vitest';
import type { Plural } from './plural';
import { count, fill, languages, stepWordsIn, wordsIn } from './languages';

describe('the words of the shop', () => {
  it('fill the same gaps in every language and every form', () => {
    const gaps = (text: string) => [...text.matchAll(/\{[nx]\}/g)].map(String).sort();
    const formsOf = (text: string | Plural) => (typeof text === 'string' ? [text] : Object.values(text));
    for (const lang of languages) {
      for (const of of [wordsIn, stepWordsIn] as const) {
        const en: Readonly<Record<string, string | Plural>> = of('en');
        for (const [key, text] of Object.entries(of(lang))) {
          const [least = ''] = formsOf(en[key] ?? '').slice(-1);
          for (const form of formsOf(text)) {
            expect(form.trim(), `${lang} ${key}`).not.toBe('');
            // A count may be left out where the language says it otherwise, never a name or an amount.
            expect(
              gaps(form).filter((g) => g === '{x}'),
              `${lang} ${key}`,
            ).toEqual(gaps(least).filter((g) => g === '{x}'));
            expect(gaps(least), `${lang} ${key}`).toEqual(expect.arrayContaining(gaps(form)));
          }
        }
      }
    }
  });

  it('have every form that their language has (CLDR plural rules, as Intl has them)', () => {
    for (const lang of languages) {
      const forms = new Intl.PluralRules(lang).resolvedOptions().pluralCategories;
      for (const words of [wordsIn(lang), stepWordsIn(lang)])
        for (const [key, text] of Object.entries(words))
          if (typeof text !== 'string')
            // "many" of French is for millions, which nobody has in a cart.
            expect(Object.keys(text), `${lang} ${key}`).toEqual(
              expect.arrayContaining(forms.filter((f) => f !== 'many')),
            );
    }
    const en = wordsIn('en');
    expect([0, 1, 2].map((n) => count(en, en.pieces, n))).toEqual(['0 pieces', '1 piece', '2 pieces']);
    const fr = wordsIn('fr');
    expect([0, 1, 2].map((n) => count(fr, fr.pieces, n))).toEqual(['0 article', '1 article', '2 articles']);
  });

  it('are found by language tag (BCP 47), and English stands for what is not spoken', () => {
    expect(wordsIn('de-AT')).toBe(wordsIn('de'));
    expect(stepWordsIn('FR')).toBe(stepWordsIn('fr'));
    expect(stepWordsIn('cy')).toBe(stepWordsIn('en'));
    expect(wordsIn('')).toBe(wordsIn('en'));
  });

  it('say the whole obligation on the button', () => {
    // German law wants these words on it: § 312j (3) BGB.
    expect(fill(stepWordsIn('de').pay, { x: '5 €' })).toMatch(/^Zahlungspflichtig bestellen/);
  });
});
