import { count, onPage, openBench, type Rule } from '../../rule';

/** A widget that is meant for a page, and found no sure place there. */
export const pitchGone: Rule = {
  name: 'pitch-gone',
  about:
    'A widget or a mended spot that did not find its place on a page: what stood there has moved or gone.',
  weight: 'sale',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages)
      for (const l of p.lost) {
        const own = s.placements.get(l.id);
        const carts =
          own?.kind === 'cart' ? s.pages.filter((x) => x.lost.some((y) => y.id === l.id)).length : 0;
        yield {
          about: `${p.path} ${l.id}`,
          place: onPage(p),
          title: own
            ? `${named[own.kind] ?? 'A widget'} finds no place here`
            : 'A mend finds its spot no more',
          meets: own ? `On “${p.name}” it is left out: ${l.why}.` : `${l.why}.`,
          weight: own ? 'sale' : 'untidy',
          facts: [l.why, l.best, carts ? count(carts, 'page') : ''],
          mends: [
            ...(own && l.best
              ? [{ do: 'best-pitch' as const, label: `Put it ${l.best}`, placement: l.id, page: p.path }]
              : []),
            ...(own && own.reach.to === 'page'
              ? [{ do: 'take-away' as const, label: 'Take it away', placement: l.id }]
              : []),
            openBench(p.path, 'Choose a place for it on this page.'),
          ],
        };
      }
  },
};

const named: Readonly<Record<string, string>> = {
  cart: 'The cart',
  buy: 'A buy button',
  card: 'A product card',
  row: 'A row of products',
  shop: 'The shop front',
};
