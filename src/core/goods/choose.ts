import { isIn } from './category';
import { priceFrom } from './price';
import { isOnOffer, type Product } from './product';

/** What a row of products shows, and in which order. */
export const sources = ['all', 'newest', 'chosen', 'category', 'offer', 'related'] as const;
export const orders = ['hand', 'newest', 'name', 'cheapest', 'dearest'] as const;
export type Source = (typeof sources)[number];
export type Order = (typeof orders)[number];

export interface Choice {
  readonly source: Source;
  /** Slugs, for `chosen`; order as given. */
  readonly goods: readonly string[];
  /** Path of a category, for `category`; '' is any. */
  readonly category: string;
  /** Slug of the product that others are related to, for `related`. */
  readonly of: string;
  readonly order: Order;
  readonly limit: number;
}

/**
 * The products a row shows at a moment, of `all` in the owner's order. Related products are those the owner named, else they
 * share categories: those that share most come first, and one that shares none is not related. Products chosen by hand keep
 * the order they were chosen in.
 */
export function chooseProducts(all: readonly Product[], c: Choice, at: number, lang = 'en'): Product[] {
  return sorted(from(all, c, at), c, at, lang).slice(0, c.limit);
}

/** The goods of a shop, as a row chooses of them. */
export interface Choosable {
  /** Those that stand in lists, in the owner's order. */
  readonly shown: readonly Product[];
  /** By address, former addresses too. */
  readonly bySlug: ReadonlyMap<string, Product>;
  /** What a path of a category means now. */
  readonly pathNow: (path: string) => string;
}

/**
 * The products of a row of a shop: what the row names is meant by its former addresses and paths, too. A product that is
 * sold by its link only stands where it was chosen by hand, and nowhere else.
 */
export function productsOf(goods: Choosable, c: Choice, at: number, lang?: string): Product[] {
  const { shown, bySlug, pathNow } = goods;
  const chosen =
    c.source === 'chosen'
      ? c.goods.flatMap((slug) => bySlug.get(slug) ?? []).filter((p) => p.shows !== 'hidden')
      : undefined;
  const choice = {
    ...c,
    goods: chosen?.map((p) => p.slug) ?? [],
    category: pathNow(c.category),
    of: bySlug.get(c.of)?.slug ?? c.of,
  };
  return chooseProducts(chosen ?? shown, choice, at, lang);
}

function from(all: readonly Product[], c: Choice, at: number): readonly Product[] {
  if (c.source === 'chosen') return c.goods.flatMap((slug) => all.find((p) => p.slug === slug) ?? []);
  if (c.source === 'offer') return all.filter((p) => isOnOffer(p, at));
  if (c.source === 'category') return c.category ? all.filter((p) => isIn(p, c.category)) : all;
  if (c.source === 'related') return related(all, c.of);
  return all;
}

function related(all: readonly Product[], slug: string): readonly Product[] {
  const to = all.find((p) => p.slug === slug);
  if (!to) return [];
  if (to.related.length) return to.related.flatMap((s) => all.find((p) => p.slug === s) ?? []);
  const shared = (p: Product) =>
    p.categories.filter((path) => isIn(to, path) || to.categories.some((mine) => isIn(p, mine))).length;
  return all.filter((p) => p !== to && shared(p) > 0).sort((a, b) => shared(b) - shared(a));
}

/** By hand means the order given; only `newest` as a source has an order of its own. */
export function sorted(
  products: readonly Product[],
  c: Pick<Choice, 'order' | 'source'>,
  at: number,
  lang: string,
): readonly Product[] {
  const order = c.order === 'hand' && c.source === 'newest' ? 'newest' : c.order;
  const names = new Intl.Collator(lang);
  const least = (p: Product) => priceFrom(p, at).least;
  const by: Record<Exclude<Order, 'hand'>, (a: Product, b: Product) => number> = {
    newest: (a, b) => b.addedAt - a.addedAt,
    name: (a, b) => names.compare(a.name, b.name),
    cheapest: (a, b) => least(a) - least(b),
    dearest: (a, b) => least(b) - least(a),
  };
  return order === 'hand' ? products : [...products].sort(by[order]);
}
