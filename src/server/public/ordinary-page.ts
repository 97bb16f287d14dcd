import { escapeHtml } from '../../core/html/escape';
import { lookCss } from '../../core/look/look';
import { type Html, html } from '../../core/storefront/html';
import { count, wordsIn } from '../../core/storefront/words';
import type { Ctx } from '../../services/context';
import { buildOrdinaryPage } from '../../services/sites/shop-pages';
import { type Site, siteLook } from '../../services/sites/site';
import { send } from '../http';
import type { Call } from '../router';
import { type PlainCart, plainCart } from './plain-cart';

interface PageOptions {
  readonly heading?: boolean;
  readonly status?: number;
  /** Seconds after which the page looks again. */
  readonly refresh?: number;
  /** The cart that this page is about, where its address names one: what the cookie says is not asked. */
  readonly cart?: PlainCart;
}

/** A plain page of the shop's own origin, in the site's chrome. The owner's scripts never run here; the policy says so too. */
export function ordinaryPage(ctx: Ctx) {
  const policy = `default-src 'none'; img-src 'self' https: http: data:; style-src 'self' 'unsafe-inline'; font-src 'self' data:; form-action 'self' ${Object.values(
    ctx.providers,
  )
    .map((p) => p.pages)
    .join(' ')}; base-uri 'none'; frame-ancestors ${ctx.addresses.office}`;
  return async (c: Call, s: Site, title: string, content: Html, options: PageOptions = {}): Promise<void> => {
    const head = `<meta name="robots" content="noindex"><link rel="stylesheet" href="${ctx.addresses.shop}/stall.css">${options.refresh ? `<meta http-equiv="refresh" content="${options.refresh}">` : ''}`;
    const heading = options.heading === false ? '' : `<h1>${escapeHtml(title)}</h1>`;
    const bar = plainBar(ctx, s, options.cart ?? (await plainCart(ctx, c, s)));
    const look = lookCss(await siteLook(ctx, s));
    const body = await buildOrdinaryPage(ctx, s, {
      title,
      main: `<div class="stall" style="${look}">${bar.text}</div>${heading}<div class="stall" style="${look}">${content.text}</div>`,
      head,
    });
    // Addresses of these pages carry carts and sessions: no other site is told them.
    send(c.res, {
      status: options.status ?? 200,
      type: 'text/html',
      body,
      headers: {
        'content-security-policy': policy,
        'cache-control': 'no-store',
        'referrer-policy': 'same-origin',
      },
    });
  };
}

/** Along all plain pages: the way to the goods, and to the cart with what is in it. */
function plainBar(ctx: Ctx, s: Site, cart: PlainCart | undefined): Html {
  const w = wordsIn(s.row.locale);
  const base = `${ctx.addresses.shop}/${s.row.slug}`;
  return html`<nav class="stall-bar" aria-label="${w.shopWay}"><a class="stall-way" href="${base}/goods">${w.all}</a>${cart && html`<a class="stall-way" href="${base}/cart/${cart.token}">${w.cart}, ${count(w, w.pieces, cart.pieces)}</a>`}</nav>`;
}

export const go = (c: Call, url: string): void =>
  send(c.res, { status: 303, headers: { location: url, 'cache-control': 'no-store' } });
