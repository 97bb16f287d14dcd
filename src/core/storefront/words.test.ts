import { describe, expect, it } from 'vitest';
import { fill, languages, stepWordsIn, wordsIn } from './words';

describe('the words of the shop', () => {
  it('fill the same gaps in every language', () => {
    const gaps = (text: string) => [...text.matchAll(/\{[nx]\}/g)].map(String).sort();
    for (const lang of languages) {
      for (const of of [wordsIn, stepWordsIn] as const) {
        const en = of('en') as Record<string, string>;
        for (const [key, text] of Object.entries(of(lang))) {
          expect(text.trim(), `${lang} ${key}`).not.toBe('');
          // A count may be left out where the language says it otherwise, never a name or an amount.
          expect(
            gaps(text).filter((g) => g === '{x}'),
            `${lang} ${key}`,
          ).toEqual(gaps(en[key] ?? '').filter((g) => g === '{x}'));
          expect(gaps(en[key] ?? ''), `${lang} ${key}`).toEqual(expect.arrayContaining(gaps(text)));
        }
      }
    }
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
