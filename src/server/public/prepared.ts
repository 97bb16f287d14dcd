import { createHash } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { gzipSync } from 'node:zlib';

/** An answer made once and sent many times: bytes, their gzip, a strong ETag (SHA-256 of the bytes). */
export interface Prepared {
  readonly plain: Buffer;
  readonly gzip: Buffer;
  readonly etag: string;
  readonly headers: Readonly<Record<string, string>>;
}

export function prepare(body: string | Buffer, headers: Readonly<Record<string, string>>): Prepared {
  const plain = Buffer.from(body as string);
  const etag = `"${createHash('sha256').update(plain).digest('base64url').slice(0, 27)}"`;
  return { plain, gzip: gzipSync(plain, { level: 9 }), etag, headers };
}

/** Sends whole, gzipped or 304. The gzipped form is another representation and has an ETag of its own (RFC 9110, 8.8.3). */
export function sendPrepared(req: IncomingMessage, res: ServerResponse, p: Prepared): void {
  const zipped = /\bgzip\b/.test(String(req.headers['accept-encoding'] ?? '')) && p.gzip.length < p.plain.length;
  const etag = zipped ? `${p.etag.slice(0, -1)}-gz"` : p.etag;
  const head: Record<string, string | number> = { ...p.headers, etag, vary: 'accept-encoding', 'x-content-type-options': 'nosniff' };
  if (req.headers['if-none-match'] === etag) {
    res.writeHead(304, head);
    res.end();
    return;
  }
  const body = zipped ? p.gzip : p.plain;
  if (zipped) head['content-encoding'] = 'gzip';
  head['content-length'] = body.length;
  res.writeHead(200, head);
  res.end(req.method === 'HEAD' ? undefined : body);
}

/** Prepared answers by site: dropped together when anything shoppers read of that site changed. Bounded for each site. */
export class PreparedAnswers {
  #bySite = new Map<string, Map<string, Promise<Prepared>>>();
  static readonly LIMIT = 400;

  get(site: string, key: string, make: () => Promise<Prepared>): Promise<Prepared> {
    const ours = this.#bySite.get(site) ?? new Map<string, Promise<Prepared>>();
    this.#bySite.set(site, ours);
    const known = ours.get(key);
    if (known) return known;
    const made = make();
    ours.set(key, made);
    made.catch(() => ours.delete(key));
    if (ours.size > PreparedAnswers.LIMIT) ours.delete(ours.keys().next().value as string);
    return made;
  }

  /** Takes the answers being made, too: they may have read the state before the change. */
  drop(site: string): void {
    this.#bySite.delete(site);
  }
}
