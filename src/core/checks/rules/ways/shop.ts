import type { Rule } from '../../rule';
import { openBench, onPage, ownPages } from '../../rule';
import { isVisited, leadsToShop, sellsHere } from '../../ways/has';

/** A page that neither sells nor leads to the shop. */
export const noWayToShop: Rule = {
  name: 'way-to-shop',
  about: 'A page that shows nothing to buy and has no link to the shop.',
  weight: 'away',
  reads: ['pages'],
  *find(s) {
    const shop = s.shopPages.find((p) => p.part === 'shop');
    if (!s.sells || !shop) return;
    const inMenus = s.pages.some((p) => p.links.some((l) => l.inMenu && l.to === shop.path));
    // Where no menu has it that is one finding, and not one to each page.
    if (!inMenus) return;
    for (const p of ownPages(s))
      if (isVisited(p) && !(p.menu && p.menuProblem) && !leadsToShop(p, s) && !sellsHere(p))
        yield {
          about: p.path,
          place: onPage(p),
          title: 'No way to the shop',
          meets: `A reader of “${p.name}” does not learn that something is sold here.`,
          mends: [
            openBench(
              p.path,
              'Place a button or a row of products on this page, or put the shop into its menu (Site, Menus).',
            ),
          ],
        };
  },
};
