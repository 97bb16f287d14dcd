import { z } from 'zod';
import type { Product } from '../../core/goods/product';
import { lookCss } from '../../core/look/look';
import type { Ctx } from '../../services/context';
import { pictureAt } from '../../services/goods/pictures';
import { catalogueOf } from '../../services/goods/catalogue';
import { feeds } from '../../services/storefront/feeds';
import { productPageView, productViews } from '../../services/storefront/views';
import { drawWidget, lookupAnswer, type WidgetCall } from '../../services/storefront/widgets';
import { type Site, siteForReading, siteLook } from '../../services/sites/site';
import { type Html, html } from '../../core/storefront/html';
import { glanceFragment } from '../../core/storefront/product';
import { readState } from '../../core/storefront/shop-front';
import { wordsIn } from '../../core/storefront/words';
import { problem, readFields, send } from '../http';
import { cors, strings } from './cart';
import { type Call, route } from '../router';
import { jsonWithHtml } from './json-html';
import { FRESH, prepare, type PreparedAnswers, sendPrepared } from './prepared';
import { guardedLook } from './lookup-lock';

const slugs = z
  .string()
  .max(4000)
  .transform((s) => [...new Set(s.split(',').filter(Boolean))].sort());

/** One request for all the widgets of a page: their products, and the look they wear. */
export function readRoutes(ctx: Ctx, answers: PreparedAnswers) {
  const page = async ({ req, res, url, params }: Call) => {
    const site = await siteForReading(ctx, params.shop ?? '');
    const { id } = site.row;
    const prepared = await answers.get(id, req.url ?? '', async () => {
      const wanted = slugs.parse(url.searchParams.get('goods') ?? '');
      const lang = url.searchParams.get('lang') || site.row.locale;
      const words = wordsIn(lang);
      const found = wanted.length ? await goodsBySlug(ctx, id, wanted) : [];
      const views = await productViews(
        ctx,
        site,
        found.map(([, p]) => p),
        words,
      );
      const goods = Object.fromEntries(
        views.map((g, n) => [
          found[n]?.[0] ?? g.slug,
          {
            name: g.name,
            price: g.price,
            stock: g.stock,
            soldOut: g.soldOut,
            ...(g.partGone && { out: words.notNow }),
            open: g.open,
            ...(g.action !== 'add' &&
              g.action !== 'amount' && { href: g.href, action: words[actionWord[g.action]] }),
            ...(g.variants.length > 0 && {
              choices: Object.fromEntries(
                g.variants.map((v) => [v.values.join(', '), [v.id, v.price, v.stock, v.soldOut]]),
              ),
            }),
          },
        ]),
      );
      const {
        buy,
        soldOut,
        inCart,
        seeCart,
        failed,
        cart,
        pieces,
        amount,
        least,
        close,
        empty,
        yourCart,
        toCheckout,
        account,
        keepLooking,
        notHad,
        quickLook,
      } = words;
      const html = await drawn(ctx, site, url.searchParams.getAll('w'));
      return prepare(
        jsonWithHtml(
          {
            goods,
            look: lookCss(await siteLook(ctx, site)),
            words: {
              buy,
              soldOut,
              inCart,
              seeCart,
              failed,
              cart,
              pieces,
              lang: words.lang,
              amount,
              least,
              close,
              empty,
              yourCart,
              toCheckout,
              account,
              keepLooking,
              notHad,
              quickLook,
            },
          },
          'html',
          html,
        ),
        { ...FRESH, 'content-type': 'application/json; charset=utf-8' },
      );
    });
    sendPrepared(req, res, prepared);
  };

  /** One widget alone, for a shop front that a shopper leafs through. */
  const widget = async ({ req, res, url, params }: Call) => {
    const site = await siteForReading(ctx, params.shop ?? '');
    const { id } = site.row;
    const prepared = await answers.get(id, req.url ?? '', async () => {
      const found = await drawWidget(
        ctx,
        site,
        callOf(`${params.kind}?${url.searchParams.get('own') ?? ''}`, url.searchParams),
      );
      return prepare(found.text, { ...FRESH, 'content-type': 'text/html; charset=utf-8' });
    });
    sendPrepared(req, res, prepared);
  };
  /** A quick look at a product. */
  const glance = async ({ req, res, url, params }: Call) => {
    const site = await siteForReading(ctx, params.shop ?? '');
    const { id } = site.row;
    sendPrepared(
      req,
      res,
      await answers.get(id, req.url ?? '', async () => {
        const w = wordsIn(url.searchParams.get('lang') || site.row.locale);
        const view = await productPageView(ctx, site, params.slug ?? '', '', w);
        return prepare(glanceFragment(view, w).text, {
          ...FRESH,
          'content-type': 'text/html; charset=utf-8',
        });
      }),
    );
  };
  const lookup = async (c: Call) => {
    const site = await siteForReading(ctx, c.params.shop ?? '');
    const { number = '', email = '' } = strings(await readFields(c.req));
    const answer = await guardedLook(ctx, c, site, email, () =>
      lookupAnswer(
        ctx,
        site,
        { number: number.slice(0, 40), email: email.slice(0, 200) },
        new Map(new URLSearchParams(c.url.searchParams.get('own') ?? '')),
      ),
    );
    send(c.res, {
      status: answer.found ? 200 : 404,
      type: 'text/html; charset=utf-8',
      body: answer.html.text,
      headers: cors,
    });
  };

  const picture = async ({ req, res, params }: Call) => {
    const [, width = '480', webp] = /^(\d{1,4})(\.webp)?$/.exec(params.file ?? '') ?? [];
    const { type, body } = await pictureAt(
      ctx,
      params.hash ?? '',
      Number(width),
      !webp && /\bimage\/avif\b/.test(req.headers.accept ?? ''),
    );
    send(res, {
      type,
      body,
      headers: {
        ...(!webp && { vary: 'accept' }),
        'cache-control': `public, max-age=${webp || type === 'image/avif' ? '31536000, immutable' : '86400'}`,
        'access-control-allow-origin': '*',
        'cross-origin-resource-policy': 'cross-origin',
      },
    });
  };

  const feed =
    (name: keyof typeof feeds) =>
    async ({ req, res, params }: Call) => {
      const site = await siteForReading(ctx, params.shop ?? '');
      const { id } = site.row;
      sendPrepared(
        req,
        res,
        await answers.get(id, req.url ?? '', async () => {
          const { type, body } = await feeds[name](ctx, site);
          return prepare(body, { ...FRESH, 'content-type': type });
        }),
      );
    };

  return [
    ...(Object.keys(feeds) as (keyof typeof feeds)[]).map((name) =>
      route('GET', `/:shop/${name}`, feed(name)),
    ),
    route('GET', '/v1/:shop/page', page),
    route('GET', '/v1/:shop/widget/:kind', widget),
    route('GET', '/v1/:shop/glance/:slug', glance),
    route('POST', '/v1/:shop/lookup', lookup),
    route('GET', '/pictures/:hash/:file', picture),
  ];
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
async function drawn(ctx: Ctx, site: Site, asked: readonly string[]): Promise<Record<string, Html>> {
  const out: Record<string, Html> = {};
  for (const one of [...new Set(asked)].slice(0, AT_ONCE)) {
    out[one] = await drawWidget(ctx, site, callOf(one)).catch((error: unknown) => {
      const { status, body } = problem(error);
      if (status >= 500) throw error;
      return html`<p class="stall-alert" role="alert">${String(body.title)}</p>`;
    });
  }
  return out;
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
