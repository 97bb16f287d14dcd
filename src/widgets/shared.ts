import type { sheet, StallElement } from './stall-element';
import type * as cart from './cart-state';
import type { pageData } from './page-data';

/**
 * What the first script of a page knows and the second needs. The two are bundles of their own; what they share is handed
 * over here, so that there is one cart, one request, and no code twice.
 */
export interface Shared
  extends Pick<
    typeof cart,
    | 'cartOf'
    | 'keepCart'
    | 'lastPlace'
    | 'onCart'
    | 'addToCart'
    | 'refreshCart'
    | 'apiOf'
    | 'cartWay'
    | 'checkoutWay'
  > {
  readonly pageData: typeof pageData;
  readonly StallElement: typeof StallElement;
  readonly sheet: typeof sheet;
  /** Fetches the second script, once. */
  readonly more: () => Promise<typeof import('./stall-more')>;
  /** What the page's one script tag says: the shop, and the site's own pages. */
  readonly ways: Readonly<Record<'shop' | 'cart' | 'checkout' | 'page' | 'account', string>>;
  readonly inFront: { readonly steps: boolean };
}

const name = Symbol.for('green-stall');
const place = globalThis as unknown as Record<symbol, Shared | undefined>;

export const isHere = (): boolean => place[name] !== undefined;
export const provide = (shared: Shared): void => void (place[name] = shared);
export function taken(): Shared {
  const shared = place[name];
  if (!shared) throw new Error('Green Stall: stall-more.js came without stall.js');
  return shared;
}
