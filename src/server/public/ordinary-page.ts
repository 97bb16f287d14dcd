import { createHash, randomBytes } from 'node:crypto';
import { escapeHtml } from '../../core/html/escape';
import { lookRules } from '../../core/look/look';
import { type Html, html } from '../../core/storefront/html';
import { readOwnCss } from '../../core/storefront/own-css';
import { count, wordsIn } from '../../core/languages/languages';
import type { Ctx } from '../../services/context';
import { plainPage } from '../../services/sites/shop-pages';
import { liveLook } from '../../services/sites/look';
import { type Site, siteForReading } from '../../services/sites/site';
import { send, sendPressed } from '../http';
import type { Call } from './router';
import { hasCart, type PlainCart, plainCart } from './plain-cart';
import { FRESH, prepare, type PreparedAnswers, sendPrepared } from './prepared';

interface PageOptions {
  readonly heading?: boolean;
  readonly status?: number;
  /** Seconds after which the page looks again. */
  readonly refresh?: number;
  /** The cart that this page is about, where its address names one: what the cookie says is not asked. */
  readonly cart?: PlainCart;
}

/** What a page shows, whoever asks for it. */
interface Shown {
  readonly title: string;
  readonly content: Html;
  readonly heading?: boolean;
}

/** Stands where the cart of whoever asks goes into a page that is otherwise the same for all. */
const CART_PLACE = `stallPlaceOfCart${randomBytes(12).toString('hex')}`;

const policyOf = (ctx: Ctx): string =>
  `default-src 'none'; img-src 'self' https: http: data:; style-src 'self' 'unsafe-inline'; font-src 'self' data:; form-action 'self' ${Object.values(
    ctx.providers,
  )
    .map((p) => p.pages)
    .join(' ')}; base-uri 'none'; frame-ancestors ${ctx.addresses.office}`;

/** A page in the site's chrome, as bytes in the site's own encoding. @param cart the way to a cart, as HTML; '' for none. */
async function bytesOf(
  ctx: Ctx,
  s: Site,
  { title, content, heading = true }: Shown,
  { refresh = 0, cart }: { readonly refresh?: number; readonly cart: string },
): Promise<Buffer> {
  const worn = await liveLook(ctx, s);
  const look = lookRules(worn, '.stall') + readOwnCss(worn.css).onPages;
  const bar = html`<a class="stall-way" href="${ctx.addresses.shop}/${s.row.slug}/goods">${wordsIn(s.row.locale).all}</a>`;
  const nav = `<nav class="stall-bar" aria-label="${escapeHtml(wordsIn(s.row.locale).shopWay)}">${bar.text}${cart}</nav>`;
  const head = `<meta name="robots" content="noindex"><link rel="stylesheet" href="${ctx.addresses.shop}/stall.css"><style>${look}</style>${refresh ? `<meta http-equiv="refresh" content="${refresh}">` : ''}`;
  const main = `<div class="stall">${nav}</div>${heading ? `<h1>${escapeHtml(title)}</h1>` : ''}<div class="stall">${content.text}</div>`;
  return Buffer.from(await plainPage(ctx, s, { title, main, head }));
}

/** Along all plain pages: the way to the cart with what is in it. */
function cartWay(ctx: Ctx, s: Site, cart: PlainCart | undefined): string {
  if (!cart) return '';
  const w = wordsIn(s.row.locale);
  return html`<a class="stall-way" href="${ctx.addresses.shop}/${s.row.slug}/cart/${cart.token}">${w.cart}, ${count(w, w.pieces, cart.pieces)}</a>`
    .text;
}

/** Answers with a plain page. */
export type ShowPage = (
  c: Call,
  s: Site,
  title: string,
  content: Html,
  options?: PageOptions,
) => Promise<void>;
/** Answers with a plain page that is the same for everybody. */
export type ShowShared = (c: Call<'shop'>, draw: (s: Site) => Promise<Shown>) => Promise<void>;

/** A plain page of the shop's own origin, in the site's chrome. The owner's scripts never run here; the policy says so too. */
export function ordinaryPage(ctx: Ctx): ShowPage {
  const policy = policyOf(ctx);
  return async (c, s, title, content, options = {}) => {
    const { heading = true, refresh = 0, status = 200 } = options;
    const cart = cartWay(ctx, s, options.cart ?? (await plainCart(ctx, c, s)));
    // Addresses of these pages carry carts and sessions: no other site is told them, and nobody keeps them.
    sendPressed(c.req, c.res, {
      status,
      type: 'text/html',
      body: await bytesOf(ctx, s, { title, content, heading }, { refresh, cart }),
      headers: {
        'content-security-policy': policy,
        'cache-control': 'no-store',
        'referrer-policy': 'same-origin',
      },
    });
  };
}

/**
 * A plain page that is the same for all who have no cart: made once, with an ETag and a policy for caches, and dropped by any change.
 * Whoever has a cart gets the very same page with the way to it.
 */
export function sharedPage(ctx: Ctx, answers: PreparedAnswers): ShowShared {
  const common = {
    'content-type': 'text/html',
    'content-security-policy': policyOf(ctx),
    'referrer-policy': 'same-origin',
    vary: 'accept-encoding, cookie',
  };
  return async (c, draw) => {
    const s = await siteForReading(ctx, c.params.shop);
    const { id } = s.row;
    const address = c.req.url ?? '';
    if (!hasCart(c)) {
      const make = async () =>
        prepare(await bytesOf(ctx, s, await draw(s), { cart: '' }), { ...common, ...FRESH });
      sendPrepared(c.req, c.res, await answers.get(id, address, make));
      return;
    }
    const cart = cartWay(ctx, s, await plainCart(ctx, c, s));
    const make = async () => prepare(await bytesOf(ctx, s, await draw(s), { cart: CART_PLACE }), {});
    // No address has a space in it: nobody asks for this by itself.
    const { plain } = await answers.get(id, `${address} with a cart`, make);
    const etag = `"${createHash('blake2b512').update(`${plain.etag} ${cart}`).digest('base64url').slice(0, 27)}"`;
    const headers = { ...common, 'cache-control': 'private, no-cache', etag };
    if (c.req.headers['if-none-match'] === etag) return send(c.res, { status: 304, headers });
    const at = plain.body.indexOf(CART_PLACE);
    const body = Buffer.concat([
      plain.body.subarray(0, at),
      Buffer.from(cart),
      plain.body.subarray(at + CART_PLACE.length),
    ]);
    sendPressed(c.req, c.res, { body, headers });
  };
}

export const go = (c: Call, url: string): void =>
  send(c.res, { status: 303, headers: { location: url, 'cache-control': 'no-store' } });
