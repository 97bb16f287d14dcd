import { go, onPage, type Rule } from '../../rule';

/** The site marks where a visitor is; on the shop's page nothing is marked. */
export const shopNotCurrent: Rule = {
  name: 'shop-not-current',
  about:
    "The shop's item is not marked in the menu of the shop's page, though the site marks the item of every other page.",
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    if (!s.site.marksCurrent) return;
    const shop = s.pages.find((p) => p.part === 'shop');
    const item = shop?.menu?.flatMap((i) => [i, ...i.children]).find((i) => i.page === shop.path);
    if (!shop || !item || item.current) return;
    yield {
      about: 'shop',
      place: onPage(shop),
      title: `“${item.label}” is not marked as the page one is on`,
      meets: 'The menu marks every page but the shop: it looks as if it belonged to somebody else.',
      mends: [
        go(
          'Open the menus',
          'site',
          { lens: 'menus' },
          'Take the item out and put it in once more; the mark comes with it.',
        ),
      ],
    };
  },
};
