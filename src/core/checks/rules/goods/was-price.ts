import { formatMoney } from '../../../money/format';
import { onGoods, openGoods, type Rule } from '../../rule';

/** A price before that was never asked of anybody. */
export const wasPrice: Rule = {
  name: 'was-price',
  about: 'A price before, struck through, that the product never had (Directive 98/6/EC, Article 6a).',
  weight: 'two',
  reads: ['goods'],
  *find(s) {
    for (const p of s.goods.shown) {
      const highest = s.goods.chargedBefore.get(p.id);
      if (p.was === null || highest === undefined || highest >= p.was) continue;
      const money = (amount: number) => formatMoney({ amount, currency: s.site.currency }, s.site.locale);
      yield {
        about: p.id,
        place: onGoods(p),
        title: `“Was ${money(p.was)}”, and it never cost more than ${money(highest)}`,
        meets: 'The shop shows a reduction that is none; the law of the EU forbids that.',
        mends: [
          { do: 'goods', label: 'Take the old price out', id: p.id, set: { was: null } },
          openGoods(p, 'Enter a price that it really had in the last thirty days.'),
        ],
      };
    }
  },
};
