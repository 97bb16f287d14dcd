import type { Subject } from '../subject';
import type { WrittenPage } from '../written/facts';

/** Widgets that put something into the cart where they stand. */
const selling = new Set(['buy', 'card', 'row', 'shop']);

export const sellsHere = (p: WrittenPage): boolean =>
  p.part === 'shop' || p.widgets.some((w) => selling.has(w.kind) && w.problem === '');

/** Frames and shells of frames are visited inside others, and a page that forwards is passed through. */
export const isVisited = (p: WrittenPage): boolean => p.kind !== 'frames' && !p.forwards;

const partPath = (s: Pick<Subject, 'shopPages'>, part: string): string | undefined =>
  s.shopPages.find((x) => x.part === part)?.path;

/** A cart stands on the page, or a link leads to it: the site's own cart, or the plain one. */
export function hasCart(p: WrittenPage, s: Pick<Subject, 'shopPages' | 'site'>): boolean {
  if (p.part === 'cart' || p.widgets.some((w) => w.kind === 'cart')) return true;
  const cart = partPath(s, 'cart');
  return p.links.some(
    (l) => (cart !== undefined && l.to === cart) || l.href.startsWith(`${s.site.shopUrl}/cart`),
  );
}

export function leadsToShop(p: WrittenPage, s: Pick<Subject, 'shopPages' | 'site'>): boolean {
  const shop = partPath(s, 'shop');
  if (p.part === 'shop' || p.widgets.some((w) => w.kind === 'categories' || w.kind === 'search')) return true;
  return p.links.some(
    (l) => (shop !== undefined && l.to === shop) || l.href.startsWith(`${s.site.shopUrl}/goods`),
  );
}
