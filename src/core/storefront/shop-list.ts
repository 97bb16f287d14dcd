import type { CategoryNode } from '../goods/category';
import type { CategoryView } from './views';

/** A way into a category on the plain list. @param current the address of the one that is open. */
export const categoryView = (n: CategoryNode, listHref: string, current = ''): CategoryView => ({
  name: n.name,
  slug: n.slug,
  count: n.count,
  current: n.slug === current,
  href: `${listHref}?category=${encodeURIComponent(n.slug)}`,
  children: n.children.map((child) => categoryView(child, listHref, current)),
});
