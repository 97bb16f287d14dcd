import { go, onPage, ownPages, type Rule } from '../../rule';

/** The site shows where a visitor is; on the shop's page it does not. */
export const shopNotCurrent: Rule = {
  name: 'shop-not-current',
  about:
    "The shop's item is not marked in the menu of the shop's page, though the site marks the item of nearly every other page.",
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    const shop = s.pages.find((p) => p.part === 'shop');
    if (shop?.marksHere !== 'not at all') return;
    const own = ownPages(s).filter((p) => p.marksHere !== null);
    const marked = own.filter((p) => p.marksHere !== 'not at all');
    if (marked.length < 2 || marked.length * 2 <= own.length) return;
    const item = shop.menu?.flatMap((i) => [i, ...i.children]).find((i) => i.page === shop.path);
    const how = marked.filter((p) => p.marksHere === 'by no link').length * 2 > marked.length;
    yield {
      about: 'shop',
      place: onPage(shop),
      title: `“${item?.label ?? shop.name}” is not marked as the page one is on`,
      meets: `The menu marks ${marked.length} of your ${own.length} pages, and not the shop: it looks as if it belonged to somebody else.`,
      mends: [
        go(
          'Open the menus',
          'site',
          { lens: 'menus' },
          how
            ? 'Your menu shows the page one is on without a link. Give it a mark of its own (aria-current="page") on your pages; the shop takes it over.'
            : 'Take the item out and put it beside an item that is marked; the mark comes with it.',
        ),
      ],
    };
  },
};
