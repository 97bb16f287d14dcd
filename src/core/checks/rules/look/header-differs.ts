import { go, onPage, ownPages, type Rule } from '../../rule';

/** Pages of the shop have the header of a page that is not like most. */
export const headerDiffers: Rule = {
  name: 'header-differs',
  about: "The shop's pages have another header than most pages of the site.",
  weight: 'broken',
  reads: ['pages'],
  *find(s) {
    const chromes = new Map<number, number>();
    for (const p of ownPages(s)) chromes.set(p.chrome, (chromes.get(p.chrome) ?? 0) + 1);
    const [usual, alike = 0] = [...chromes].sort((a, b) => b[1] - a[1])[0] ?? [];
    const cart = s.pages.find((p) => p.part === 'cart');
    const model = ownPages(s).find((p) => p.chrome === cart?.chrome);
    if (!cart || !model || cart.chrome === usual || alike * 2 <= ownPages(s).length) return;
    yield {
      about: 'header',
      place: onPage(cart),
      title: `The shop has the header of “${model.name}”, ${alike} of ${ownPages(s).length} pages have another`,
      meets: 'On the way to the checkout the site seems to become another one.',
      mends: [
        go(
          'Open the pages',
          'site',
          {},
          'Mark header and menu on a usual page (the page, Regions): the shop is made like a page whose header is known for sure.',
        ),
      ],
    };
  },
};
