import { createHash } from 'node:crypto';
import { basename, dirname } from 'node:path';
import { create as contentDisposition } from 'content-disposition';
import { parse, serialize } from 'cookie';
import sendFile from 'send';
import { downloadsFragment, downloadsQuestion } from '../../core/storefront/downloads';
import { html } from '../../core/storefront/html';
import { reviewForm } from '../../core/storefront/reviews';
import { stepWordsIn, wordsIn } from '../../core/languages/languages';
import type { Ctx } from '../../services/context';
import { isRefusal, type Refusal } from '../../services/errors';
import { filmType } from '../../services/goods/files';
import { ownReview, writeReview } from '../../services/goods/reviews';
import type { Site } from '../../services/sites/site';
import { backToSite } from '../../services/sites/addresses';
import { downloadsView } from '../../services/storefront/after';
import { admit, knowsBrowser, openFile, wayToFile } from '../../services/till/downloads';
import { orderByToken } from '../../services/till/orders';
import { HttpError, problem, readFields, send } from '../http';
import { strings } from './cart';
import { go } from './ordinary-page';
import { type Call, route } from './router';
import { plainBase, type Shop, siteOf } from './shop';

/**
 * After buying: files, films, reviews. The page of an order's files sets a cookie of its own:
 * HttpOnly, of this path alone, so that a way to a file is of no use in another browser.
 */
export const afterRoutes = [
  route('GET', '/:shop/downloads/:order', list),
  route('POST', '/:shop/downloads/:order', press),
  route('GET', '/:shop/downloads/:order/:link/:name', file),
  route('GET', '/:shop/reviews/:order/:goods', reviewPage),
  route('POST', '/:shop/reviews/:order/:goods', sendReview),
  route('GET', '/films/:hash/:name', film),
];

type FilesCall = Call<'shop' | 'order'>;
type Order = Awaited<ReturnType<typeof orderByToken>>;

const COOKIE = 'stall-files';
const YEAR_S = 31_536_000;

/** What the cookie of the files' page holds. */
function cookieOf(c: Call): string {
  const value = parse(c.req.headers.cookie ?? '')[COOKIE] ?? '';
  return /^[\w-]{16,40}$/.test(value) ? value : '';
}

const remember = ({ ctx }: Shop, c: FilesCall, token: string) =>
  c.res.setHeader(
    'set-cookie',
    serialize(COOKIE, token, {
      path: `/${c.params.shop}/downloads`,
      httpOnly: true,
      sameSite: 'lax',
      maxAge: YEAR_S,
      secure: ctx.addresses.shop.startsWith('https:'),
    }),
  );

const filesPage = (shop: Shop, c: FilesCall): string => `${plainBase(shop, c)}/downloads/${c.params.order}`;

/** Who are you? The mail address of the order opens its files in a browser that is new. */
function question(shop: Shop, c: FilesCall, s: Site, why = '', status = 200): Promise<void> {
  const w = stepWordsIn(s.row.locale);
  const content = downloadsQuestion({ action: filesPage(shop, c), problem: why }, w);
  return shop.page(c, s, w.files, content, { status });
}

/** The files of an order. @param refusal why one of them was not given out. */
async function showFiles(shop: Shop, c: FilesCall, s: Site, order: Order, refusal?: Refusal): Promise<void> {
  const w = stepWordsIn(s.row.locale);
  const view = await downloadsView(shop.ctx, s, order, refusal && whyNot(refusal, s));
  const status = refusal ? problem(refusal).status : 200;
  await shop.page(c, s, w.files, downloadsFragment(view, wordsIn(s.row.locale), w), { status });
}

function whyNot({ detail }: Refusal, s: Site): string {
  const w = stepWordsIn(s.row.locale);
  return { used: w.usedUp, over: w.timeOver }[String(detail.why)] ?? w.linkTooOld;
}

async function list(shop: Shop, c: FilesCall): Promise<void> {
  const { ctx } = shop;
  const s = await siteOf(shop, c);
  const order = await orderByToken(ctx, s.row.id, c.params.order);
  const proof = c.url.searchParams.get('proof') ?? '';
  if (proof || !(await knowsBrowser(ctx, order, cookieOf(c)))) {
    const token = await admit(ctx, order, cookieOf(c), { signed: proof });
    if (!token) return question(shop, c, s);
    remember(shop, c, token);
    if (proof) return go(c, filesPage(shop, c));
  }
  await showFiles(shop, c, s, order);
}

/** A mail address that opens the page, or a press for a file. */
async function press(shop: Shop, c: FilesCall): Promise<void> {
  const s = await siteOf(shop, c);
  const order = await orderByToken(shop.ctx, s.row.id, c.params.order);
  const { email, file: wanted = '', of = '' } = strings(await readFields(c.req));
  if (email !== undefined) return openByEmail(shop, c, s, order, email);
  if (!(await knowsBrowser(shop.ctx, order, cookieOf(c)))) return question(shop, c, s, '', 403);
  try {
    go(c, await wayToFile(shop.ctx, s, order, of, wanted));
  } catch (error) {
    if (!isRefusal(error)) throw error;
    await showFiles(shop, c, s, order, error);
  }
}

async function openByEmail(shop: Shop, c: FilesCall, s: Site, order: Order, email: string): Promise<void> {
  const w = stepWordsIn(s.row.locale);
  await shop.guesses.orderEmail.consume(order.id).catch(() => {
    throw new HttpError(429, w.tooManyGuesses);
  });
  const token = await admit(shop.ctx, order, cookieOf(c), { email });
  if (!token) return question(shop, c, s, w.notThatEmail, 403);
  remember(shop, c, token);
  go(c, filesPage(shop, c));
}

async function file(shop: Shop, c: Call<'shop' | 'order' | 'link'>): Promise<void> {
  const { ctx } = shop;
  const s = await siteOf(shop, c);
  const order = await orderByToken(ctx, s.row.id, c.params.order);
  if (!(await knowsBrowser(ctx, order, cookieOf(c)))) return question(shop, c, s, '', 403);
  try {
    const found = await openFile(ctx, order, {
      link: c.params.link,
      until: c.url.searchParams.get('until') ?? '',
      sig: c.url.searchParams.get('sig') ?? '',
      starts: c.req.method === 'GET',
    });
    c.res.setHeader('content-disposition', contentDisposition(found.name));
    sendKept(ctx, c, found.hash, {
      'content-type': 'application/octet-stream',
      'cache-control': 'private, no-store',
      'content-security-policy': "default-src 'none'; sandbox",
    });
  } catch (error) {
    if (!isRefusal(error)) throw error;
    await showFiles(shop, c, s, order, error);
  }
}

async function film({ ctx }: Shop, c: Call<'hash'>): Promise<void> {
  const type = await filmType(ctx, c.params.hash);
  sendKept(ctx, c, c.params.hash, {
    'content-type': type,
    'cache-control': 'public, max-age=31536000, immutable',
    'access-control-allow-origin': '*',
    'cross-origin-resource-policy': 'cross-origin',
    'content-security-policy': "default-src 'none'; media-src 'self'; style-src 'unsafe-inline'",
  });
}

type ReviewCall = Call<'shop' | 'order' | 'goods'>;
type Own = Awaited<ReturnType<typeof ownReview>>;

function askReview(
  shop: Shop,
  c: ReviewCall,
  s: Site,
  own: Own,
  form: { values: Record<string, string>; errors: Record<string, string>; status: number },
): Promise<void> {
  const w = stepWordsIn(s.row.locale);
  const action = `${plainBase(shop, c)}/reviews/${c.params.order}/${c.params.goods}`;
  const { values, errors, status } = form;
  const content = reviewForm({ action, product: own.product.name, values, errors }, w);
  return shop.page(c, s, own.review ? w.changeReview : w.writeReview, content, { status });
}

async function reviewPage(shop: Shop, c: ReviewCall): Promise<void> {
  const s = await siteOf(shop, c);
  const own = await ownReview(shop.ctx, s, c.params.order, c.params.goods);
  const { rating = '', name = own.name, title = '', text = '' } = own.review ?? {};
  const values = { rating: String(rating), name, title, text };
  await askReview(shop, c, s, own, { values, errors: {}, status: 200 });
}

async function sendReview(shop: Shop, c: ReviewCall): Promise<void> {
  const s = await siteOf(shop, c);
  const w = stepWordsIn(s.row.locale);
  const own = await ownReview(shop.ctx, s, c.params.order, c.params.goods);
  const values = strings(await readFields(c.req));
  try {
    await writeReview(shop.ctx, s, c.params.order, c.params.goods, values);
  } catch (error) {
    const { status, body } = problem(error);
    if (!body.fields) throw error;
    return askReview(shop, c, s, own, { values, errors: body.fields, status });
  }
  const back = backToSite(shop.ctx, s);
  await shop.page(
    c,
    s,
    w.thanks,
    html`<p class="stall-lead" role="status">${w.reviewThanks}</p><p><a class="stall-button" href="${back}">${w.backToSite}</a></p>`,
  );
}

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
      const range = error.status === 416;
      send(c.res, {
        status: error.status ?? 500,
        type: 'text/plain',
        body: range ? 'This range is not in the file.\n' : 'The file cannot be read just now.\n',
      });
    })
    .pipe(c.res);
}
