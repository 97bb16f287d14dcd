import type { CategoryNode } from '../goods/category';
import type { Order } from '../goods/choose';
import type { Product } from '../goods/product';
import type { Shape } from '../look/shape';
import type { ReviewOrder } from '../goods/reviews';
import type { StepWords, Words } from '../languages/language';
import type { ReleaseView } from '../storefront/downloads';
import type { ReviewsView } from '../storefront/reviews';
import type { ProductView, ShopState } from '../storefront/views';

/** The goods of a shop as they stand at a moment. */
export interface GoodsNow {
  /** Those that stand in lists, in the owner's order. */
  readonly shown: readonly Product[];
  readonly byId: ReadonlyMap<string, Product>;
  /** By address, former addresses too. */
  readonly bySlug: ReadonlyMap<string, Product>;
  /** Ways into the shown goods, empty ones left out. */
  readonly tree: readonly CategoryNode[];
  /** What a path of a category means now, where the category was renamed or moved since. */
  readonly pathNow: (path: string) => string;
  /** Shown goods of a category ('' is all) in an order. */
  readonly inOrder: (category: string, order: Order, at: number) => readonly Product[];
  /** Ids of goods that words find, the best first. */
  readonly index: { readonly search: (words: string) => Promise<readonly string[]> };
}

/** What a widget may ask the shop while it is drawn. Whoever draws hands it in: the core asks no database. */
export interface DrawingShop {
  readonly w: Words;
  readonly steps: StepWords;
  /** The language it is drawn in, and the shop's own. */
  readonly lang: string;
  readonly locale: string;
  readonly currency: string;
  /** How the shop's cards are made; left out, as usual. */
  readonly shape?: Shape;
  /** Milliseconds since 1970: offers begin and end by it. */
  readonly at: number;
  /** The placement it stands for, kept with what is bought through it. */
  readonly via: string;
  /** What the shopper asked of it. */
  readonly state: ShopState;
  /** Addresses of the plain list and of the order lookup. */
  readonly listHref: string;
  readonly lookupHref: string;
  readonly goods: () => Promise<GoodsNow>;
  /** Products as shoppers see them, with what there is of each now. */
  readonly views: (products: readonly Product[]) => Promise<ProductView[]>;
  /** A product's own page; nothing where there is none by that address. */
  readonly productPage: (slug: string, price: string) => Promise<ProductView | null>;
  /** Pieces there are of each product, by id; null where nobody counts. */
  readonly free: (products: readonly Product[]) => Promise<ReadonlyMap<string, number | null>>;
  /** @param product nothing for all of the shop. */
  readonly reviews: (
    product: Product | null,
    how: { readonly order: ReviewOrder; readonly limit: number; readonly spread: boolean },
  ) => Promise<ReviewsView>;
  readonly releases: (product: Product, limit: number) => readonly ReleaseView[];
}
