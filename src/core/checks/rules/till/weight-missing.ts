import { goodsKinds } from '../../../goods/kinds';
import { count, list, onGoods, openGoods, type Rule } from '../../rule';

export const weightMissing: Rule = {
  name: 'weight-missing',
  about: 'Shipping goes by weight, and a product that is sent has none.',
  weight: 'away',
  reads: ['till', 'goods'],
  *find(s) {
    const byWeight = s.till.rules.shipping.regions.some((r) => r.ways.some((w) => w.by === 'weight'));
    if (!byWeight) return;
    for (const p of s.goods.shown) {
      if (!goodsKinds[p.kind].ships || p.kind === 'link' || p.kind === 'bundle') continue;
      const without = p.variants.filter((v) => v.weight === null);
      if (without.length === 0) continue;
      yield {
        about: p.id,
        place: onGoods(p),
        title:
          without.length === p.variants.length
            ? 'It has no weight, and shipping goes by weight'
            : `${count(without.length, 'choice')} without a weight: ${list(without.map((v) => v.values.join(' ')))}`,
        meets: 'It is sent for the price of an empty parcel, and you pay the rest.',
        mends: [openGoods(p, 'Enter what it weighs with its packing.', 'Enter the weight')],
      };
    }
  },
};
