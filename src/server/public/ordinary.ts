import { lookup } from 'mrmime';
import { html } from '../../core/storefront/html';
import { checkoutFragment } from '../../core/storefront/checkout';
import { cartFragment } from '../../core/storefront/fragments';
import { failedFragment, thanksFragment } from '../../core/storefront/order-page';
import { productFragment } from '../../core/storefront/product';
import { readState } from '../../core/storefront/shop-front';
import { stepWordsIn, wordsIn } from '../../core/languages/languages';
import { previewOf } from '../../services/goods/preview';
import { dressingOf } from '../../services/sites/shop-pages';
import type { Site } from '../../services/sites/site';
import { orderPageView, ordinaryOrderWays } from '../../services/storefront/order-view';
import {
  cartPageView,
  checkoutPageView,
  ordinaryWays,
  productPageView,
  viewOfProduct,
} from '../../services/storefront/views';
import { drawWidget, lookupAnswer } from '../../services/storefront/widgets';
import { addInput, addToCart } from '../../services/till/add-to-cart';
import { readCart } from '../../services/till/cart';
import { setCode, setQuantity } from '../../services/till/cart-changes';
import { atCheckout, checkoutForm, lookAgain } from '../../services/till/checkout';
import { goToPay } from '../../services/till/go-to-pay';
import { reconcile } from '../../services/till/payment';
import { HttpError, problem, readFields, send } from '../http';
import { choiceIn, saysOrder, strings } from './cart';
import { guardedLook } from './lookup-lock';
import { cartToAddTo, plainCart, rememberCart } from './plain-cart';
import { go } from './ordinary-page';
import { type Call, route } from './router';
import { plainBase, type Shop, siteOf } from './shop';
import { viaOf } from './via';

/**
 * The shop without any script: plain pages in the site's own chrome, on the shop's origin, from product to thank-you.
 * The owner's scripts never run here; the policy says so too.
 */
export const ordinaryRoutes = [
  route('GET', '/:shop/goods', goodsList),
  route('GET', '/:shop/lookup', askLookup),
  route('POST', '/:shop/lookup', orderLookup),
  route('GET', '/:shop/goods/:slug', product),
  route('POST', '/:shop/goods/:slug', buy),
  route('GET', '/:shop/preview/:token', preview),
  route('GET', '/:shop/cart/:token', cart),
  route('POST', '/:shop/cart/:token/lines/:line', setLine),
  route('POST', '/:shop/cart/:token/codes', codes),
  route('GET', '/:shop/checkout/:token', (shop, c) => checkout(shop, c, { values: {}, errors: {} })),
  route('POST', '/:shop/checkout/:token', pay),
  route('POST', '/:shop/checkout/:token/sum', sum),
  // Reloaded after a look at the sum, or come back to: the checkout itself.
  route('GET', '/:shop/checkout/:token/sum', (shop, c) =>
    go(c, `${plainBase(shop, c)}/checkout/${c.params.token}`),
  ),
  route('GET', '/:shop/thanks/:token', (shop, c) => order(shop, c, 'thanks')),
  route('GET', '/:shop/failed/:token', (shop, c) => order(shop, c, 'failed')),
  route('GET', '/:shop/site/:path{.+}', file),
];

type ProductCall = Call<'shop' | 'slug'>;
type CartCall = Call<'shop' | 'token'>;

async function goodsList(shop: Shop, c: Call<'shop'>): Promise<void> {
  const state = readState(c.url.searchParams);
  if (state.goods) {
    const price = state.price && `?price=${encodeURIComponent(state.price)}`;
    return go(c, `${plainBase(shop, c)}/goods/${encodeURIComponent(state.goods)}${price}`);
  }
  const asked = { kind: 'shop', attributes: new Map([['level', '2']]), state, via: viaOf(c) };
  await shop.shared(c, async (s) => ({
    title: s.row.shop?.name ?? 'Shop',
    content: await drawWidget(shop.ctx, s, asked),
  }));
}

async function askLookup(shop: Shop, c: Call<'shop'>): Promise<void> {
  const s = await siteOf(shop, c);
  const form = await drawWidget(shop.ctx, s, { kind: 'lookup', attributes: new Map() });
  await shop.page(c, s, wordsIn(s.row.locale).lookUp, form);
}

async function orderLookup(shop: Shop, c: Call<'shop'>): Promise<void> {
  const s = await siteOf(shop, c);
  const { number = '', email = '' } = strings(await readFields(c.req));
  const asked = { number: number.slice(0, 40), email: email.slice(0, 200) };
  const answer = await guardedLook(shop.ctx, shop.visitorOf(c), s, email, () =>
    lookupAnswer(shop.ctx, s, asked, new Map()),
  );
  const options = answer.found ? {} : { status: 404 };
  await shop.page(c, s, wordsIn(s.row.locale).lookUp, answer.html, options);
}

async function product(shop: Shop, c: ProductCall): Promise<void> {
  const price = c.url.searchParams.get('price') ?? '';
  try {
    await shop.shared(c, async (s) => {
      const w = wordsIn(s.row.locale);
      const view = await productPageView(shop.ctx, s, c.params.slug, viaOf(c), w, { price });
      return { title: view.name, content: productFragment(view, w), heading: false };
    });
  } catch (error) {
    if (problem(error).status !== 404) throw error;
    await gone(shop, c);
  }
}

/** A product that is hidden or no longer there: said in the site's own frame, whose bar leads to all goods. */
async function gone(shop: Shop, c: ProductCall): Promise<void> {
  const s = await siteOf(shop, c);
  await shop.page(c, s, wordsIn(s.row.locale).gone, html``, { status: 404 });
}

interface Wrong {
  readonly message: string;
  readonly status: number;
  readonly price?: string;
}

/** The product again, with what was wrong about what was asked of it. */
async function refused(shop: Shop, c: ProductCall, { message, status, price = '' }: Wrong): Promise<void> {
  const s = await siteOf(shop, c);
  const w = wordsIn(s.row.locale);
  const more = { problem: message, price };
  const view = await productPageView(shop.ctx, s, c.params.slug, viaOf(c), w, more);
  await shop.page(c, s, view.name, productFragment(view, w), { heading: false, status });
}

/** A product as it stands in the owner's sheet, unsaved. */
async function preview(shop: Shop, c: CartCall): Promise<void> {
  const s = await siteOf(shop, c);
  const w = wordsIn(s.row.locale);
  const draft = previewOf(shop.ctx, s, c.params.token);
  const counts = new Map(draft.kind === 'bundle' ? [] : draft.variants.map((v) => [v.id, v.stock]));
  const view = await viewOfProduct(shop.ctx, s, draft, { via: '', w, counts });
  await shop.page(c, s, view.name, productFragment(view, w), { heading: false });
}

async function buy(shop: Shop, c: ProductCall): Promise<void> {
  const { ctx } = shop;
  const s = await siteOf(shop, c);
  const fields = addInput.safeParse({ ...choiceIn(await readFields(c.req)), goods: c.params.slug });
  if (!fields.success)
    return refused(shop, c, { message: stepWordsIn(s.row.locale).needPieces, status: 422 });
  const wanted = { ...fields.data, page: `/goods/${c.params.slug}` };
  try {
    const { token } = await addToCart(ctx, s, await cartToAddTo(ctx, c, s), wanted, null);
    rememberCart(ctx, c, s, token);
    go(c, `${plainBase(shop, c)}/cart/${token}`);
  } catch (error) {
    const { status, body } = problem(error);
    if (status >= 500) throw error;
    await refused(shop, c, { message: String(body.title), status, price: fields.data.price });
  }
}

async function cart(shop: Shop, c: CartCall): Promise<void> {
  const { ctx } = shop;
  const { token } = c.params;
  const s = await siteOf(shop, c);
  const own = await plainCart(ctx, c, s);
  const read = await readCart(ctx, s, token);
  // What was added from elsewhere has joined the cart that was there before.
  if (own && own.token !== token && read.pieces === 0)
    return go(c, `${plainBase(shop, c)}/cart/${own.token}`);
  const w = stepWordsIn(s.row.locale);
  const ways = { ...ordinaryWays(ctx, s, token), back: `${plainBase(shop, c)}/goods` };
  const content = cartFragment(cartPageView(ctx, s, read, ways), w);
  await shop.page(c, s, w.yourCart, content, { cart: { token, pieces: read.pieces } });
}

async function setLine(shop: Shop, c: Call<'shop' | 'token' | 'line'>): Promise<void> {
  const { token, line } = c.params;
  const { quantity } = await readFields(c.req);
  await setQuantity(shop.ctx, await siteOf(shop, c), token, line, Number(quantity));
  go(c, `${plainBase(shop, c)}/cart/${token}`);
}

async function codes(shop: Shop, c: CartCall): Promise<void> {
  const { token } = c.params;
  const { code = '', out } = strings(await readFields(c.req));
  await setCode(shop.ctx, await siteOf(shop, c), token, out ?? code, out === undefined ? 'in' : 'out');
  go(c, `${plainBase(shop, c)}/cart/${token}`);
}

interface Form {
  readonly values: Record<string, string>;
  readonly errors: Record<string, string>;
  readonly problem?: string;
}

async function checkout(shop: Shop, c: CartCall, form: Form, status = 200): Promise<void> {
  const { ctx } = shop;
  const { token } = c.params;
  const s = await siteOf(shop, c);
  const action = `${plainBase(shop, c)}/checkout/${token}`;
  const asked = { problem: undefined, ...form, action, sumAction: `${action}/sum` };
  const view = await checkoutPageView(
    ctx,
    s,
    await atCheckout(ctx, s, token),
    ordinaryWays(ctx, s, token),
    asked,
  );
  const w = stepWordsIn(s.row.locale);
  await shop.page(c, s, w.checkout, checkoutFragment(view, w), { status });
}

async function sumFor(shop: Shop, c: CartCall, s: Site, values: Record<string, string>): Promise<void> {
  await lookAgain(shop.ctx, s, c.params.token, values);
  await checkout(shop, c, { values, errors: {} });
}

/** The sum for what stands in the form. Nothing can be ordered here. */
async function sum(shop: Shop, c: CartCall): Promise<void> {
  await sumFor(shop, c, await siteOf(shop, c), strings(await readFields(c.req)));
}

async function pay(shop: Shop, c: CartCall): Promise<void> {
  const { ctx } = shop;
  const { token } = c.params;
  const s = await siteOf(shop, c);
  const fields = await readFields(c.req);
  const values = strings(fields);
  if (!saysOrder(values)) return sumFor(shop, c, s, values);
  try {
    go(c, (await goToPay(ctx, s, token, await checkoutForm(ctx, s, token, fields), 'ordinary')).url);
  } catch (error) {
    const { status, body } = problem(error);
    if (status >= 500 && status !== 502) throw error;
    const errors = body.fields ?? {};
    const form = { values, errors, ...(!body.fields && { problem: String(body.title) }) };
    await checkout(shop, c, form, status);
  }
}

async function order(shop: Shop, c: CartCall, part: 'thanks' | 'failed'): Promise<void> {
  const s = await siteOf(shop, c);
  await reconcile(shop.ctx, c.params.token);
  const view = await orderPageView(shop.ctx, s, c.params.token, ordinaryOrderWays(shop.ctx, s));
  const w = stepWordsIn(s.row.locale);
  const isWaiting = view.state === 'waiting';
  if (view.state === 'failed' || (part === 'failed' && isWaiting))
    return shop.page(c, s, w.notThrough, failedFragment(view, w));
  const title = isWaiting ? w.oneMoment : w.thanks;
  await shop.page(c, s, title, thanksFragment(view, w), isWaiting ? { refresh: 3 } : {});
}

/** Style sheets, fonts and pictures of the chrome. Pages are not served from here: their scripts belong to the site's origin. */
async function file(shop: Shop, c: Call<'shop' | 'path'>): Promise<void> {
  const { ctx } = shop;
  const s = await siteOf(shop, c);
  const { path } = c.params;
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
}
