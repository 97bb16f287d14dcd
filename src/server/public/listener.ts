import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { escapeHtml } from '../../core/html/escape';
import type { Ctx } from '../../services/context';
import { type ClientOf, networkOf } from '../client-address';
import { HttpError, json, problem, requestUrl, send, STRICT_TRANSPORT, strictTransport } from '../http';
import { paperRoutes } from './papers';
import { accountRoutes } from './account';
import { afterRoutes } from './after';
import { cartRoutes, cors } from './cart';
import { embeddedRoutes } from './embedded';
import { ordinaryRoutes } from './ordinary';
import { type Prepared, type PreparedAnswers, sendPrepared } from './prepared';
import { readRoutes } from './read';
import { matcher, route } from './router';
import { publicShop } from './shop';

export interface PublicOptions {
  /** Widget scripts and the style sheet, by path: made once at start. */
  readonly files: ReadonlyMap<string, Prepared>;
  readonly answers: PreparedAnswers;
  /** Writes a minute from one address; nothing for measurements. */
  readonly writesPerMinute: number | undefined;
  /** Where a request comes from, behind proxies too. */
  readonly clientOf: ClientOf;
}

const text = (body: string) => ({ type: 'text/plain; charset=utf-8', body });

const match = matcher([
  ...readRoutes,
  ...cartRoutes,
  ...embeddedRoutes,
  ...accountRoutes,
  ...afterRoutes,
  ...paperRoutes,
  ...ordinaryRoutes,
  // Plain pages say themselves that they are for no search engine (RFC 9309: reading is allowed, or nobody would see that they do).
  route('GET', '/robots.txt', (_, { res }) => send(res, text('User-agent: *\nAllow: /\n'))),
  route('GET', '/', (_, { res }) =>
    send(res, text('Green Stall, public shop endpoints. See docs/widgets.md.\n')),
  ),
]);

/** The shop's public origin: no cookies but those of plain pages, the cart (plain-cart.ts) and an order's files (after.ts); reads are answered before any framework. */
export function publicListener(
  ctx: Ctx,
  { files, answers, writesPerMinute, clientOf }: PublicOptions,
): RequestListener {
  const shop = publicShop(ctx, answers, clientOf);
  const limiter = writesPerMinute
    ? new RateLimiterMemory({ points: writesPerMinute, duration: 60 })
    : undefined;
  const answer = async (req: IncomingMessage, res: ServerResponse): Promise<void> => {
    const url = requestUrl(req, ctx.addresses.shop);
    const file = files.get(url.pathname);
    if (file && (req.method === 'GET' || req.method === 'HEAD')) return sendPrepared(req, res, file);
    const found = match(req.method ?? 'GET', url.pathname);
    if (!found) throw new HttpError(404, 'There is nothing at this address.');
    if (limiter && req.method === 'POST' && !url.pathname.startsWith('/v1/notices/'))
      await limit(limiter, networkOf(clientOf(req)));
    await found.handler(shop, { req, res, url, params: found.params });
  };
  const serve = (req: IncomingMessage, res: ServerResponse) =>
    answer(req, res).catch((error: unknown) => tellWrong(ctx, req.url ?? '/', res, error));
  const transport = strictTransport(ctx.addresses.shop);
  return (req, res) => {
    if (transport) res.setHeader(STRICT_TRANSPORT, transport);
    const ready = req.method === 'GET' && isSame(req) ? answers.ready(req.url ?? '') : undefined;
    if (ready) sendPrepared(req, res, ready);
    else void serve(req, res);
  };
}

/** Programs are answered with problem details (RFC 9457), people with a page. What is our own fault is logged, without what was asked. */
function tellWrong(ctx: Ctx, path: string, res: ServerResponse, error: unknown): void {
  const { status, body } = problem(error);
  if (status >= 500)
    ctx.log.error(
      { path: path.split('?')[0], error: error instanceof Error ? error.stack : String(error) },
      'request failed',
    );
  if (res.headersSent) res.destroy();
  else if (path.startsWith('/v1/'))
    send(res, { ...json(body, cors, status), type: 'application/problem+json' });
  else
    send(res, {
      status,
      type: 'text/html; charset=utf-8',
      body: `<!doctype html><meta name=viewport content="width=device-width"><title>${status}</title><p style="font:1.1rem/1.5 sans-serif;max-width:34rem;margin:4rem auto;padding:0 1rem">${escapeHtml(String(body.title))}`,
    });
}

/** Whether an address alone says what is answered: plain pages show whoever has a cart the way to it. */
const isSame = (req: IncomingMessage): boolean =>
  req.headers.cookie === undefined || req.url?.startsWith('/v1/') === true;

async function limit(limiter: RateLimiterMemory, address: string): Promise<void> {
  await limiter.consume(address).catch(() => {
    throw new HttpError(429, 'That was very many requests. Wait a minute and try again.');
  });
}
