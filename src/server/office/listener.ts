import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import { join, normalize } from 'node:path';
import { lookup } from 'mrmime';
import type { ClientOf } from '../client-address';
import type { App } from './app';
import { limits } from '../../core/limits';
import { STRICT_TRANSPORT, strictTransport } from '../http';
import { bodyRefused, type RefusedBody } from './body-limits';

type AstroHandler = (
  req: IncomingMessage,
  res: ServerResponse,
  next: (error?: unknown) => void,
  locals: Record<string, unknown>,
) => void;

/** What the office may load and be framed by. Its pages frame drafts and ordinary pages; nothing frames them. */
const policy = (app: App, inlineScripts: readonly string[]): string =>
  [
    `default-src 'self'`,
    `img-src 'self' data: blob: ${app.ctx.addresses.shop}`,
    `style-src 'self' 'unsafe-inline'`,
    `font-src 'self' data: ${app.ctx.addresses.shop}`,
    ['script-src', `'self'`, ...inlineScripts].join(' '),
    `frame-src ${app.ctx.addresses.draft('*')} ${app.ctx.addresses.shop}`,
    `connect-src 'self'`,
    `frame-ancestors 'none'`,
    `base-uri 'none'`,
    `form-action 'self'`,
    `object-src 'none'`,
  ].join('; ');

export interface OfficeOptions {
  /** Where the built files are that browsers load. */
  readonly clientDir: string;
  readonly clientOf: ClientOf;
  /** Hashes of the framework's own inline scripts, as a policy names them. */
  readonly inlineScripts: readonly string[];
}

/** The owner's origin: built files first, then the framework. */
export function officeListener(
  app: App,
  astro: AstroHandler,
  { clientDir, clientOf, inlineScripts }: OfficeOptions,
): RequestListener {
  const csp = policy(app, inlineScripts);
  const transport = strictTransport(app.ctx.addresses.office);
  return async (req, res) => {
    res.setHeader('content-security-policy', csp);
    res.setHeader('x-content-type-options', 'nosniff');
    res.setHeader('referrer-policy', 'same-origin');
    if (transport) res.setHeader(STRICT_TRANSPORT, transport);
    const refused = bodyRefused(req, (req.url ?? '/').split('?')[0] ?? '/');
    if (refused) return refuseBody(req, res, refused);
    // Set here, so that a visitor cannot choose the address that sign-in is limited by.
    req.headers['x-stall-client'] = clientOf(req);
    if ((req.method === 'GET' || req.method === 'HEAD') && (await sendFile(req, res, clientDir))) return;
    astro(req, res, (error) => unanswered(app, res, error), { app });
  };
}

/** The framework has no page for it, or failed. */
function unanswered(app: App, res: ServerResponse, error: unknown): void {
  if (error)
    app.ctx.log.error({ error: error instanceof Error ? error.stack : String(error) }, 'office failed');
  if (!res.headersSent) res.writeHead(error ? 500 : 404, { 'content-type': 'text/plain' });
  const failed = 'Something went wrong on our side. Go back and try again.';
  res.end(error ? failed : 'There is no such page in the office.');
}

/** How long a body that is not taken may still come, in milliseconds. Chosen by hand. */
const LINGER_MS = 2_000;

/**
 * Nothing of the body is kept, and the connection ends with the answer. What comes meanwhile is thrown away for a moment: whoever is
 * cut off while it still sends, as a proxy is, tells of a broken connection and never of the limit.
 */
function refuseBody(req: IncomingMessage, res: ServerResponse, refused: RefusedBody): void {
  const { status, title, limit } = refused;
  const body = JSON.stringify({ title, status, ...(limit && { limit, ...limits[limit] }) });
  res.writeHead(status, {
    'content-type': 'application/problem+json',
    'content-length': Buffer.byteLength(body),
    connection: 'close',
  });
  // Whole by its length; the end, which closes the connection, waits until nothing more comes.
  res.write(body);
  req.resume();
  const over = setTimeout(() => req.destroy(), LINGER_MS).unref();
  req.once('end', () => res.end()).once('close', () => clearTimeout(over));
}

async function sendFile(req: IncomingMessage, res: ServerResponse, dir: string): Promise<boolean> {
  const path = decodeURIComponentSafe((req.url ?? '/').split('?')[0] ?? '/');
  if (!path || path.endsWith('/') || path.includes('\0')) return false;
  const file = normalize(join(dir, path));
  if (!file.startsWith(dir)) return false;
  const found = await stat(file).catch(() => undefined);
  if (!found?.isFile()) return false;
  const built = path.startsWith('/_astro/');
  res.writeHead(200, {
    'content-type': lookup(file) ?? 'application/octet-stream',
    'content-length': found.size,
    'cache-control': built ? 'public, max-age=31536000, immutable' : 'public, max-age=300',
  });
  if (req.method === 'HEAD') res.end();
  else createReadStream(file).pipe(res);
  return true;
}

function decodeURIComponentSafe(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return '';
  }
}
