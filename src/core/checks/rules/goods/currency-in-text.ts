import { onPage, openTill, ownPages, type Rule } from '../../rule';
import { isPriceNow, NameIndex, speaksOf } from '../../prices/speaks-of';
import type { Subject } from '../../subject';
import type { PriceText, WrittenPage } from '../../written/facts';

/** The texts of the site give prices of the goods in one currency, the shop charges another. */
export const currencyInText: Rule = {
  name: 'currency-in-text',
  about: 'Prices of goods in the texts of the site in another currency than the shop charges.',
  weight: 'two',
  reads: ['pages', 'goods'],
  *find(s) {
    const names = new NameIndex(s.goods.shown);
    const met = new Map<string, { page: WrittenPage; price: PriceText; n: number }>();
    for (const [page, price] of inOther(s, names)) {
      const known = met.get(price.mention.currency);
      met.set(price.mention.currency, known ? { ...known, n: known.n + 1 } : { page, price, n: 1 });
    }
    for (const [currency, { page, price, n }] of met)
      yield {
        about: currency,
        place: onPage(page, price),
        title: `The texts say ${currency}, the shop charges ${s.site.currency}`,
        meets: `They read ${price.mention.text} and find another currency in the cart${n > 1 ? `; ${n} prices say so` : ''}.`,
        mends: [
          openTill(
            'basics',
            'Open basics',
            `Choose ${currency} as the currency of the shop, or write the prices of the pages anew.`,
          ),
        ],
      };
  },
};

/** Prices of goods that are written in another currency. */
function* inOther(s: Subject, names: NameIndex): Generator<[WrittenPage, PriceText]> {
  for (const page of ownPages(s))
    for (const price of page.prices) {
      const { currency } = price.mention;
      if (!currency || currency === s.site.currency || !isPriceNow(price)) continue;
      if (speaksOf(price, names, page.prices)) yield [page, price];
    }
}
