import { describe, expect, it } from 'vitest';
import { labelledPrices, readLabelled } from '../../../../bench/labels/prices';
import { priceMentions } from '../../money/mention';
import { isPriceNow, NameIndex, speaksOf } from './speaks-of';

const amounts = (text: string, currency: string) =>
  priceMentions(text, currency).map((m) => [m.text, m.amount, m.currency]);

describe('prices in texts', () => {
  it('reads amounts as the languages write them', () => {
    expect(amounts('£39, £ 1,299.00 and 12 pounds', 'GBP')).toEqual([
      ['£39', 3900, 'GBP'],
      ['£ 1,299.00', 129900, 'GBP'],
      ['12 pounds', 1200, 'GBP'],
    ]);
    expect(amounts('1.299,00 €, 45,– € und 5,2 Euro', 'EUR').map((a) => a[1])).toEqual([129900, 4500, 520]);
    expect(amounts("CHF 1'299.00; Fr. 39.50", 'CHF').map((a) => a[1])).toEqual([129900, 3950]);
    expect(amounts('1 200 €', 'EUR')).toEqual([['1 200 €', 120000, 'EUR']]);
    expect(amounts('¥3,900', 'JPY')).toEqual([['¥3,900', 3900, 'JPY']]);
    expect(amounts('249 kr', 'SEK')).toEqual([['249 kr', 24900, 'SEK']]);
  });

  it('takes the shop’s own currency for a sign that several share', () => {
    expect(amounts('$12', 'AUD')).toEqual([['$12', 1200, 'AUD']]);
    expect(amounts('$12', 'EUR')).toEqual([['$12', 1200, '']]);
  });

  it('comes to the end of any text: figures without end are no reason to begin anew at each', () => {
    for (const piece of ['111 ', '1.111', '1 € ', 'EUR 1 ', '111', '€'])
      expect(priceMentions(piece.repeat(40_000), 'EUR').length).toBeGreaterThanOrEqual(0);
    expect(amounts('1 234 567 kr', 'SEK')).toEqual([['1 234 567 kr', 123_456_700, 'SEK']]);
  });

  it('takes no number for money that is none', () => {
    for (const text of ['12 eggs', 'in 2019', '100 %', 'room 4.2', 'A4', '3 for 2', '£', 'EUR'])
      expect(amounts(text, 'GBP')).toEqual([]);
  });

  it('knows whose price it is: as good on the labelled texts as the bench says', () => {
    const judged = labelledPrices.flatMap((set) => set.texts.flatMap((text) => judgedIn(set, text)));
    const count = (is: string) => judged.filter((j) => j === is).length;
    expect(judged.length).toBeGreaterThanOrEqual(200);
    expect(count('right') / (count('right') + count('wrong'))).toBeGreaterThanOrEqual(0.99);
    expect(count('right') / (count('right') + count('missed'))).toBeGreaterThanOrEqual(0.95);
  });
});

/** How each mark of a text fares. */
function judgedIn(set: (typeof labelledPrices)[number], text: string): ('right' | 'wrong' | 'missed')[] {
  const names = new NameIndex(Object.entries(set.goods).map(([slug, name]) => ({ slug, name })) as never);
  const { blocks, mentions } = readLabelled(text);
  const found = blocks.flatMap((block, n) =>
    priceMentions(block, set.currency).map((mention) => ({
      region: 'main' as const,
      block: String(n),
      line: 1,
      mention,
      text: block,
      before: ['', ...blocks.slice(Math.max(0, n - 4), n)],
      after: '',
    })),
  );
  const bare = (t: string) => t.replace(/\s/g, '');
  return mentions.map((label) => {
    const f = found.find((x) => x.block === String(label.block) && bare(x.mention.text) === bare(label.text));
    const slug = f && isPriceNow(f) ? speaksOf(f, names, found)?.slug : undefined;
    if (slug === label.goods) return 'right';
    return slug ? 'wrong' : 'missed';
  });
}
