import type { Rule } from '../../rule';
import { onPage, ownPages } from '../../rule';
import { hasCart, isVisited } from '../../ways/has';

/** A page that shoppers come to, and no way on it to what they put into the cart. */
export const noWayToCart: Rule = {
  name: 'way-to-cart',
  about: 'A page from which nobody gets to the cart: no cart, no link to it.',
  weight: 'sale',
  reads: ['pages'],
  *find(s) {
    if (!s.sells) return;
    for (const p of ownPages(s))
      if (isVisited(p) && !hasCart(p, s))
        yield {
          about: p.path,
          place: onPage(p),
          title: 'No way to the cart',
          meets: `A reader of “${p.name}” who wants to pay has to find another page first.`,
          mends: [{ do: 'cart', label: 'Put the cart there', pages: [p.path] }],
        };
  },
};
