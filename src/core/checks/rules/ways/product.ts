import { go, onPage, openBench, ownPages, type Rule } from '../../rule';
import { waysIn } from '../../ways/ways';
import { isVisited, sellsHere } from '../../ways/has';

/** A page from which no link, and no link of what it links to, ever comes to something that can be bought. */
export const noWayToProduct: Rule = {
  name: 'way-to-product',
  about: 'A page from which no row of links ever leads to something that can be bought.',
  weight: 'sale',
  reads: ['pages'],
  *find(s) {
    if (!s.sells) return;
    const ways = waysIn(s);
    if (!s.pages.some(sellsHere)) {
      yield {
        about: 'nowhere',
        place: { on: 'site', name: s.site.name },
        title: 'Nothing that can be bought stands on any page',
        meets: 'They find a cart, and nothing to put into it.',
        mends: [go('Open the pages', 'site', {}, 'Place a product, or let “Add selling” build the shop.')],
      };
      return;
    }
    for (const p of ownPages(s))
      if (isVisited(p) && ways.toProduct(p.path) === undefined)
        yield {
          about: p.path,
          place: onPage(p),
          title: 'No way to anything that is sold',
          meets: `Whoever comes to “${p.name}” from a search engine leaves without having seen a product.`,
          mends: [
            openBench(p.path, 'Place a product, a row or a button here, or link the page to one that sells.'),
          ],
        };
  },
};
