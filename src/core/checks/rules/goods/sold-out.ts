import type { Product } from '../../../goods/product';
import type { Found } from '../../finding';
import { count, onGoods, openGoods, type Rule } from '../../rule';
import type { Subject } from '../../subject';

/** On sale, and nothing of it to be had. */
export const soldOut: Rule = {
  name: 'sold-out',
  about: 'A product on sale with every choice at nought, or with one choice that nobody counted.',
  weight: 'away',
  reads: ['goods', 'pages'],
  *find(s) {
    for (const p of s.goods.shown) {
      const counted = p.variants.filter((v) => v.stock !== null);
      const none = counted.length === p.variants.length && counted.every((v) => (v.stock ?? 0) <= 0);
      if (none && p.stockRule.whenOut === 'refuse') yield allOut(s, p);
      else if (counted.length > 0 && counted.length < p.variants.length) yield oneForgotten(p);
    }
  },
};

function allOut(s: Subject, p: Product): Found {
  const pages = s.pages.filter((x) => x.widgets.some((w) => w.settings?.goods === p.slug)).length;
  return {
    about: p.id,
    place: onGoods(p),
    title: p.variants.length > 1 ? `Every one of ${count(p.variants.length, 'choice')} at 0` : 'None is left',
    meets: `They read “sold out”${pages ? ` on ${count(pages, 'page')}` : ' in the shop'}, and there is no word of when it comes back.`,
    mends: [
      openGoods(p, 'Enter how many there are.', 'Enter stock'),
      {
        do: 'goods',
        label: 'Sell on all the same',
        id: p.id,
        set: { stockRule: { ...p.stockRule, whenOut: 'sell-on' } },
      },
      { do: 'goods', label: 'Hide it', id: p.id, set: { shows: 'hidden' } },
    ],
  };
}

function oneForgotten(p: Product): Found {
  const free = p.variants.filter((v) => v.stock === null).map((v) => v.values.join(' '));
  return {
    about: `${p.id} uncounted`,
    place: onGoods(p),
    title: `${free.slice(0, 3).join(', ')} ${free.length === 1 ? 'is' : 'are'} not counted, the others are`,
    meets: 'It is never sold out, whether there is any or not.',
    weight: 'untidy',
    mends: [openGoods(p, 'Enter how many there are of it, or count none.', 'Enter stock')],
  };
}
