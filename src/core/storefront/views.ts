/** What the fragments show: texts are ready for people, money is formatted, addresses are whole. */
export interface LineView {
  readonly id: string;
  readonly name: string;
  readonly href: string;
  readonly picture: string | null;
  readonly unit: string;
  readonly amount: string;
  readonly quantity: number;
  /** "Only 2 left", "Sold out": said when the cart asks for more than there is. */
  readonly note: string;
  readonly max: number | null;
  readonly action: string;
}

export interface SumView {
  readonly lines: readonly LineView[];
  readonly steps: readonly { readonly what: string; readonly amount: string }[];
  readonly total: string;
  readonly totalMinor: number;
  readonly pieces: number;
}

export interface CartPageView extends SumView {
  readonly checkout: string;
  readonly back: string;
  readonly problem?: string | undefined;
}

export interface CheckoutPageView extends SumView {
  readonly action: string;
  readonly cart: string;
  readonly values: Readonly<Record<string, string>>;
  readonly errors: Readonly<Record<string, string>>;
  readonly problem?: string | undefined;
  readonly payee: string;
}

export interface OrderPageView {
  readonly state: 'waiting' | 'paid' | 'failed';
  readonly number: string;
  readonly email: string;
  readonly lines: readonly { readonly name: string; readonly quantity: number; readonly amount: string }[];
  readonly total: string;
  readonly back: string;
  readonly retry: string;
  readonly reason: string;
}

export interface ProductView {
  readonly slug: string;
  readonly name: string;
  readonly description: string;
  readonly price: string;
  /** The price before, while it is on offer. */
  readonly was: string;
  /** Where the buyer names the amount: the least, as it is typed ("5.00"), and the currency's sign. */
  readonly open: { readonly least: string; readonly leastText: string; readonly sign: string; readonly step: string } | null;
  readonly stock: string;
  readonly soldOut: boolean;
  readonly max: number | null;
  readonly picture: string | null;
  readonly pictureLarge: string | null;
  readonly pictureAlt: string;
  /** The plain page of the product, on the shop's own origin. */
  readonly href: string;
  /** Where its form goes without script. */
  readonly action: string;
  /** The placement the shopper came through, kept for the order. */
  readonly via: string;
  readonly problem?: string | undefined;
  readonly related?: readonly ProductView[];
}

/** The parts of a product card; each can be left out. */
export const cardParts = ['picture', 'name', 'description', 'price', 'stock', 'button'] as const;
export type CardPart = (typeof cardParts)[number];

export interface CardLook {
  readonly parts: readonly CardPart[];
  /** Level of the card's own heading, 2 to 6. */
  readonly level: number;
}

export const rowForms = ['grid', 'row', 'slider', 'list', 'table'] as const;
export type RowForm = (typeof rowForms)[number];

export interface RowView extends CardLook {
  readonly heading: string;
  readonly form: RowForm;
  /** The most columns side by side, where the room allows. */
  readonly columns: number;
  readonly filter: boolean;
  readonly products: readonly ProductView[];
}

export interface CategoryView {
  readonly name: string;
  readonly slug: string;
  readonly href: string;
  readonly count: number;
  readonly current: boolean;
  readonly children: readonly CategoryView[];
}

/** What a shopper asked a shop front for; empty strings where nothing was asked. */
export interface ShopState {
  readonly category: string;
  readonly find: string;
  readonly sort: string;
  readonly page: number;
  readonly goods: string;
}

export interface ShopFrontView extends CardLook {
  readonly heading: string;
  readonly columns: number;
  readonly state: ShopState;
  readonly categories: readonly CategoryView[] | null;
  readonly search: boolean;
  readonly sorts: readonly { readonly value: string; readonly name: string }[] | null;
  readonly products: readonly ProductView[];
  readonly found: number;
  readonly pages: number;
  /** The product that is open, in place of the list. */
  readonly product: ProductView | null;
  /** The plain list of goods, on the shop's own origin: every link inside is that with a query. */
  readonly base: string;
}
