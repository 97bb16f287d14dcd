import { canonical } from '../../../json';
import { onPage, openBench, type Rule } from '../../rule';

/** The very same widget twice in one part of a page. */
export const sameTwice: Rule = {
  name: 'same-twice',
  about: 'The very same widget twice in one part of a page, or two carts in one header.',
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages) {
      const met = new Map<string, string>();
      for (const w of p.widgets) {
        if (!w.settings || w.kind === 'notice' || w.kind === 'price') continue;
        const key = w.kind === 'cart' ? `cart ${w.region}` : canonical([w.kind, w.settings, w.region]);
        if (!met.has(key)) {
          met.set(key, w.placement);
          continue;
        }
        yield {
          about: `${p.path} ${key}`,
          place: onPage(p, w),
          title: w.kind === 'cart' ? 'Two carts in one place' : 'The same widget stands there twice',
          meets: 'They see it twice and wonder which of the two counts.',
          mends: [
            ...(s.placements.has(w.placement)
              ? [{ do: 'take-away' as const, label: 'Take one away', placement: w.placement }]
              : []),
            openBench(p.path, 'Take one of them away.'),
          ],
        };
      }
    }
  },
};
