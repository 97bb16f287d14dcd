import { go, type Rule } from '../../rule';

/** The shop has a page, and no menu leads there. */
export const shopInNoMenu: Rule = {
  name: 'shop-in-no-menu',
  about: 'The shop has a page of its own, and no menu of the site leads to it.',
  weight: 'sale',
  reads: ['pages'],
  *find(s) {
    const shop = s.shopPages.find((p) => p.part === 'shop');
    if (!shop) return;
    const own = s.pages.filter((p) => p.part === '');
    if (!own.some((p) => p.menu) || own.some((p) => p.links.some((l) => l.inMenu && l.to === shop.path)))
      return;
    yield {
      about: 'shop',
      place: { on: 'site', name: 'Menu' },
      title: 'The shop is in no menu',
      meets: `Nobody finds ${shop.address} who was not sent there.`,
      weight: own.some((p) => p.links.some((l) => l.to === shop.path)) ? 'away' : 'sale',
      mends: [
        {
          do: 'menu',
          label: 'Put it into the menu',
          changes: [{ do: 'add', label: s.site.shopName || 'Shop', to: shop.address, at: { under: [] } }],
        },
        go('Open the menus', 'site', { lens: 'menus' }, 'Put the shop where it belongs in your menu.'),
      ],
    };
  },
};
