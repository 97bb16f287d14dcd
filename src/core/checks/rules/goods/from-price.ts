import { priceFrom, priceNow } from '../../../goods/price';
import { formatMoney } from '../../../money/format';
import { onGoods, openGoods, type Rule } from '../../rule';

/** "From £12" and nothing for £12 to be had. */
export const fromPrice: Rule = {
  name: 'from-price',
  about: 'A "from" price that nobody can pay, because the cheapest choice is sold out.',
  weight: 'two',
  reads: ['goods'],
  *find(s) {
    for (const p of s.goods.shown) {
      const { least, differs } = priceFrom(p, s.now);
      if (!differs || p.stockRule.whenOut !== 'refuse') continue;
      const there = p.variants.filter((v) => v.stock === null || v.stock > 0);
      if (there.length === 0) continue;
      const cheapest = Math.min(...there.map((v) => priceNow(p, v, s.now).price));
      if (cheapest <= least) continue;
      const money = (amount: number) => formatMoney({ amount, currency: s.site.currency }, s.site.locale);
      yield {
        about: p.id,
        place: onGoods(p),
        title: `From ${money(least)}, and nothing for less than ${money(cheapest)} is left`,
        meets: `They come for ${money(least)} and find that it is sold out.`,
        weight: 'away',
        mends: [openGoods(p, 'Enter stock for the cheapest choice, or take it out.', 'Enter stock')],
      };
    }
  },
};
