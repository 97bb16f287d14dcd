import type { Placement } from '../../../placement/placement';
import type { Found, Mend } from '../../finding';
import { each, onPage, openBench, type Rule } from '../../rule';
import { hasCart } from '../../ways/has';
import type { LostWidget, WrittenPage } from '../../written/facts';

/** A widget that is meant for a page, and found no sure place there. */
export const pitchGone: Rule = {
  name: 'pitch-gone',
  about:
    'A widget or a mended spot that did not find its place on a page: what stood there has moved or gone.',
  weight: 'sale',
  reads: ['pages'],
  *find(s) {
    for (const [p, lost] of each(s.pages, (page) => page.lost)) {
      const own = s.placements.get(lost.id);
      // That there is no cart at all is told by another rule, with its mend.
      if (own?.kind === 'cart' && !hasCart(p, s)) continue;
      yield own ? widgetLost(p, lost, own) : spotLost(p, lost);
    }
  },
};

const widgetLost = (p: WrittenPage, { id, why, best }: LostWidget, own: Placement): Found => ({
  about: `${p.path} ${id}`,
  place: onPage(p),
  title: `${named[own.kind] ?? 'A widget'} finds no place here`,
  meets: `On “${p.name}” it is left out: ${why}.`,
  facts: [why, best],
  mends: [
    ...(best
      ? [{ do: 'best-pitch', label: `Put it ${best}`, placement: id, page: p.path } satisfies Mend]
      : []),
    ...(own.reach.to === 'page'
      ? [{ do: 'take-away', label: 'Take it away', placement: id } satisfies Mend]
      : []),
    openBench(p.path, 'Choose a place for it on this page.'),
  ],
});

const spotLost = (p: WrittenPage, { id, why }: LostWidget): Found => ({
  about: `${p.path} ${id}`,
  place: onPage(p),
  title: 'A mend finds its spot no more',
  meets: `${why}.`,
  weight: 'untidy',
  mends: [openBench(p.path, 'Undo the mend on the slip: the page was changed since.')],
});

const named: Readonly<Record<string, string>> = {
  cart: 'The cart',
  buy: 'A buy button',
  card: 'A product card',
  row: 'A row of products',
  shop: 'The shop front',
};
