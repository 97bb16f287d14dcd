import { onGoods, onPage, openBench, openGoods, ownPages, type Rule } from '../../rule';
import { leftoversIn } from '../../written/leftovers';

/** A text that came with a template, and was to be written over. */
export const placeholderText: Rule = {
  name: 'placeholder-text',
  about: 'A text that only held a place ("Lorem ipsum", "[your text here]") on a page or in the goods.',
  many: 'texts that only hold a place',
  weight: 'broken',
  reads: ['pages', 'goods'],
  *find(s) {
    for (const p of ownPages(s))
      for (const l of p.leftovers)
        if (l.is === 'placeholder')
          yield {
            about: `${p.path} ${l.text}`,
            place: onPage(p, l),
            title: `“${l.text.slice(0, 40)}” stands there`,
            meets: 'They see that nobody looked at this page, and do not pay here.',
            weight: 'untidy',
            mends: [openBench(p.path, `Line ${l.line} of ${p.path}: write your own text.`)],
          };
    for (const g of s.goods.shown) {
      const [left] = leftoversIn(`${g.plain} ${g.name}`).filter((l) => l.is === 'placeholder');
      if (left)
        yield {
          about: g.id,
          place: onGoods(g),
          title: `Its description says “${left.text.slice(0, 40)}”`,
          meets: 'They see that nobody looked at this product.',
          mends: [openGoods(g, 'Write what it is.', 'Write the description')],
        };
    }
  },
};
