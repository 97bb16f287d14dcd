/**
 * The cart as a page of the site knows it: a token and a count, kept in the site's own storage so that every page and
 * tab agrees. Where storage is blocked it lives as long as the page, and selling goes on.
 */
export interface CartState {
  token?: string;
  pieces: number;
}

/** Told on the document whenever a cart changes; part of the public contract (docs/widgets.md). */
const CHANGED = 'stall:cart';

/** Two scripts of ours may run on a page, each with its own copy of this module: what they know is one. */
const shared = Symbol.for('green-stall.carts');
const place = globalThis as unknown as Record<symbol, Map<string, CartState> | undefined>;
const states = (place[shared] ??= new Map());
const keyOf = (shop: string) => `stall:${shop}`;

export function cartOf(shop: string): CartState {
  const known = states.get(shop);
  if (known) return known;
  let kept: CartState = { pieces: 0 };
  try {
    const raw = JSON.parse(localStorage.getItem(keyOf(shop)) ?? '{}') as Partial<CartState>;
    if (typeof raw.token === 'string' && /^[\w-]{16,40}$/.test(raw.token)) kept = { token: raw.token, pieces: Number(raw.pieces) || 0 };
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
    // Blocked: kept in memory only.
  }
  document.dispatchEvent(new CustomEvent(CHANGED, { detail: { shop, pieces: state.pieces } }));
}

/** Hears of changes in this page and in other tabs, until the signal aborts. */
export function onCart(shop: string, tell: (state: CartState) => void, signal: AbortSignal): void {
  document.addEventListener(CHANGED, () => tell(cartOf(shop)), { signal });
  addEventListener('storage', (e) => {
    if (e.key !== keyOf(shop)) return;
    states.delete(shop);
    tell(cartOf(shop));
  }, { signal });
}

/** Puts pieces into the cart on the server, and keeps what it answers. @throws Error with a sentence for the shopper. */
export async function addToCart(shop: string, line: { goods: string; placement: string | null }): Promise<CartState> {
  const { token } = cartOf(shop);
  const api = `${apiOf(shop)}/carts${token ? `/${token}/lines` : ''}`;
  const answer = await fetch(api, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}` },
    body: JSON.stringify({ ...line, page: location.pathname }),
  });
  const body = (await answer.json()) as { token: string; pieces: number; title?: string };
  if (!answer.ok) throw new Error(body.title ?? '');
  const state = { token: body.token, pieces: body.pieces };
  keepCart(shop, state);
  return state;
}

/** Asks how the cart stands: bought meanwhile, emptied in another place, or no longer kept. */
export async function refreshCart(shop: string): Promise<void> {
  const { token } = cartOf(shop);
  if (!token) return;
  const answer = await fetch(`${apiOf(shop)}/carts/${token}`).catch(() => undefined);
  if (answer?.status === 404) keepCart(shop, { pieces: 0 });
  else if (answer?.ok) keepCart(shop, { token, pieces: ((await answer.json()) as CartState).pieces });
}

/** "https://shop.example/withybed" → "https://shop.example/v1/withybed" */
export const apiOf = (shop: string): string => shop.replace(/\/([^/]+)$/, '/v1/$1');
