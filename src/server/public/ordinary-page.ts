import { escapeHtml } from '../../core/html/escape';
import { lookCss } from '../../core/look/look';
import type { Html } from '../../core/storefront/html';
import type { Ctx } from '../../services/context';
import { buildOrdinaryPage } from '../../services/sites/shop-pages';
import { type Site, siteLook } from '../../services/sites/site';
import { send } from '../http';
import type { Call } from '../router';

interface PageOptions {
  readonly heading?: boolean;
  readonly status?: number;
  /** Seconds after which the page looks again. */
  readonly refresh?: number;
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
    const body = await buildOrdinaryPage(ctx, s, {
      title,
      main: `${heading}<div class="stall" style="${lookCss(await siteLook(ctx, s))}">${content.text}</div>`,
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

export const go = (c: Call, url: string): void =>
  send(c.res, { status: 303, headers: { location: url, 'cache-control': 'no-store' } });
