import type { IncomingMessage, ServerResponse } from 'node:http';
import { gzipSync } from 'node:zlib';
import { limits, limitText } from '../core/limits';
import { collect } from '../services/collect';
import { BeyondLimit, type Problem, problemOf } from '../services/errors';

export class HttpError extends Error {
  override name = 'HttpError';
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** The address a request is for, on an origin of ours. @throws HttpError when it is none. */
export function requestUrl(req: IncomingMessage, origin: string): URL {
  const target = req.url ?? '/';
  if (target.length > limits.address.most) throw new HttpError(414, 'This address is too long.');
  try {
    // Put together as text: "//x" is a path here, and no other host.
    const url = new URL(`${new URL(origin).origin}${target.startsWith('/') ? '' : '/'}${target}`);
    decodeURIComponent(url.pathname);
    return url;
  } catch {
    throw new HttpError(400, 'This is no address.');
  }
}

/** The body of a shopper's request. @throws BeyondLimit for one that is larger than any of ours. */
export async function readBody(req: IncomingMessage): Promise<Buffer> {
  const { most } = limits.shopperBody;
  const tooLarge = () =>
    new BeyondLimit('shopperBody', `The request is larger than ${limitText('shopperBody')}.`);
  if (Number(req.headers['content-length'] ?? 0) > most) throw tooLarge();
  return collect(req, most, tooLarge);
}

/** A JSON or form body as plain data; the caller parses it with Zod. */
export async function readFields(req: IncomingMessage): Promise<Record<string, unknown>> {
  const raw = (await readBody(req)).toString('utf8');
  if (/^application\/json\b/i.test(req.headers['content-type'] ?? '')) {
    try {
      const parsed: unknown = JSON.parse(raw);
      if (parsed && typeof parsed === 'object' && !Array.isArray(parsed))
        return parsed as Record<string, unknown>;
    } catch {
      // Falls through to the one answer for both.
    }
    throw new HttpError(400, 'The body is not a JSON object.');
  }
  return Object.fromEntries(new URLSearchParams(raw));
}

export interface Answer {
  readonly status?: number;
  readonly type?: string;
  readonly body?: string | Uint8Array;
  readonly headers?: Readonly<Record<string, string>>;
}

export const STRICT_TRANSPORT = 'strict-transport-security';

/**
 * Behind TLS browsers ask by TLS alone for a year (RFC 6797); names below are the operator's own affair.
 * Nothing for an address without it: there the header means nothing, and for localhost it would stay.
 */
export const strictTransport = (address: string): string | undefined =>
  address.startsWith('https:') ? 'max-age=31536000' : undefined;

/** On every answer; each listener adds its own content security policy. */
const always = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'strict-origin-when-cross-origin',
} as const;

export function send(res: ServerResponse, { status = 200, type, body, headers = {} }: Answer): void {
  const bytes = body === undefined ? undefined : Buffer.from(body as string);
  res.writeHead(status, {
    ...always,
    ...(type && { 'content-type': type }),
    ...(bytes && { 'content-length': bytes.length }),
    ...headers,
  });
  res.end(res.req.method === 'HEAD' ? undefined : bytes);
}

/** The same, pressed where the other side can read that: pages that are made for one answer alone. */
export function sendPressed(req: IncomingMessage, res: ServerResponse, answer: Answer): void {
  const { body, headers = {} } = answer;
  const accepts = /\bgzip\b/.test(String(req.headers['accept-encoding'] ?? ''));
  const vary = { vary: 'accept-encoding', ...headers };
  if (!body || !accepts || body.length < WORTH_PRESSING) send(res, { ...answer, headers: vary });
  else
    send(res, {
      ...answer,
      body: gzipSync(body, { level: 1 }),
      headers: { ...vary, 'content-encoding': 'gzip' },
    });
}

/** Below this many bytes a pressed answer saves no packet. */
const WORTH_PRESSING = 1_000;

export const json = (
  value: unknown,
  headers: Readonly<Record<string, string>> = {},
  status = 200,
): Answer => ({ status, type: 'application/json; charset=utf-8', body: JSON.stringify(value), headers });

export const problem = (error: unknown): { status: number; body: Problem } =>
  error instanceof HttpError
    ? { status: error.status, body: { title: error.message, status: error.status } }
    : problemOf(error);
