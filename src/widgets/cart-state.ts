import { fieldsIn, fieldsInText, textIn } from './answers';

/**
 * The cart as a page of the site knows it: a token and a count, kept in the site's own storage so that every page and
 * tab agrees. Where storage is blocked it lives as long as the page, and the ways lead to the shop's plain pages, which
 * carry the token in their address: selling goes on.
 */
export interface CartState {
  token?: string;
  pieces: number;
}

/** Told on the document whenever a cart changes; part of the public contract (docs/widgets.md). */
const CHANGED = 'stall:cart';

const states = new Map<string, CartState>();
let blocked = false;

const keyOf = (shop: string) => `stall:${shop}`;

export function cartOf(shop: string): CartState {
  const known = states.get(shop);
  if (known) return known;
  let kept: CartState = { pieces: 0 };
  try {
    const raw = fieldsInText(localStorage.getItem(keyOf(shop)) ?? '');
    const token = textIn(raw, 'token');
    if (/^[\w-]{16,40}$/.test(token)) kept = { token, pieces: Number(raw.pieces) || 0 };
  } catch {
    // Blocked or damaged: start with an empty one.
  }
  states.set(shop, kept);
  return kept;
}

export function keepCart(shop: string, state: CartState): void {
  states.set(shop, state);
  try {
    localStorage.setItem(keyOf(shop), JSON.stringify(state));
  } catch {
    blocked = true;
  }
  document.dispatchEvent(new CustomEvent(CHANGED, { detail: { shop, pieces: state.pieces } }));
}

/** Hears of changes in this page and in other tabs, until the signal aborts. */
export function onCart(shop: string, listener: (state: CartState) => void, signal: AbortSignal): void {
  document.addEventListener(CHANGED, () => listener(cartOf(shop)), { signal });
  addEventListener(
    'storage',
    (e) => {
      if (e.key !== keyOf(shop)) return;
      states.delete(shop);
      listener(cartOf(shop));
    },
    { signal },
  );
}

const way = (shop: string, part: string, own: string | null): string => {
  const { token } = cartOf(shop);
  if (own && own !== '#' && !blocked) return own;
  return token ? `${shop}/${part}/${token}` : `${shop}/goods`;
};
/** Where the cart is: the site's own page, or the plain one where the site has none or storage is blocked. */
export const cartWay = (shop: string, own: string | null): string => way(shop, 'cart', own);
export const checkoutWay = (shop: string, own: string | null): string => way(shop, 'checkout', own);

export interface CartLine {
  readonly goods: string;
  readonly placement: string | null;
  readonly quantity?: number;
  readonly amount?: string;
  readonly variant?: string;
  readonly options?: readonly string[];
  readonly texts?: readonly string[];
}

const underWay = new Map<string, Promise<CartState>>();

/**
 * Puts pieces into the cart on the server, and keeps what it answers. One after the other: two that were pressed at once before
 * there is a cart would make two of them, and one would be lost. @throws Error with a sentence for the shopper.
 */
export function addToCart(shop: string, line: CartLine): Promise<CartState> {
  const next = () => add(shop, line);
  const turn = underWay.get(shop)?.then(next, next) ?? next();
  underWay.set(shop, turn);
  return turn;
}

async function add(shop: string, line: CartLine): Promise<CartState> {
  keepPlace();
  const { token } = cartOf(shop);
  const api = `${apiOf(shop)}/carts${token ? `/${token}/lines` : ''}`;
  const answer = await fetch(api, {
    method: 'POST',
    headers: {
      'content-type': 'application/json',
      'idempotency-key': crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`,
    },
    body: JSON.stringify({ ...line, page: location.pathname }),
  });
  const body = await fieldsIn(answer);
  const state = { token: textIn(body, 'token'), pieces: Number(body.pieces) || 0 };
  if (!answer.ok || !state.token) throw new Error(textIn(body, 'title'));
  keepCart(shop, state);
  return state;
}

/** Asks how the cart stands: bought meanwhile, emptied in another place, or no longer kept. */
export async function refreshCart(shop: string): Promise<void> {
  const { token } = cartOf(shop);
  if (!token) return;
  const answer = await fetch(`${apiOf(shop)}/carts/${token}?only=pieces`).catch(() => undefined);
  if (answer?.status === 404) keepCart(shop, { pieces: 0 });
  else if (answer?.ok) keepCart(shop, { token, pieces: Number((await fieldsIn(answer)).pieces) || 0 });
}

/** "https://shop.example/withybed" → "https://shop.example/v1/withybed" */
export const apiOf = (shop: string): string => shop.replace(/\/([^/]+)$/, '/v1/$1');

const PLACE = 'stall:place';
/** Shop pages that a shopper passes through: nobody looks around there. */
const PASSED = 'stall-page,stall-lookup[main],stall-account[main]';

/** Remembers where the shopper is looking around, so that the cart can lead back there. */
export function keepPlace(): void {
  if (document.querySelector(PASSED)) return;
  try {
    sessionStorage.setItem(PLACE, location.href);
  } catch {
    // Blocked: the cart leads back to the shop.
  }
}

/** Where the shopper looked around last, on this site; '' where that is not known. */
export function lastPlace(): string {
  try {
    const kept = new URL(sessionStorage.getItem(PLACE) ?? '', location.href);
    return sessionStorage.getItem(PLACE) && kept.origin === location.origin ? kept.href : '';
  } catch {
    return '';
  }
}
