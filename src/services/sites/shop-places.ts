import type { MenuChange } from '../../core/placement/menu-change';
import { addressOf, type PagePath, parsePath } from '../../core/site/paths';
import type { SiteReading } from '../../core/site/read-site';
import type { ShopAddress } from '../../core/site/set-up';
import { stepWordsIn, type StepText, wordsIn } from '../../core/languages/languages';
import { conflict } from '../errors';
import type { Site } from './site';

/** Where the shop's pages stand among the owner's. How they are built is another matter (shop-pages.ts). */

export type ShopPart = 'shop' | 'cart' | 'checkout' | 'thanks' | 'failed' | 'lookup' | 'account';

/** All of them; what the command line builds where a plan names none. */
export const shopParts: readonly ShopPart[] = [
  'shop',
  'cart',
  'checkout',
  'thanks',
  'failed',
  'lookup',
  'account',
];

interface ShopPageKind {
  readonly part: ShopPart;
  readonly name: string;
  /** Its heading, in the site's language. */
  readonly title: StepText;
  readonly file: string;
}

/** The pages without which nothing can be bought, in the order a shopper meets them. */
const shopPageKinds: readonly ShopPageKind[] = [
  { part: 'cart', name: 'Cart', title: 'yourCart', file: 'cart' },
  { part: 'checkout', name: 'Checkout', title: 'checkout', file: 'checkout' },
  { part: 'thanks', name: 'Thank you', title: 'thanks', file: 'thank-you' },
  { part: 'failed', name: 'Payment failed', title: 'notThrough', file: 'payment-failed' },
];

export interface ShopPage extends Omit<ShopPageKind, 'part' | 'title'> {
  readonly title: string;
  /** `moved`: an address the shop had before. `home`: the owner's front page, where the shop took its place. */
  readonly part: ShopPart | 'moved' | 'home';
  readonly path: PagePath;
  readonly address: string;
}

/** Where the shop's pages stand: in the site's own manner (folders or .html), never over a page the owner has. */
export function shopPagesOf(site: Pick<Site, 'manifest' | 'reading'>, shop: ShopAddress | null): ShopPage[] {
  const at = placer(site);
  const w = stepWordsIn(site.reading.lang);
  const steps = shopPageKinds.map(
    (kind): ShopPage => ({ ...kind, title: w[kind.title], ...at(kind.file, kind.name) }),
  );
  if (!shop) return steps;
  const front = site.reading.pages[0]?.path;
  const named = { name: shop.name, title: shop.name, file: shop.slug };
  const main: ShopPage =
    shop.front && front
      ? { part: 'shop', ...named, path: front, address: addressOf(front) }
      : { part: 'shop', ...named, ...at(shop.slug, shop.name) };
  const lookup: ShopPage = {
    part: 'lookup',
    name: 'Order lookup',
    title: wordsIn(site.reading.lang).lookUp,
    file: 'order-lookup',
    ...at('order-lookup', 'Order lookup'),
  };
  const account: ShopPage = {
    part: 'account',
    name: 'Account',
    title: w.yourOrders,
    file: 'your-orders',
    ...at('your-orders', 'Account'),
  };
  const home: ShopPage[] =
    shop.front && front
      ? [{ part: 'home', name: 'Your front page', title: '', file: 'home', ...at('home', 'front page') }]
      : [];
  const before = [...shop.old, ...(shop.front ? [shop.slug] : [])].filter(
    (slug) => slug !== shop.slug || shop.front,
  );
  const moved = before.flatMap((slug): ShopPage[] =>
    isFree(site, slug)
      ? [{ part: 'moved', name: `Old address /${slug}`, title: shop.name, file: slug, ...at(slug, slug) }]
      : [],
  );
  const wanted: readonly string[] = shop.pages;
  const optional = [lookup, account].filter(({ part }) => wanted.includes(part));
  return [main, ...steps, ...optional, ...home, ...moved];
}

/**
 * Menu changes, with what they add leading to where the shop's pages are now: a page of the owner's may
 * have taken an address.
 */
export function followShop(
  menu: readonly MenuChange[],
  before: readonly ShopPage[],
  after: readonly ShopPage[],
): MenuChange[] {
  const is = new Map(after.map((p) => [p.part, p.address]));
  const now = new Map(
    before.filter((p) => p.part !== 'moved' && p.part !== 'home').map((p) => [p.address, is.get(p.part)]),
  );
  return menu.map((c) => (c.do === 'add' ? { ...c, to: now.get(c.to) ?? c.to } : c));
}

const fileAt = (site: Pick<Site, 'reading'>, name: string): string =>
  usesFolders(site.reading) ? `${name}/index.html` : `${name}.html`;
/** Whether the owner has no page at an address. */
export const isFree = (site: Pick<Site, 'manifest' | 'reading'>, name: string): boolean =>
  site.manifest[fileAt(site, name)] === undefined;

const placer =
  (site: Pick<Site, 'manifest' | 'reading'>) =>
  (file: string, what: string): { path: PagePath; address: string } => {
    const name = [file, `shop-${file}`, `green-stall-${file}`].find((n) => isFree(site, n));
    const path = name === undefined ? undefined : parsePath(fileAt(site, name));
    if (!path?.ok)
      throw conflict(`The site has pages at every address that could be the shop's ${what} page.`);
    return { path: path.value, address: addressOf(path.value) };
  };

const folders = new WeakMap<SiteReading, boolean>();

/**
 * Whether most of the site's pages are folders with an index page; asked of each product's address, worked
 * out once.
 */
function usesFolders(reading: SiteReading): boolean {
  const known = folders.get(reading);
  if (known !== undefined) return known;
  const deep = reading.pages.filter((p) => p.path.includes('/'));
  const index = deep.filter((p) => /\/index\.html?$/i.test(p.path));
  const most = index.length * 2 > reading.pages.length - 1 && index.length > 0;
  folders.set(reading, most);
  return most;
}
