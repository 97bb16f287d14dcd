import { lookup } from 'mrmime';
import { html } from '../../core/storefront/html';
import { checkoutFragment } from '../../core/storefront/checkout';
import { cartFragment } from '../../core/storefront/fragments';
import { failedFragment, thanksFragment } from '../../core/storefront/order-page';
import { productFragment } from '../../core/storefront/product';
import { readState } from '../../core/storefront/shop-front';
import { stepWordsIn, wordsIn } from '../../core/storefront/words';
import type { Ctx } from '../../services/context';
import { previewOf } from '../../services/goods/preview';
import { dressingOf } from '../../services/sites/shop-pages';
import { loadSite, type Site } from '../../services/sites/site';
import { orderPageView, ordinaryOrderWays } from '../../services/storefront/order-view';
import {
  cartPageView,
  checkoutPageView,
  ordinaryWays,
  productPageView,
  viewOfProduct,
} from '../../services/storefront/views';
import { drawWidget, lookupAnswer } from '../../services/storefront/widgets';
import { addInput, addToCart, readCart, setCode, setQuantity } from '../../services/till/cart';
import { atCheckout, lookAgain } from '../../services/till/checkout';
import { goToPay } from '../../services/till/go-to-pay';
import { checkoutForm } from '../../services/till/checkout';
import { reconcile } from '../../services/till/payment';
import { HttpError, problem, readFields, send } from '../http';
import { type Call, route } from '../router';
import { choiceIn, saysOrder, strings } from './cart';
import { guardedLook } from './lookup-lock';
import { cartToAddTo, plainCart, rememberCart } from './plain-cart';
import { go, ordinaryPage, sharedPage } from './ordinary-page';
import type { PreparedAnswers } from './prepared';

interface Wrong {
  readonly message: string;
  readonly status: number;
  readonly price?: string;
}

/**
 * The shop without any script: plain pages in the site's own chrome, on the shop's origin, from product to thank-you.
 * The owner's scripts never run here; the policy says so too.
 */
export function ordinaryRoutes(ctx: Ctx, answers: PreparedAnswers) {
  const site = (c: Call) => loadSite(ctx, { slug: c.params.shop ?? '' });
  const base = (c: Call) => `${ctx.addresses.shop}/${c.params.shop}`;
  const page = ordinaryPage(ctx);
  const shared = sharedPage(ctx, answers);

  const goodsList = async (c: Call) => {
    const state = readState(c.url.searchParams);
    if (state.goods)
      return go(
        c,
        `${base(c)}/goods/${encodeURIComponent(state.goods)}${state.price && `?price=${encodeURIComponent(state.price)}`}`,
      );
    const asked = { kind: 'shop', attributes: new Map([['level', '2']]), state, via: viaOf(c) };
    await shared(c, async (s) => ({
      title: s.row.shop?.name ?? 'Shop',
      content: await drawWidget(ctx, s, asked),
    }));
  };
  const orderLookup = async (c: Call) => {
    const s = await site(c);
    const words = wordsIn(s.row.locale);
    if (c.req.method !== 'POST')
      return page(c, s, words.lookUp, await drawWidget(ctx, s, { kind: 'lookup', attributes: new Map() }));
    const { number = '', email = '' } = strings(await readFields(c.req));
    const answer = await guardedLook(ctx, c, s, email, () =>
      lookupAnswer(ctx, s, { number: number.slice(0, 40), email: email.slice(0, 200) }, new Map()),
    );
    await page(c, s, words.lookUp, answer.html, answer.found ? {} : { status: 404 });
  };
  const product = async (c: Call) => {
    const price = c.url.searchParams.get('price') ?? '';
    try {
      await shared(c, async (s) => {
        const w = wordsIn(s.row.locale);
        const view = await productPageView(ctx, s, c.params.slug ?? '', viaOf(c), w, { price });
        return { title: view.name, content: productFragment(view, w), heading: false };
      });
    } catch (error) {
      if (problem(error).status !== 404) throw error;
      await gone(c);
    }
  };
  /** A product that is hidden or no longer there: said in the site's own frame, whose bar leads to all goods. */
  const gone = async (c: Call) => {
    const s = await site(c);
    await page(c, s, wordsIn(s.row.locale).gone, html``, { status: 404 });
  };
  /** The product again, with what was wrong about what was asked of it. */
  const refused = async (c: Call, { message, status, price = '' }: Wrong) => {
    const s = await site(c);
    const w = wordsIn(s.row.locale);
    const more = { problem: message, price };
    const view = await productPageView(ctx, s, c.params.slug ?? '', viaOf(c), w, more);
    await page(c, s, view.name, productFragment(view, w), { heading: false, status });
  };
  /** A product as it stands in the owner's sheet, unsaved. */
  const preview = async (c: Call) => {
    const s = await site(c);
    const w = wordsIn(s.row.locale);
    const draft = previewOf(ctx, s, c.params.token ?? '');
    const view = await viewOfProduct(ctx, s, draft, {
      via: '',
      w,
      counts: new Map(draft.kind === 'bundle' ? [] : draft.variants.map((v) => [v.id, v.stock])),
    });
    await page(c, s, view.name, productFragment(view, w), { heading: false });
  };
  const buy = async (c: Call) => {
    const s = await site(c);
    const fields = addInput.safeParse({ ...choiceIn(await readFields(c.req)), goods: c.params.slug });
    if (!fields.success) return refused(c, { message: stepWordsIn(s.row.locale).needPieces, status: 422 });
    try {
      const cart = await addToCart(
        ctx,
        s,
        await cartToAddTo(ctx, c, s),
        { ...fields.data, page: `/goods/${c.params.slug}` },
        null,
      );
      rememberCart(ctx, c, s, cart.token);
      go(c, `${base(c)}/cart/${cart.token}`);
    } catch (error) {
      const { status, body } = problem(error);
      if (status >= 500) throw error;
      await refused(c, { message: String(body.title), status, price: fields.data.price });
    }
  };
  const cart = async (c: Call) => {
    const s = await site(c);
    const token = c.params.token ?? '';
    const w = stepWordsIn(s.row.locale);
    const own = await plainCart(ctx, c, s);
    const read = await readCart(ctx, s, token);
    // What was added from elsewhere has joined the cart that was there before.
    if (own && own.token !== token && read.pieces === 0) return go(c, `${base(c)}/cart/${own.token}`);
    await page(
      c,
      s,
      w.yourCart,
      cartFragment(
        cartPageView(ctx, s, read, {
          ...ordinaryWays(ctx, s, token),
          back: `${base(c)}/goods`,
        }),
        w,
      ),
      { cart: { token, pieces: read.pieces } },
    );
  };
  const setLine = async (c: Call) => {
    const token = c.params.token ?? '';
    await setQuantity(
      ctx,
      await site(c),
      token,
      c.params.line ?? '',
      Number((await readFields(c.req)).quantity),
    );
    go(c, `${base(c)}/cart/${token}`);
  };
  const codes = async (c: Call) => {
    const token = c.params.token ?? '';
    const { code = '', out } = strings(await readFields(c.req));
    await setCode(ctx, await site(c), token, out ?? code, out === undefined ? 'in' : 'out');
    go(c, `${base(c)}/cart/${token}`);
  };
  const checkout = async (
    c: Call,
    form: { values: Record<string, string>; errors: Record<string, string>; problem?: string } = {
      values: {},
      errors: {},
    },
    status = 200,
  ) => {
    const s = await site(c);
    const token = c.params.token ?? '';
    const view = await checkoutPageView(
      ctx,
      s,
      await atCheckout(ctx, s, token),
      ordinaryWays(ctx, s, token),
      {
        problem: undefined,
        ...form,
        action: `${base(c)}/checkout/${token}`,
        sumAction: `${base(c)}/checkout/${token}/sum`,
      },
    );
    const w = stepWordsIn(s.row.locale);
    await page(c, s, w.checkout, checkoutFragment(view, w), { status });
  };
  const lookAt = async (c: Call, s: Site, values: Record<string, string>) => {
    await lookAgain(ctx, s, c.params.token ?? '', values);
    await checkout(c, { values, errors: {} });
  };
  /** The sum for what stands in the form. Nothing can be ordered here. */
  const sum = async (c: Call) => lookAt(c, await site(c), strings(await readFields(c.req)));
  const pay = async (c: Call) => {
    const s = await site(c);
    const token = c.params.token ?? '';
    const fields = await readFields(c.req);
    if (!saysOrder(strings(fields))) return lookAt(c, s, strings(fields));
    try {
      go(c, (await goToPay(ctx, s, token, await checkoutForm(ctx, s, token, fields), 'ordinary')).url);
    } catch (error) {
      const { status, body } = problem(error);
      if (status >= 500 && status !== 502) throw error;
      const errors = (body.fields ?? {}) as Record<string, string>;
      await checkout(
        c,
        { values: strings(fields), errors, ...(!body.fields && { problem: String(body.title) }) },
        status,
      );
    }
  };
  const order = async (c: Call, part: 'thanks' | 'failed') => {
    const s = await site(c);
    await reconcile(ctx, c.params.token ?? '');
    const view = await orderPageView(ctx, s, c.params.token ?? '', ordinaryOrderWays(ctx, s));
    const failed = view.state === 'failed' || (part === 'failed' && view.state === 'waiting');
    const w = stepWordsIn(s.row.locale);
    const titles: Partial<Record<typeof view.state, string>> = { waiting: w.oneMoment };
    const title = failed ? w.notThrough : (titles[view.state] ?? w.thanks);
    await page(
      c,
      s,
      title,
      failed ? failedFragment(view, w) : thanksFragment(view, w),
      view.state === 'waiting' && !failed ? { refresh: 3 } : {},
    );
  };
  /** Style sheets, fonts and pictures of the chrome. Pages are not served from here: their scripts belong to the site's origin. */
  const file = async (c: Call) => {
    const s = await site(c);
    const path = c.params.path ?? '';
    const hash = s.manifest[path];
    if (!hash || !(await dressingOf(ctx, s)).has(path)) throw new HttpError(404, 'There is no such file.');
    send(c.res, {
      type: lookup(path) ?? 'application/octet-stream',
      body: await ctx.blobs.get(hash),
      headers: {
        'access-control-allow-origin': '*',
        'cache-control': 'public, max-age=300',
        etag: `"${hash}"`,
        'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      },
    });
  };

  return [
    route('GET', '/:shop/goods', goodsList),
    route('GET', '/:shop/lookup', orderLookup),
    route('POST', '/:shop/lookup', orderLookup),
    route('GET', '/:shop/goods/:slug', product),
    route('POST', '/:shop/goods/:slug', buy),
    route('GET', '/:shop/preview/:token', preview),
    route('GET', '/:shop/cart/:token', cart),
    route('POST', '/:shop/cart/:token/lines/:line', setLine),
    route('POST', '/:shop/cart/:token/codes', codes),
    route('GET', '/:shop/checkout/:token', (c) => checkout(c)),
    route('POST', '/:shop/checkout/:token', pay),
    route('POST', '/:shop/checkout/:token/sum', sum),
    // Reloaded after a look at the sum, or come back to: the checkout itself.
    route('GET', '/:shop/checkout/:token/sum', (c) => go(c, `${base(c)}/checkout/${c.params.token}`)),
    route('GET', '/:shop/thanks/:token', (c) => order(c, 'thanks')),
    route('GET', '/:shop/failed/:token', (c) => order(c, 'failed')),
    route('GET', '/:shop/site/*path', file),
  ];
}

/** The placement a shopper came through, from the address. */
export const viaOf = (c: Call): string =>
  /^[a-z0-9]{8,16}$/.exec(c.url.searchParams.get('via') ?? '')?.[0] ?? '';
