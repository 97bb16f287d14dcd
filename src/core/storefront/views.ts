import type { StepText } from '../languages/language';
import type { Html } from './html';
import type { AddressAsked } from '../till/address-asked';
import type { ReviewsView } from './reviews';

/** What the fragments show: texts are ready for people, money is formatted, addresses are whole. */
export interface LineView {
  readonly id: string;
  readonly name: string;
  /** The choice and what the buyer wrote. */
  readonly particulars: readonly string[];
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
  /** What the total holds, like tax: told beneath it. */
  readonly within: readonly string[];
  /** "With £12.00 more, shipping costs nothing"; '' where it never does, or does already. */
  readonly untilFree: string;
  /** Codes that were typed, and what became of each. */
  readonly codes: readonly { readonly code: string; readonly message: string; readonly good: boolean }[];
  readonly codeAction: string;
  /** What is charged again, and how often, in words. */
  readonly again: readonly string[];
  readonly total: string;
  /** The total in other currencies, with where the figures come from; empty where the owner keeps none. */
  readonly about: readonly string[];
  readonly totalMinor: number;
  readonly pieces: number;
}

export interface CartPageView extends SumView {
  /** Shipping is not in the total yet. */
  readonly later: boolean;
  readonly checkout: string;
  readonly back: string;
  readonly problem?: string | undefined;
}

export interface CheckoutPageView extends SumView {
  /** Those that something can be sent to stand first; `others` is empty where all are alike. */
  readonly countries: readonly { readonly code: string; readonly name: string }[];
  readonly others: readonly { readonly code: string; readonly name: string }[];
  /** What has to be asked of where the buyer is. */
  readonly asked: AddressAsked;
  readonly ways: readonly {
    readonly id: string;
    readonly name: string;
    readonly price: string;
    readonly text: string;
    readonly chosen: boolean;
  }[];
  /** Where the order goes. */
  readonly action: string;
  /** Where the form goes to have the sum worked out again: nothing is ever ordered there. */
  readonly sumAction: string;
  readonly cart: string;
  readonly values: Readonly<Record<string, string>>;
  readonly errors: Readonly<Record<string, string>>;
  readonly problem?: string | undefined;
  readonly payee: string;
  /** Nothing is charged: the owner is trying things out. */
  readonly test: boolean;
  /** Parts of the address in the order of its country, those that it needs, and its states where there is a list. */
  readonly address: {
    readonly parts: readonly ('town' | 'state' | 'postcode')[];
    readonly needs: readonly string[];
    readonly states: readonly { readonly code: string; readonly name: string }[];
  };
  readonly pays: readonly { readonly id: string; readonly name: string; readonly chosen: boolean }[];
  /** How the chosen way works: on a page of a provider's, later, or there is nothing to pay; 'none' where there is no way at all. */
  /** Whether it is paid at once, and the key of what stands beneath the button; nothing where nobody can pay. */
  readonly ordering: { readonly now: boolean; readonly beneath: StepText } | 'free' | null;
  readonly policies: readonly {
    readonly id: string;
    readonly name: string;
    readonly href: string;
    readonly version: string;
    readonly ticked: boolean;
  }[];
  readonly note: boolean;
  readonly phone: 'no' | 'may' | 'must';
  readonly company: boolean;
  /** Whether a reminder is offered, and wished. */
  readonly remind: { readonly on: boolean } | null;
  /** Where buyers of before see their orders. */
  readonly account: string;
}

export interface OrderPageView {
  readonly state: 'waiting' | 'placed' | 'paid' | 'failed' | 'cancelled';
  /**
   * Paid, and looked at by the owner before anything is handed out: a voucher or code of it was used
   * elsewhere meanwhile.
   */
  readonly held: boolean;
  readonly test: boolean;
  /** The owner's own words for this page. */
  readonly words: string;
  /** How the money comes, where it is not here yet. */
  readonly todo: {
    readonly lead: string;
    readonly words: string;
    readonly rows: readonly { readonly label: string; readonly value: string }[];
  } | null;
  /** Discounts, shipping, tax that was added, vouchers: what stands between the lines and the total. */
  readonly steps: readonly { readonly what: string; readonly amount: string }[];
  /** How far it has come: packed, sent with its number, given back. */
  readonly progress: readonly string[];
  /** Invoice and credit notes. */
  readonly papers: readonly { readonly name: string; readonly href: string; readonly pdf: string }[];
  readonly number: string;
  readonly email: string;
  readonly lines: readonly { readonly name: string; readonly quantity: number; readonly amount: string }[];
  readonly total: string;
  readonly back: string;
  readonly retry: string;
  readonly reason: string;
  /** The way to the files that were bought; '' where there are none. */
  readonly files: string;
  /** Gift vouchers that were bought: code and what is on it. */
  readonly vouchers: readonly { readonly code: string; readonly text: string }[];
}

export interface PictureView {
  readonly small: string;
  readonly large: string;
  /** For `srcset`: addresses with their widths. */
  readonly set: string;
  readonly alt: string;
  /** The point that must stay in view, in tenths of width and height: the style sheet knows them, so no style stands inline. */
  readonly x: number;
  readonly y: number;
}

/** One choice of a product: what of it a page's script needs to answer a press at once. */
export interface VariantView {
  readonly id: string;
  readonly values: readonly string[];
  readonly price: string;
  readonly was: string;
  readonly stock: string;
  /** Only a few are left. */
  readonly few?: boolean;
  readonly soldOut: boolean;
  readonly max: number | null;
  /** Place of its own picture among the product's; -1 for none. */
  readonly picture: number;
}

/** How a card's button leads on: into the cart at once, or to the product's page because something is to be chosen there. */
export type CardAction = 'add' | 'choose' | 'book' | 'see' | 'amount';

export interface ProductView {
  readonly slug: string;
  readonly kind: string;
  readonly name: string;
  /** Clean HTML. */
  readonly description: Html;
  readonly summary: string;
  /** "£68.00", or "from £54.00" where variants differ. */
  readonly price: string;
  /** The price before, while it is on offer. */
  readonly was: string;
  /** "Lowest price of the 30 days before: £39.00", where a reduction is announced and the law wants it. */
  readonly lowest: string;
  readonly perUnit: string;
  /** In other currencies, for orientation; on a page of its own. */
  readonly about?: string;
  readonly badge: string;
  readonly action: CardAction;
  /** Where the buyer names the amount: the least, as it is typed ("5.00"), the currency's sign, and amounts for a press. */
  readonly open: {
    readonly least: string;
    readonly leastText: string;
    readonly sign: string;
    readonly suggested: readonly { readonly value: string; readonly text: string }[];
  } | null;
  /** How many are left, or why there is none: never empty where it is sold out. */
  readonly stock: string;
  /** Only a few are left. */
  readonly few?: boolean;
  readonly soldOut: boolean;
  /** A bundle of which a part is not sold at the moment: it is not sold out. */
  readonly partGone: boolean;
  readonly max: number | null;
  readonly picture: PictureView | null;
  readonly pictures: readonly PictureView[];
  /** The plain page of the product, on the shop's own origin. */
  readonly href: string;
  /** Where its form goes without script. */
  readonly send: string;
  /** The placement the shopper came through, kept for the order. */
  readonly via: string;
  readonly options: readonly {
    readonly name: string;
    readonly as: 'list' | 'swatch';
    readonly values: readonly { readonly name: string; readonly colour: string; readonly out: boolean }[];
  }[];
  /** Key of the link whose price is shown; left out for the usual price. */
  readonly linkPrice?: string | undefined;
  readonly variants: readonly VariantView[];
  readonly texts: readonly {
    readonly label: string;
    readonly most: number;
    readonly required: boolean;
    readonly price: string;
  }[];
  readonly sections: readonly { readonly title: string; readonly html: Html }[];
  readonly event: { readonly when: string; readonly where: string } | null;
  readonly seller: { readonly url: string; readonly name: string } | null;
  readonly every: string;
  readonly parts: readonly {
    readonly name: string;
    readonly href: string;
    readonly slug: string;
    readonly quantity: number;
  }[];
  readonly video: string;
  /** JSON-LD for search engines, on a page of its own. */
  readonly structured?: string;
  readonly problem?: string | undefined;
  readonly related?: readonly ProductView[];
  readonly rating: ReviewsView['rating'];
  /** What buyers say, on a page of its own. */
  readonly reviews?: ReviewsView | undefined;
}

/** The parts of a product card; each can be left out. A glance is a quick look at the product, over the page. */
export const cardParts = [
  'picture',
  'name',
  'description',
  'price',
  'stock',
  'options',
  'quantity',
  'button',
  'glance',
] as const;
export type CardPart = (typeof cardParts)[number];

export interface CardLook {
  readonly parts: readonly CardPart[];
  /** Level of the card's own heading, 2 to 6. */
  readonly level: number;
  /** A second picture is shown under the pointer. */
  readonly second?: boolean;
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
  /** Key of a link with a price of its own, for the product that is open. */
  readonly price: string;
  /** Prices as they were typed. */
  readonly least: string;
  readonly most: string;
  readonly stock: boolean;
  readonly offer: boolean;
  readonly tags: readonly string[];
}

/** What a list can be narrowed by; nothing where it is too short for that. */
export interface NarrowView {
  /** How many things it is narrowed by already. */
  readonly by: number;
  readonly sign: string;
  readonly least: string;
  readonly most: string;
  readonly offers: boolean;
  readonly tags: readonly { readonly name: string; readonly count: number; readonly chosen: boolean }[];
}

export interface ShopFrontView extends CardLook {
  readonly heading: string;
  readonly columns: number;
  readonly state: ShopState;
  readonly categories: readonly CategoryView[] | null;
  readonly search: boolean;
  readonly narrow: NarrowView | null;
  readonly sorts: readonly { readonly value: string; readonly name: string }[] | null;
  readonly products: readonly ProductView[];
  readonly found: number;
  readonly pages: number;
  /** The product that is open, in place of the list. */
  readonly product: ProductView | null;
  /** The plain list of goods, on the shop's own origin: every link inside is that with a query. */
  readonly base: string;
}
