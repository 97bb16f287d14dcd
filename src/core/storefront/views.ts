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
  readonly stock: string;
  readonly soldOut: boolean;
  readonly max: number | null;
  readonly picture: string | null;
  readonly pictureLarge: string | null;
  readonly pictureAlt: string;
  readonly href: string;
  readonly action: string;
  /** The placement the shopper came through, kept for the order. */
  readonly via: string;
  readonly problem?: string | undefined;
}
