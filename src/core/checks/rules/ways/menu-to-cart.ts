import type { MenuItem } from '../../../site/menu';
import type { Mend } from '../../finding';
import { count, type Rule } from '../../rule';
import type { Subject } from '../../subject';

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
    for (const [name, { item, pages }] of wrongItems(s)) {
      const label = item.at(-1) ?? name;
      yield {
        about: name,
        place: { on: 'page', page: pages[0] ?? '', name: 'Menu' },
        title: `“${label}” in the menu leads to the cart`,
        meets: `Who presses “${label}” on ${count(pages.length, 'page')} to look around stands before an empty cart.`,
        mends: [mendFor(s, item, label)],
      };
    }
  },
};

/** Items that say shop and lead to the cart, by their labels, with the pages they are on. */
function wrongItems(s: Subject): Map<string, { item: readonly string[]; pages: string[] }> {
  const cart = s.shopPages.find((p) => p.part === 'cart')?.path;
  const met = new Map<string, { item: readonly string[]; pages: string[] }>();
  for (const p of s.pages)
    for (const [item, labels] of itemsIn(p.menu ?? [])) {
      if (cart === undefined || item.page !== cart || !saysShop(s, item.label.trim())) continue;
      const key = labels.join(' > ');
      const known = met.get(key) ?? { item: labels, pages: [] };
      known.pages.push(p.path);
      met.set(key, known);
    }
  return met;
}

const saysShop = (s: Subject, label: string): boolean => shopWords.test(label) || label === s.site.shopName;

function mendFor(s: Subject, item: readonly string[], label: string): Mend {
  const shop = s.shopPages.find((p) => p.part === 'shop');
  if (!shop)
    return { do: 'menu', label: 'Call it Cart', changes: [{ do: 'rename', item: [...item], label: 'Cart' }] };
  return {
    do: 'menu',
    label: 'Lead it to the shop',
    changes: [
      { do: 'remove', item: [...item] },
      { do: 'add', label, to: shop.address, at: { under: item.slice(0, -1) } },
    ],
  };
}

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
