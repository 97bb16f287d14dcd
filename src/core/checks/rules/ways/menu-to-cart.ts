import type { MenuItem } from '../../../site/menu';
import type { Rule } from '../../rule';
import { count } from '../../rule';

/** What shops are called in menus, in the languages of the sites; common practice. */
const shopWords =
  /^(?:the |our |online[ -]?|web)?(?:shop|store|laden|onlineshop|boutique|magasin|tienda|negozio|bottega|winkel|webwinkel|butik|butikk|sklep|obchod|kauppa|loja)$/i;

/** A menu item that says shop and leads to the cart. */
export const menuLeadsToCart: Rule = {
  name: 'menu-to-cart',
  about: 'A menu item that says shop and leads to the cart.',
  weight: 'two',
  reads: ['pages'],
  *find(s) {
    const cart = s.shopPages.find((p) => p.part === 'cart')?.path;
    const shop = s.shopPages.find((p) => p.part === 'shop');
    if (!cart) return;
    const met = new Map<string, { labels: string[]; pages: string[] }>();
    for (const p of s.pages)
      for (const [item, path] of itemsIn(p.menu ?? [])) {
        if (
          item.page !== cart ||
          !(shopWords.test(item.label.trim()) || item.label.trim() === s.site.shopName)
        )
          continue;
        const known = met.get(path.join(' > ')) ?? { labels: path, pages: [] };
        known.pages.push(p.path);
        met.set(path.join(' > '), known);
      }
    for (const [name, { labels, pages }] of met) {
      const label = labels.at(-1) ?? name;
      yield {
        about: name,
        place: { on: 'page', page: pages[0] ?? '', name: 'Menu' },
        title: `“${label}” in the menu leads to the cart`,
        meets: `Who presses “${label}” on ${count(pages.length, 'page')} to look around stands before an empty cart.`,
        mends: shop
          ? [
              {
                do: 'menu',
                label: 'Lead it to the shop',
                changes: [
                  { do: 'remove', item: [...labels] },
                  { do: 'add', label, to: shop.address, at: { under: labels.slice(0, -1) } },
                ],
              },
            ]
          : [
              {
                do: 'menu',
                label: 'Call it Cart',
                changes: [{ do: 'rename', item: [...labels], label: 'Cart' }],
              },
            ],
      };
    }
  },
};

function* itemsIn(
  items: readonly MenuItem[],
  above: readonly string[] = [],
): Generator<[MenuItem, string[]]> {
  for (const item of items) {
    const path = [...above, item.label];
    yield [item, path];
    yield* itemsIn(item.children, path);
  }
}
