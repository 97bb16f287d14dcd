import { expect, it } from 'vitest';
import { settingsIndex } from './settings-index';

/** Whether "Find or do" leads somewhere for a word: in a name, or among what people call it. */
const found = (word: string): string[] =>
  settingsIndex
    .filter((s) => [s.name, ...s.words].some((text) => text.toLowerCase().includes(word)))
    .map((s) => `${s.place}${s.at}`);

it('finds settings by the words that people have for them', () => {
  for (const [word, at] of [
    ['thank', 'till?checkout'],
    ['currency', 'till?basics'],
    ['colour', 'look'],
    ['color', 'look'],
    ['way to pay', 'till?pay'],
    ['vat', 'till?tax'],
    ['postage', 'till?shipping'],
    ['coupon', 'till?discounts'],
    ['terms', 'till?checkout'],
    ['email', 'till?letters'],
    ['slug', 'site?lens=menus'],
    ['test mode', 'till?pay'],
    ['uninstall', 'site?lens=publishing'],
  ] as const)
    expect([word, found(word)]).toEqual([word, expect.arrayContaining([at])]);
});
