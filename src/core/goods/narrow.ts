import { type Minor, minor } from '../money/minor';
import { priceFrom } from './price';
import { isOnOffer, type Product } from './product';
import { mostOf } from './stock';

/** What a shopper narrows a list to; nothing in a field leaves it wide. */
export interface Narrowing {
  /** Prices, the least a product is to be had for, both ends among them. */
  readonly least: Minor | null;
  readonly most: Minor | null;
  /** Only what can be had now. */
  readonly inStock: boolean;
  readonly onOffer: boolean;
  /** All of these. */
  readonly tags: readonly string[];
}

/** How many things a list is narrowed by; two ends of a price are one. */
export const narrowedBy = (n: Narrowing): number =>
  (n.least !== null || n.most !== null ? 1 : 0) + (n.inStock ? 1 : 0) + (n.onOffer ? 1 : 0) + n.tags.length;

/** Products that fit, in their order. @param free pieces of each variant, where only what is to be had is wanted. */
export function narrowed(
  products: readonly Product[],
  n: Narrowing,
  at: number,
  free?: ReadonlyMap<string, number | null>,
): readonly Product[] {
  if (narrowedBy(n) === 0) return products;
  const tags = n.tags.map((t) => t.toLowerCase());
  const priced = (p: Product): boolean => {
    if (n.least === null && n.most === null) return true;
    const { least } = priceFrom(p, at);
    return (n.least === null || least >= n.least) && (n.most === null || least <= n.most);
  };
  return products.filter(
    (p) =>
      tags.every((t) => p.tags.some((own) => own.toLowerCase() === t)) &&
      (!n.onOffer || isOnOffer(p, at)) &&
      priced(p) &&
      (!n.inStock || canBeHad(p, free)),
  );
}

/** A link to another seller counts as to be had: what is there, nobody here knows. */
const canBeHad = (p: Product, free?: ReadonlyMap<string, number | null>): boolean =>
  p.kind === 'link' || p.variants.some((v) => mostOf(free?.get(v.id) ?? null, p.stockRule) !== 0);

/** What a list can be narrowed by: its prices, and its tags, the most used first. Tags in small and capital letters are one. */
export function facetsOf(
  products: readonly Product[],
  at: number,
  mostTags: number,
): {
  readonly least: Minor;
  readonly most: Minor;
  readonly offers: number;
  readonly tags: readonly { readonly name: string; readonly count: number }[];
} {
  const tags = new Map<string, { name: string; count: number }>();
  let [least, most, offers] = [Number.POSITIVE_INFINITY, 0, 0];
  for (const p of products) {
    const price = priceFrom(p, at).least;
    least = Math.min(least, price);
    most = Math.max(most, price);
    if (isOnOffer(p, at)) offers++;
    for (const key of new Set(p.tags.map((t) => t.toLowerCase()))) {
      const known = tags.get(key);
      if (known) known.count++;
      else tags.set(key, { name: p.tags.find((t) => t.toLowerCase() === key) ?? key, count: 1 });
    }
  }
  const used = [...tags.values()]
    .sort((a, b) => b.count - a.count || (a.name < b.name ? -1 : 1))
    .slice(0, mostTags);
  return { least: minor(products.length ? least : 0), most: minor(most), offers, tags: used };
}
