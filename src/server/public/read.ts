import { z } from 'zod';
import type { Product } from '../../core/goods/product';
import { groundsCss, type Look, lookCss, shapeIn } from '../../core/look/look';
import type { Shape } from '../../core/look/shape';
import type { Ctx } from '../../services/context';
import { pictureAt } from '../../services/goods/pictures';
import { catalogueOf } from '../../services/goods/catalogue';
import { feeds } from '../../services/storefront/feeds';
import { productPageView, productViews } from '../../services/storefront/views';
import {
  drawWidget,
  lookupAnswer,
  ownDeclarations,
  type WidgetCall,
} from '../../services/storefront/widgets';
import { lookFor } from '../../services/sites/look';
import type { Site } from '../../services/sites/site';
import { cartSign } from '../../core/storefront/cart-sign';
import { type Html, html } from '../../core/storefront/html';
import { readOwnCss } from '../../core/storefront/own-css';
import { glanceFragment } from '../../core/storefront/product';
import type { ProductView } from '../../core/storefront/views';
import { readState } from '../../core/storefront/shop-front';
import type { FrontStep } from '../../core/placement/hand-out/pasted';
import { type Words, wordsIn, stepWordsIn } from '../../core/languages/languages';
import { problem, readFields, send } from '../http';
import { cors, strings } from './cart';
import { jsonWithHtml } from './json-html';
import { FRESH, prepare, type Prepared, sendPrepared } from './prepared';
import { type Call, route } from './router';
import { type Shop, siteToShow } from './shop';
import { guardedLook } from './lookup-lock';

const slugs = z
  .string()
  .max(4000)
  .transform((s) => [...new Set(s.split(',').filter(Boolean))].sort());

/** What widgets and programs read: prepared once, the same for everybody. */
export const readRoutes = [
  route('GET', '/v1/:shop/page', page),
  route('GET', '/v1/:shop/widget/:kind', widget),
  route('GET', '/v1/:shop/glance/:slug', glance),
  route('POST', '/v1/:shop/lookup', lookup),
  route('GET', '/pictures/:hash/:file', picture),
  ...Object.entries(feeds).map(([name, make]) =>
    route('GET', `/:shop/${name as keyof typeof feeds}`, (shop, c) => feed(shop, c, make)),
  ),
];

/** Answers with what was prepared for this address; made when it is not there. */
async function prepared(shop: Shop, c: Call, site: Site, make: () => Promise<Prepared>): Promise<void> {
  sendPrepared(c.req, c.res, await shop.answers.get(site.row.id, c.req.url ?? '', make));
}

const HTML = { ...FRESH, 'content-type': 'text/html; charset=utf-8' };
const JSON_FRESH = { ...FRESH, 'content-type': 'application/json; charset=utf-8' };

/** One request for all the widgets of a page: their products, and the look they wear. */
async function page(shop: Shop, c: Call<'shop'>): Promise<void> {
  const site = await siteToShow(shop, c);
  const { searchParams } = c.url;
  await prepared(shop, c, site, async () => {
    const words = wordsIn(searchParams.get('lang') || site.row.locale);
    const goods = await goodsOf(shop.ctx, site, slugs.parse(searchParams.get('goods') ?? ''), words);
    const worn = await lookFor(shop.ctx, site, searchParams.get('draft'));
    const [look, grounds] = [lookCss(worn), groundsCss(worn)];
    const asked = searchParams.getAll('w');
    const html = await drawn(shop.ctx, site, asked, shapeIn(worn));
    const css = readOwnCss(worn.css).inWidgets;
    const steps = site.row.delivery.to === 'paste' ? stepNames(site, searchParams.get('lang')) : undefined;
    const dress = {
      look,
      grounds,
      own: ownOf(asked, worn),
      sign: signIn(worn),
      ...(css && { css }),
      ...(steps && { steps }),
    };
    return prepare(jsonWithHtml({ goods, ...dress, words: widgetWords(words) }, 'html', html), JSON_FRESH);
  });
}

/** What the parts of a shop are called that stand inside one shop front: they have no page that says it. */
function stepNames(site: Site, lang: string | null): Readonly<Record<FrontStep, string>> {
  const locale = lang || site.row.locale;
  const w = stepWordsIn(locale);
  return {
    cart: w.yourCart,
    checkout: w.checkout,
    thanks: w.thanks,
    failed: w.notThrough,
    lookup: wordsIn(locale).lookUp,
    account: w.yourOrders,
  };
}

/** What buttons say of products, by the addresses that the page names. */
async function goodsOf(
  ctx: Ctx,
  site: Site,
  wanted: readonly string[],
  words: Words,
): Promise<Record<string, object>> {
  const found = wanted.length ? await goodsBySlug(ctx, site.row.id, wanted) : [];
  const products = found.map(([, p]) => p);
  const views = await productViews(ctx, site, products, words);
  return Object.fromEntries(views.map((g, n) => [found[n]?.[0] ?? g.slug, buttonData(g, words)]));
}

function buttonData(g: ProductView, words: Words): object {
  const { name, price, stock, soldOut, open } = g;
  const leads = g.action !== 'add' && g.action !== 'amount';
  return {
    ...{ name, price, stock, soldOut },
    ...(g.partGone && { out: words.notNow }),
    open,
    ...(leads && { href: g.href, action: words[actionWord[g.action]] }),
    ...(g.variants.length > 0 && {
      choices: Object.fromEntries(
        g.variants.map((v) => [v.values.join(', '), [v.id, v.price, v.stock, v.soldOut]]),
      ),
    }),
  };
}

/** Words that widgets say by themselves; the rest comes drawn. */
const said = [
  'buy',
  'soldOut',
  'inCart',
  'seeCart',
  'failed',
  'cart',
  'pieces',
  'lang',
  'amount',
  'least',
  'close',
  'empty',
  'yourCart',
  'toCheckout',
  'account',
  'keepLooking',
  'notHad',
  'quickLook',
] as const satisfies readonly (keyof Words)[];
const widgetWords = (words: Words) => Object.fromEntries(said.map((key) => [key, words[key]]));

/** One widget alone, for a shop front that a shopper leafs through. */
async function widget(shop: Shop, c: Call<'shop' | 'kind'>): Promise<void> {
  const site = await siteToShow(shop, c);
  const own = c.url.searchParams.get('own') ?? '';
  await prepared(shop, c, site, async () => {
    const asked = callOf(`${c.params.kind}?${own}`, c.url.searchParams);
    const worn = await lookFor(shop.ctx, site, c.url.searchParams.get('draft'));
    return prepare((await drawWidget(shop.ctx, site, { ...asked, shape: shapeIn(worn) })).text, HTML);
  });
}

/** A quick look at a product. */
async function glance(shop: Shop, c: Call<'shop' | 'slug'>): Promise<void> {
  const site = await siteToShow(shop, c);
  await prepared(shop, c, site, async () => {
    const w = wordsIn(c.url.searchParams.get('lang') || site.row.locale);
    return prepare(glanceFragment(await productPageView(shop.ctx, site, c.params.slug, '', w), w).text, HTML);
  });
}

async function lookup(shop: Shop, c: Call<'shop'>): Promise<void> {
  const site = await siteToShow(shop, c);
  const { number = '', email = '' } = strings(await readFields(c.req));
  const asked = { number: number.slice(0, 40), email: email.slice(0, 200) };
  const own = new Map(new URLSearchParams(c.url.searchParams.get('own') ?? ''));
  const look = () => lookupAnswer(shop.ctx, site, asked, own);
  const { found, html: answer } = await guardedLook(shop.ctx, shop.visitorOf(c), site, email, look);
  send(c.res, {
    status: found ? 200 : 404,
    type: 'text/html; charset=utf-8',
    body: answer.text,
    headers: cors,
  });
}

async function picture({ ctx }: Shop, { req, res, params }: Call<'hash' | 'file'>): Promise<void> {
  const [, width = '480', webp] = /^(\d{1,4})(\.webp)?$/.exec(params.file) ?? [];
  const takesAvif = !webp && /\bimage\/avif\b/.test(req.headers.accept ?? '');
  const { type, body } = await pictureAt(ctx, params.hash, Number(width), takesAvif);
  const isKept = webp !== undefined || type === 'image/avif';
  send(res, {
    type,
    body,
    headers: {
      ...(!webp && { vary: 'accept' }),
      'cache-control': `public, max-age=${isKept ? '31536000, immutable' : '86400'}`,
      'access-control-allow-origin': '*',
      'cross-origin-resource-policy': 'cross-origin',
    },
  });
}

async function feed(shop: Shop, c: Call<'shop'>, make: (typeof feeds)[keyof typeof feeds]): Promise<void> {
  const site = await siteToShow(shop, c);
  await prepared(shop, c, site, async () => {
    const { type, body } = await make(shop.ctx, site);
    return prepare(body, { ...FRESH, 'content-type': type });
  });
}

/** What a button says that does not put into the cart at once. */
const actionWord = { choose: 'chooseOptions', book: 'bookPlace', see: 'seeShort' } as const;

/** Products by the addresses a page names, former ones too; hidden ones are none. */
async function goodsBySlug(
  ctx: Ctx,
  siteId: string,
  wanted: readonly string[],
): Promise<(readonly [string, Product])[]> {
  const { bySlug } = await catalogueOf(ctx, siteId);
  return wanted.flatMap((slug) => {
    const p = bySlug.get(slug);
    return p && p.shows !== 'hidden' ? [[slug, p] as const] : [];
  });
}

/** Widgets that one page may ask for at once; more are left to ask again. Chosen by hand. */
const AT_ONCE = 40;

/** "row?source=newest" → the row, drawn. What does not fit is told in words, where the widget would stand. */
async function drawn(
  ctx: Ctx,
  site: Site,
  asked: readonly string[],
  shape: Shape,
): Promise<Record<string, Html>> {
  const out: Record<string, Html> = {};
  for (const one of [...new Set(asked)].slice(0, AT_ONCE)) {
    out[one] = await drawWidget(ctx, site, { ...callOf(one), shape }).catch((error: unknown) => {
      const { status, body } = problem(error);
      if (status >= 500) throw error;
      return html`<p class="stall-alert" role="alert">${String(body.title)}</p>`;
    });
  }
  return out;
}

/** What widgets depart from the shop's shape in, by what was asked for. */
const ownOf = (asked: readonly string[], worn: Look): Record<string, string> =>
  Object.fromEntries(
    asked.flatMap((one) => {
      const own = ownDeclarations(callOf(one).attributes, worn);
      return own ? [[one, own]] : [];
    }),
  );

/** The cart's sign, drawn here: a page need not know all the drawings that there are. */
function signIn(worn: Look): { readonly svg: string; readonly count: string } {
  const { sign, 'sign-count': count } = shapeIn(worn);
  return { svg: cartSign(sign), count };
}

function callOf(one: string, asked?: URLSearchParams): WidgetCall {
  // "shop?columns=3#find=trug": the kind, its own settings, and what a shopper asked of it.
  const [whole = '', state = ''] = one.split(/#(.*)/s);
  const [kind = '', own = ''] = whole.split(/\?(.*)/s);
  return {
    kind,
    attributes: new Map(new URLSearchParams(own)),
    state: readState(asked ?? new URLSearchParams(state)),
  };
}
