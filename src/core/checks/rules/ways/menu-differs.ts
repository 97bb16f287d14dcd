import { go, onPage, ownPages, type Rule } from '../../rule';

/** The menu of a page stayed without what the menus of the others got. */
export const menuDiffers: Rule = {
  name: 'menu-differs',
  about: 'A page whose menu lacks what Green Stall put into the menus of the others.',
  weight: 'away',
  reads: ['pages'],
  *find(s) {
    if (s.menu.length === 0) return;
    for (const p of ownPages(s))
      if (p.menuProblem && p.menu)
        yield {
          about: p.path,
          place: onPage(p),
          title: 'Its menu is another than that of the other pages',
          meets: `On “${p.name}” the menu stayed as it was: ${p.menuProblem}.`,
          facts: p.menuProblem,
          mends: [
            go(
              'Open the menus',
              'site',
              { lens: 'menus' },
              'Change the menu so that it fits this page, too, or give the page the menu of the others in your own file.',
            ),
          ],
        };
  },
};
