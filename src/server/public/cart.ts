import { z } from 'zod';
import { checkoutFragment } from '../../core/storefront/checkout';
import { cartFragment } from '../../core/storefront/fragments';
import type { Html } from '../../core/storefront/html';
import { failedFragment, thanksFragment } from '../../core/storefront/order-page';
import { type StepWords, stepWordsIn } from '../../core/languages/languages';
import { invalid } from '../../services/errors';
import type { Site } from '../../services/sites/site';
import { orderPageView } from '../../services/storefront/order-view';
import { cartPageView, checkoutPageView, type Ways } from '../../services/storefront/views';
import { addInput, addToCart } from '../../services/till/add-to-cart';
import { type CartView, countPieces, readCart, whileUnchanged } from '../../services/till/cart';
import { setCode, setQuantity } from '../../services/till/cart-changes';
import { atCheckout, checkoutForm, lookAgain } from '../../services/till/checkout';
import { goToPay } from '../../services/till/go-to-pay';
import { reconcile, takeNotice } from '../../services/till/payment';
import { HttpError, json, problem, readBody, readFields, send } from '../http';
import { type Call, route } from './router';
import { type Shop, siteOf, siteToShow } from './shop';

/** What widgets on a site do with a cart. Forms inside fragments come back here and are answered with the next fragment. */
export const cartRoutes = [
  route('POST', '/v1/:shop/carts', (shop, c) => add(shop, c, null)),
  route('POST', '/v1/:shop/carts/:token/lines', (shop, c) => add(shop, c, c.params.token)),
  route('GET', '/v1/:shop/carts/:token', cartAsData),
  route('GET', '/v1/:shop/carts/:token/page', cartPage),
  route('POST', '/v1/:shop/carts/:token/page/lines/:line', setLine),
  route('POST', '/v1/:shop/carts/:token/page/codes', codes),
  route('GET', '/v1/:shop/carts/:token/page/checkout', checkoutPage),
  route('POST', '/v1/:shop/carts/:token/page/checkout', pay),
  route('POST', '/v1/:shop/carts/:token/page/checkout/sum', sum),
  route('GET', '/v1/:shop/orders/:token/page', order),
  route('POST', '/v1/notices/:provider', notice),
  route('OPTIONS', '/v1/:rest{.+}', preflight),
];

/** No cookies, no credentials: a cart is whoever knows its token, so any origin may ask. */
export const cors = {
  'access-control-allow-origin': '*',
  'access-control-expose-headers': 'stall-pieces',
  'cache-control': 'no-store',
} as const;

type CartCall = Call<'shop' | 'token'>;

const href = z.url({ protocol: /^https?$/ }).catch('');

/** Where a cart's fragments come from. */
const base = ({ ctx }: Shop, c: CartCall): string =>
  `${ctx.addresses.shop}/v1/${c.params.shop}/carts/${c.params.token}/page`;

/** Addresses of the site's own shop pages, told by the page itself: a draft and a live site have different ones. */
function waysOf(shop: Shop, c: CartCall): Ways {
  const of = (name: string) => href.parse(c.url.searchParams.get(name) ?? '');
  const ways = {
    cart: of('cart'),
    checkout: of('checkout'),
    back: of('back'),
    shop: of('shop'),
    account: of('account'),
  };
  return { ...ways, cartAction: base(shop, c), query: `?${new URLSearchParams(ways)}` };
}

const wordsOf = (s: Site): StepWords => stepWordsIn(s.row.locale);

const fragment = (c: Call, html: Pick<Html, 'text'>, pieces: number | undefined, status = 200): void =>
  send(c.res, {
    status,
    type: 'text/html; charset=utf-8',
    body: html.text,
    headers: { ...cors, ...(pieces !== undefined && { 'stall-pieces': String(pieces) }) },
  });

const cartHtml = (shop: Shop, c: CartCall, s: Site, cart: CartView): Html =>
  cartFragment(cartPageView(shop.ctx, s, cart, waysOf(shop, c)), wordsOf(s));

/** @param token nothing for the first thing that goes into a cart. */
async function add(shop: Shop, c: Call<'shop'>, token: string | null): Promise<void> {
  const parsed = addInput.safeParse(choiceIn(await readFields(c.req)));
  const s = await siteOf(shop, c);
  if (!parsed.success) throw invalid(wordsOf(s).needPieces);
  const cart = await addToCart(shop.ctx, s, token, parsed.data, idempotencyKey(c));
  send(c.res, json({ token: cart.token, pieces: cart.pieces }, cors));
}

/** A cart as data: for the count in a header alone, or with its lines. */
async function cartAsData(shop: Shop, c: CartCall): Promise<void> {
  const { ctx } = shop;
  const { token } = c.params;
  const s = await siteToShow(shop, c);
  if (c.url.searchParams.get('only') === 'pieces')
    return send(c.res, json({ token, pieces: await countPieces(ctx, s, token) }, cors));
  const cart = await readCart(ctx, s, token);
  const { lines, total } = cartPageView(ctx, s, cart, waysOf(shop, c));
  const items = lines.map((l) => ({ name: l.name, quantity: l.quantity, amount: l.amount }));
  send(c.res, json({ token: cart.token, pieces: cart.pieces, total, lines: items }, cors));
}

async function cartPage(shop: Shop, c: CartCall): Promise<void> {
  const { ctx } = shop;
  const { token } = c.params;
  const s = await siteToShow(shop, c);
  const { html, pieces } = await whileUnchanged(ctx, s, token, `page ${c.url.search}`, async () => {
    const cart = await readCart(ctx, s, token);
    return { html: cartHtml(shop, c, s, cart), pieces: cart.pieces };
  });
  fragment(c, html, pieces);
}

async function setLine(shop: Shop, c: Call<'shop' | 'token' | 'line'>): Promise<void> {
  const s = await siteOf(shop, c);
  const { quantity } = await readFields(c.req);
  const cart = await setQuantity(shop.ctx, s, c.params.token, c.params.line, Number(quantity));
  fragment(c, cartHtml(shop, c, s, cart), cart.pieces);
}

async function codes(shop: Shop, c: CartCall): Promise<void> {
  const s = await siteOf(shop, c);
  const { code = '', out } = strings(await readFields(c.req));
  const cart = await setCode(shop.ctx, s, c.params.token, out ?? code, out === undefined ? 'in' : 'out');
  fragment(c, cartHtml(shop, c, s, cart), cart.pieces);
}

/** What a checkout form says again: what was typed, and what is wrong with it. */
interface Form {
  readonly values?: Record<string, string>;
  readonly errors?: Record<string, string>;
  readonly problem?: string | undefined;
}

async function checkoutHtml(shop: Shop, c: CartCall, s: Site, cart: CartView, form: Form): Promise<Html> {
  const ways = waysOf(shop, c);
  const view = await checkoutPageView(shop.ctx, s, cart, ways, {
    values: {},
    errors: {},
    ...form,
    action: `${base(shop, c)}/checkout${ways.query}`,
    sumAction: `${base(shop, c)}/checkout/sum${ways.query}`,
  });
  return checkoutFragment(view, wordsOf(s));
}

async function checkoutPage(shop: Shop, c: CartCall): Promise<void> {
  const { ctx } = shop;
  const { token } = c.params;
  const s = await siteToShow(shop, c);
  const { html, pieces } = await whileUnchanged(ctx, s, token, `checkout ${c.url.search}`, async () => {
    const cart = await atCheckout(ctx, s, token);
    return { html: await checkoutHtml(shop, c, s, cart, {}), pieces: cart.pieces };
  });
  fragment(c, html, pieces);
}

/** The sum for what stands in the form. Nothing can be ordered here. */
async function sum(shop: Shop, c: CartCall): Promise<void> {
  const s = await siteOf(shop, c);
  await sumFor(shop, c, s, strings(await readFields(c.req)));
}

async function sumFor(shop: Shop, c: CartCall, s: Site, values: Record<string, string>): Promise<void> {
  const cart = await lookAgain(shop.ctx, s, c.params.token, values);
  fragment(c, await checkoutHtml(shop, c, s, cart, { values }), cart.pieces);
}

async function pay(shop: Shop, c: CartCall): Promise<void> {
  const { ctx } = shop;
  const { token } = c.params;
  const s = await siteOf(shop, c);
  const fields = await readFields(c.req);
  const values = strings(fields);
  // Whoever did not press the button that orders has not ordered.
  if (!saysOrder(values)) return sumFor(shop, c, s, values);
  try {
    const { url } = await goToPay(ctx, s, token, await checkoutForm(ctx, s, token, fields), 'site');
    send(c.res, json({ url }, cors));
  } catch (error) {
    const { status, body } = problem(error);
    if (status >= 500 && status !== 502) throw error;
    const errors = body.fields ?? {};
    const form = { values, errors, problem: body.fields ? undefined : body.title };
    const cart = await readCart(ctx, s, token);
    fragment(c, await checkoutHtml(shop, c, s, cart, form), cart.pieces, status);
  }
}

async function order(shop: Shop, c: CartCall): Promise<void> {
  const s = await siteOf(shop, c);
  await reconcile(shop.ctx, c.params.token);
  const ways = waysOf(shop, c);
  const view = await orderPageView(shop.ctx, s, c.params.token, {
    back: ways.back,
    retry: () => ways.checkout,
  });
  const draw = c.url.searchParams.get('part') === 'failed' ? failedFragment : thanksFragment;
  fragment(c, draw(view, wordsOf(s)), undefined);
}

const signatureHeaders = ['webhook-id', 'webhook-timestamp', 'webhook-signature'];

async function notice(shop: Shop, c: Call<'provider'>): Promise<void> {
  const raw = (await readBody(c.req)).toString('utf8');
  const headers = Object.fromEntries(signatureHeaders.map((h) => [h, String(c.req.headers[h] ?? '')]));
  await takeNotice(shop.ctx, c.params.provider, headers, raw);
  send(c.res, json({ taken: true }));
}

const preflightHeaders = {
  ...cors,
  'access-control-allow-methods': 'GET, POST',
  'access-control-allow-headers': 'content-type, idempotency-key',
  'access-control-max-age': '86400',
};

function preflight(_: Shop, { res }: Call): void {
  send(res, { status: 204, headers: preflightHeaders });
}

function idempotencyKey(c: Call): string | null {
  const key = c.req.headers['idempotency-key'];
  if (key === undefined) return null;
  // Who knows a key and what was asked with it is told what was answered: it has to be one that nobody guesses.
  if (typeof key !== 'string' || !/^[\w-]{16,64}$/.test(key))
    throw new HttpError(
      422,
      'An Idempotency-Key has 16 to 64 letters, digits or hyphens, and is different for each request.',
    );
  return key;
}

/** A form's fields as they go into a cart: choices and texts are numbered in a form, and lists in a program. */
export function choiceIn(fields: Record<string, unknown>): Record<string, unknown> {
  const list = (name: string) =>
    [0, 1, 2, 3, 4].flatMap((n) =>
      typeof fields[`${name}-${n}`] === 'string' ? [String(fields[`${name}-${n}`])] : [],
    );
  const [options, texts] = [list('option'), list('text')];
  return { ...fields, ...(options.length && { options }), ...(texts.length && { texts }) };
}

/** Whether a form was sent by the button that orders, and by nothing else. */
export const saysOrder = (fields: Readonly<Record<string, string>>): boolean => fields.order === 'yes';

export const strings = (fields: Record<string, unknown>): Record<string, string> =>
  Object.fromEntries(Object.entries(fields).filter((e): e is [string, string] => typeof e[1] === 'string'));
