import { createHash } from 'node:crypto';
import { basename, dirname } from 'node:path';
import { create as contentDisposition } from 'content-disposition';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import sendFile from 'send';
import { downloadsFragment, downloadsQuestion } from '../../core/storefront/downloads';
import { html } from '../../core/storefront/html';
import { reviewForm } from '../../core/storefront/reviews';
import { stepWordsIn, wordsIn } from '../../core/storefront/words';
import type { Ctx } from '../../services/context';
import { isRefusal } from '../../services/errors';
import { filmType } from '../../services/goods/files';
import { ownReview, writeReview } from '../../services/goods/reviews';
import { loadSite, type Site } from '../../services/sites/site';
import { backToSite } from '../../services/storefront/addresses';
import { downloadsView } from '../../services/storefront/after';
import { admit, knowsBrowser, openFile, wayToFile } from '../../services/till/downloads';
import { orderByToken } from '../../services/till/orders';
import { HttpError, problem, readFields, send } from '../http';
import { type Call, route } from '../router';
import { strings } from './cart';
import { go, ordinaryPage } from './ordinary-page';

/** Guesses at the mail address of one order in an hour. */
const GUESSES = 10;
const COOKIE = 'stall-files';

/**
 * After buying: files, films, reviews. The page of an order's files sets a cookie of its own:
 * HttpOnly, of this path alone, so that a way to a file is of no use in another browser.
 */
export function afterRoutes(ctx: Ctx) {
  const site = (c: Call) => loadSite(ctx, { slug: c.params.shop ?? '' });
  const page = ordinaryPage(ctx);
  const guesses = new RateLimiterMemory({ points: GUESSES, duration: 3600 });
  const plain = (c: Call) => `${ctx.addresses.shop}/${c.params.shop}/downloads/${c.params.order}`;

  const remember = (c: Call, token: string) =>
    c.res.setHeader(
      'set-cookie',
      `${COOKIE}=${token}; Path=/${c.params.shop}/downloads; HttpOnly; SameSite=Lax; Max-Age=31536000${ctx.addresses.shop.startsWith('https:') ? '; Secure' : ''}`,
    );

  const question = (c: Call, s: Site, why = '', status = 200) => {
    const w = stepWordsIn(s.row.locale);
    return page(c, s, w.files, downloadsQuestion({ action: plain(c), problem: why }, w), { status });
  };
  const list = async (c: Call) => {
    const s = await site(c);
    const order = await orderByToken(ctx, s.row.id, c.params.order ?? '');
    const proof = c.url.searchParams.get('proof') ?? '';
    if (proof || !(await knowsBrowser(ctx, order, cookieOf(c)))) {
      const token = await admit(ctx, order, cookieOf(c), { signed: proof });
      if (!token) return question(c, s);
      remember(c, token);
      if (proof) return go(c, plain(c));
    }
    await page(
      c,
      s,
      stepWordsIn(s.row.locale).files,
      downloadsFragment(await downloadsView(ctx, s, order), wordsIn(s.row.locale), stepWordsIn(s.row.locale)),
    );
  };
  const press = async (c: Call) => {
    const s = await site(c);
    const w = stepWordsIn(s.row.locale);
    const order = await orderByToken(ctx, s.row.id, c.params.order ?? '');
    const { email, file = '', of = '' } = strings(await readFields(c.req));
    if (email !== undefined) {
      await guesses.consume(order.id).catch(() => {
        throw new HttpError(429, w.tooManyGuesses);
      });
      const token = await admit(ctx, order, cookieOf(c), { email });
      if (!token) return question(c, s, w.notThatEmail, 403);
      remember(c, token);
      return go(c, plain(c));
    }
    if (!(await knowsBrowser(ctx, order, cookieOf(c)))) return question(c, s, '', 403);
    try {
      go(c, await wayToFile(ctx, s, order, of, file));
    } catch (error) {
      if (!isRefusal(error)) throw error;
      await page(
        c,
        s,
        w.files,
        downloadsFragment(await downloadsView(ctx, s, order, saysOf(error, s)), wordsIn(s.row.locale), w),
        { status: problem(error).status },
      );
    }
  };
  const file = async (c: Call) => {
    const s = await site(c);
    const order = await orderByToken(ctx, s.row.id, c.params.order ?? '');
    if (!(await knowsBrowser(ctx, order, cookieOf(c)))) return question(c, s, '', 403);
    try {
      const starts = c.req.method === 'GET';
      const found = await openFile(ctx, order, {
        link: c.params.link ?? '',
        until: c.url.searchParams.get('until') ?? '',
        sig: c.url.searchParams.get('sig') ?? '',
        starts,
      });
      c.res.setHeader('content-disposition', contentDisposition(found.name));
      sendKept(ctx, c, found.hash, {
        'content-type': 'application/octet-stream',
        'cache-control': 'private, no-store',
        'content-security-policy': "default-src 'none'; sandbox",
      });
    } catch (error) {
      if (!isRefusal(error)) throw error;
      await page(
        c,
        s,
        stepWordsIn(s.row.locale).files,
        downloadsFragment(
          await downloadsView(ctx, s, order, saysOf(error, s)),
          wordsIn(s.row.locale),
          stepWordsIn(s.row.locale),
        ),
        { status: problem(error).status },
      );
    }
  };
  const saysOf = (error: { detail: Record<string, unknown> }, s: Site) => {
    const w = stepWordsIn(s.row.locale);
    return { used: w.usedUp, over: w.timeOver }[String(error.detail.why)] ?? w.linkTooOld;
  };

  const film = async (c: Call) => {
    const hash = c.params.hash ?? '';
    const type = await filmType(ctx, hash);
    sendKept(ctx, c, hash, {
      'content-type': type,
      'cache-control': 'public, max-age=31536000, immutable',
      'access-control-allow-origin': '*',
      'cross-origin-resource-policy': 'cross-origin',
      'content-security-policy': "default-src 'none'; media-src 'self'; style-src 'unsafe-inline'",
    });
  };

  const review = async (c: Call) => {
    const s = await site(c);
    const w = stepWordsIn(s.row.locale);
    const [order, goodsId] = [c.params.order ?? '', c.params.goods ?? ''];
    const own = await ownReview(ctx, s, order, goodsId);
    const form = (values: Record<string, string>, errors: Record<string, string>, status = 200) =>
      page(
        c,
        s,
        own.review ? w.changeReview : w.writeReview,
        reviewForm(
          {
            action: `${ctx.addresses.shop}/${c.params.shop}/reviews/${order}/${goodsId}`,
            product: own.product.name,
            values,
            errors,
          },
          w,
        ),
        { status },
      );
    if (c.req.method !== 'POST') {
      const { rating = '', name = own.name, title = '', text = '' } = own.review ?? {};
      return form({ rating: String(rating), name, title, text }, {});
    }
    const values = strings(await readFields(c.req));
    try {
      await writeReview(ctx, s, order, goodsId, values);
      await page(
        c,
        s,
        w.thanks,
        html`<p class="stall-lead" role="status">${w.reviewThanks}</p><p><a class="stall-button" href="${backToSite(ctx, s)}">${w.backToSite}</a></p>`,
      );
    } catch (error) {
      const { status, body } = problem(error);
      if (!body.fields) throw error;
      await form(values, body.fields as Record<string, string>, status);
    }
  };

  return [
    route('GET', '/:shop/downloads/:order', list),
    route('POST', '/:shop/downloads/:order', press),
    route('GET', '/:shop/downloads/:order/:link/:name', file),
    route('GET', '/:shop/reviews/:order/:goods', review),
    route('POST', '/:shop/reviews/:order/:goods', review),
    route('GET', '/films/:hash/:name', film),
  ];
}

/** What the cookie of the files' page holds. */
const cookieOf = (c: Call): string =>
  /(?:^|;\s*)stall-files=([\w-]{16,40})(?:;|$)/.exec(c.req.headers.cookie ?? '')?.[1] ?? '';

/** Streams a kept file: ranges (RFC 9110, 14), conditions by its strong ETag, HEAD. */
function sendKept(ctx: Ctx, c: Call, hash: string, headers: Readonly<Record<string, string>>): void {
  const path = ctx.blobs.fileOf(hash);
  c.res.setHeader('etag', `"${createHash('sha256').update(hash).digest('base64url').slice(0, 27)}"`);
  c.res.setHeader('x-content-type-options', 'nosniff');
  for (const [name, value] of Object.entries(headers)) c.res.setHeader(name, value);
  sendFile(c.req, `/${basename(path)}`, {
    root: dirname(path),
    cacheControl: false,
    lastModified: false,
    dotfiles: 'allow',
  })
    .on('error', (error: { status?: number }) => {
      if (c.res.headersSent) return void c.res.destroy();
      for (const name of c.res.getHeaderNames()) if (name !== 'content-range') c.res.removeHeader(name);
      send(c.res, {
        status: error.status ?? 500,
        type: 'text/plain',
        body:
          error.status === 416 ? 'This range is not in the file.\n' : 'The file cannot be read just now.\n',
      });
    })
    .pipe(c.res);
}
