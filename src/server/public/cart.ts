import { z } from 'zod';
import { checkoutFragment } from '../../core/storefront/checkout';
import { cartFragment } from '../../core/storefront/fragments';
import { failedFragment, thanksFragment } from '../../core/storefront/order-page';
import { stepWordsIn } from '../../core/storefront/words';
import type { Ctx } from '../../services/context';
import { invalid } from '../../services/errors';
import { orderPageView } from '../../services/storefront/order-view';
import { cartPageView, checkoutPageView, type Ways } from '../../services/storefront/views';
import {
  addInput,
  addToCart,
  type CartView,
  countPieces,
  readCart,
  setCode,
  setQuantity,
  whileUnchanged,
} from '../../services/till/cart';
import { atCheckout, lookAgain } from '../../services/till/checkout';
import { goToPay } from '../../services/till/go-to-pay';
import { checkoutForm } from '../../services/till/checkout';
import { reconcile, takeNotice } from '../../services/till/payment';
import { loadSite, type Site, siteForReading } from '../../services/sites/site';
import { HttpError, json, problem, readBody, readFields, send, SHOPPER_BODY } from '../http';
import { type Call, route } from '../router';

/** No cookies, no credentials: a cart is whoever knows its token, so any origin may ask. */
export const cors = {
  'access-control-allow-origin': '*',
  'access-control-expose-headers': 'stall-pieces',
  'cache-control': 'no-store',
} as const;

const href = z.url({ protocol: /^https?$/ }).catch('');

/** Addresses of the site's own shop pages, told by the page itself: a draft and a live site have different ones. */
const waysFrom = (url: URL, action: string): Ways => {
  const of = (name: string) => href.parse(url.searchParams.get(name) ?? '');
  const ways = {
    cart: of('cart'),
    checkout: of('checkout'),
    back: of('back'),
    shop: of('shop'),
    account: of('account'),
  };
  return { ...ways, cartAction: action, query: `?${new URLSearchParams(ways)}` };
};

/** What a checkout form says again: what was typed, and what is wrong with it. */
interface Form {
  readonly values?: Record<string, string>;
  readonly errors?: Record<string, string>;
  readonly problem?: string | undefined;
}

/** What widgets on a site do with a cart. Forms inside fragments come back here and are answered with the next fragment. */
export function cartRoutes(ctx: Ctx) {
  const base = (c: Call) => `${ctx.addresses.shop}/v1/${c.params.shop}/carts/${c.params.token}/page`;
  const back = (c: Call) => waysFrom(c.url, base(c));
  const site = (c: Call) => loadSite(ctx, { slug: c.params.shop ?? '' });
  const forReading = (c: Call) => siteForReading(ctx, c.params.shop ?? '');
  const wordsOf = (s: Site) => stepWordsIn(s.row.locale);
  const fragment = (c: Call, html: { text: string }, pieces: number | undefined, status = 200) =>
    send(c.res, {
      status,
      type: 'text/html; charset=utf-8',
      body: html.text,
      headers: { ...cors, ...(pieces !== undefined && { 'stall-pieces': String(pieces) }) },
    });

  const add = async (c: Call) => {
    const parsed = addInput.safeParse(choiceIn(await readFields(c.req)));
    const s = await site(c);
    if (!parsed.success) throw invalid(wordsOf(s).needPieces);
    const cart = await addToCart(ctx, s, c.params.token ?? null, parsed.data, idempotencyKey(c));
    send(c.res, json({ token: cart.token, pieces: cart.pieces }, cors));
  };
  const pieces = async (c: Call) => {
    const token = c.params.token ?? '';
    send(c.res, json({ token, pieces: await countPieces(ctx, await forReading(c), token) }, cors));
  };
  const count = async (c: Call) => {
    if (c.url.searchParams.get('only') === 'pieces') return pieces(c);
    const s = await forReading(c);
    const cart = await readCart(ctx, s, c.params.token ?? '');
    const { lines, total } = cartPageView(ctx, s, cart, back(c));
    send(
      c.res,
      json(
        {
          token: cart.token,
          pieces: cart.pieces,
          total,
          lines: lines.map((l) => ({ name: l.name, quantity: l.quantity, amount: l.amount })),
        },
        cors,
      ),
    );
  };
  const cartPage = async (c: Call) => {
    const s = await forReading(c);
    const token = c.params.token ?? '';
    const { html, pieces } = await whileUnchanged(ctx, s, token, `page ${c.url.search}`, async () => {
      const cart = await readCart(ctx, s, token);
      return { html: cartFragment(cartPageView(ctx, s, cart, back(c)), wordsOf(s)), pieces: cart.pieces };
    });
    fragment(c, html, pieces);
  };
  const setLine = async (c: Call) => {
    const s = await site(c);
    const { quantity } = await readFields(c.req);
    const cart = await setQuantity(ctx, s, c.params.token ?? '', c.params.line ?? '', Number(quantity));
    fragment(c, cartFragment(cartPageView(ctx, s, cart, back(c)), wordsOf(s)), cart.pieces);
  };
  const codes = async (c: Call) => {
    const s = await site(c);
    const { code = '', out } = strings(await readFields(c.req));
    const cart = await setCode(ctx, s, c.params.token ?? '', out ?? code, out === undefined ? 'in' : 'out');
    fragment(c, cartFragment(cartPageView(ctx, s, cart, back(c)), wordsOf(s)), cart.pieces);
  };
  const checkoutHtml = async (c: Call, s: Site, cart: CartView, form: Form) => {
    const view = await checkoutPageView(ctx, s, cart, back(c), {
      values: {},
      errors: {},
      ...form,
      action: `${base(c)}/checkout${back(c).query}`,
      sumAction: `${base(c)}/checkout/sum${back(c).query}`,
    });
    return checkoutFragment(view, wordsOf(s));
  };
  const checkoutOf = async (c: Call, s: Site, cart: CartView, form: Form, status = 200) =>
    fragment(c, await checkoutHtml(c, s, cart, form), cart.pieces, status);
  const checkoutPage = async (c: Call) => {
    const s = await forReading(c);
    const token = c.params.token ?? '';
    const { html, pieces } = await whileUnchanged(ctx, s, token, `checkout ${c.url.search}`, async () => {
      const cart = await atCheckout(ctx, s, token);
      return { html: await checkoutHtml(c, s, cart, {}), pieces: cart.pieces };
    });
    fragment(c, html, pieces);
  };
  /** The sum for what stands in the form. Nothing can be ordered here. */
  const sum = async (c: Call) => {
    const s = await site(c);
    const values = strings(await readFields(c.req));
    await checkoutOf(c, s, await lookAgain(ctx, s, c.params.token ?? '', values), { values });
  };
  const pay = async (c: Call) => {
    const s = await site(c);
    const token = c.params.token ?? '';
    const fields = await readFields(c.req);
    const values = strings(fields);
    // Whoever did not press the button that orders has not ordered.
    if (!saysOrder(values)) return checkoutOf(c, s, await lookAgain(ctx, s, token, values), { values });
    try {
      const { url } = await goToPay(ctx, s, token, await checkoutForm(ctx, s, token, fields), 'site');
      send(c.res, json({ url }, cors));
    } catch (error) {
      const { status, body } = problem(error);
      if (status >= 500 && status !== 502) throw error;
      const errors = (body.fields ?? {}) as Record<string, string>;
      const told = body.fields ? undefined : String(body.title);
      await checkoutOf(c, s, await readCart(ctx, s, token), { values, errors, problem: told }, status);
    }
  };
  const order = async (c: Call) => {
    const s = await site(c);
    const token = c.params.token ?? '';
    await reconcile(ctx, token);
    const ways = back(c);
    const view = await orderPageView(ctx, s, token, { back: ways.back, retry: () => ways.checkout });
    fragment(
      c,
      (c.url.searchParams.get('part') === 'failed' ? failedFragment : thanksFragment)(view, wordsOf(s)),
      undefined,
    );
  };
  const notice = async (c: Call) => {
    const raw = (await readBody(c.req, SHOPPER_BODY)).toString('utf8');
    const headers = Object.fromEntries(
      ['webhook-id', 'webhook-timestamp', 'webhook-signature'].map((h) => [
        h,
        String(c.req.headers[h] ?? ''),
      ]),
    );
    await takeNotice(ctx, c.params.provider ?? '', headers, raw);
    send(c.res, json({ taken: true }));
  };
  const preflight = ({ res }: Call) =>
    send(res, {
      status: 204,
      headers: {
        ...cors,
        'access-control-allow-methods': 'GET, POST',
        'access-control-allow-headers': 'content-type, idempotency-key',
        'access-control-max-age': '86400',
      },
    });

  return [
    route('POST', '/v1/:shop/carts', add),
    route('POST', '/v1/:shop/carts/:token/lines', add),
    route('GET', '/v1/:shop/carts/:token', count),
    route('GET', '/v1/:shop/carts/:token/page', cartPage),
    route('POST', '/v1/:shop/carts/:token/page/lines/:line', setLine),
    route('POST', '/v1/:shop/carts/:token/page/codes', codes),
    route('GET', '/v1/:shop/carts/:token/page/checkout', checkoutPage),
    route('POST', '/v1/:shop/carts/:token/page/checkout', pay),
    route('POST', '/v1/:shop/carts/:token/page/checkout/sum', sum),
    route('GET', '/v1/:shop/orders/:token/page', order),
    route('POST', '/v1/notices/:provider', notice),
    route('OPTIONS', '/v1/*rest', preflight),
  ];
}

const idempotencyKey = (c: Call): string | null => {
  const key = c.req.headers['idempotency-key'];
  if (key === undefined) return null;
  // Who knows a key and what was asked with it is told what was answered: it has to be one that nobody guesses.
  if (typeof key !== 'string' || !/^[\w-]{16,64}$/.test(key))
    throw new HttpError(
      422,
      'An Idempotency-Key has 16 to 64 letters, digits or hyphens, and is different for each request.',
    );
  return key;
};

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
