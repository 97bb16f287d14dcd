import { canonical } from '../../../json';
import { onPage, openBench, type Rule, takeAway } from '../../rule';
import type { WrittenPage, WrittenWidget } from '../../written/facts';

/** The very same widget twice in one part of a page. */
export const sameTwice: Rule = {
  name: 'same-twice',
  about: 'The very same widget twice in one part of a page, or two carts in one header.',
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages)
      for (const [key, w] of repeated(p))
        yield {
          about: `${p.path} ${key}`,
          place: onPage(p, w),
          title: w.kind === 'cart' ? 'Two carts in one place' : 'The same widget stands there twice',
          meets: 'They see it twice and wonder which of the two counts.',
          mends: [...takeAway(s, w.placement, 'Take one away'), openBench(p.path, 'Take one of them away.')],
        };
  },
};

/** Kinds that may well stand twice: words of the owner's, a price in a sentence. */
const mayRepeat = new Set(['notice', 'price']);

function* repeated(p: WrittenPage): Generator<[string, WrittenWidget]> {
  const met = new Set<string>();
  for (const w of p.widgets) {
    if (!w.settings || mayRepeat.has(w.kind)) continue;
    const key = w.kind === 'cart' ? `cart ${w.region}` : canonical([w.kind, w.settings, w.region]);
    if (met.has(key)) yield [key, w];
    met.add(key);
  }
}
