import { oldestKey } from '../../core/entries';
import { createHash } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { gzipSync } from 'node:zlib';

type Head = Readonly<Record<string, string | number>>;

/** One form of an answer: its bytes, its head ready to be written, the strong ETag that names exactly these bytes. */
interface Form {
  readonly body: Buffer;
  readonly head: Head;
  readonly same: Head;
  readonly etag: string;
}

/** An answer made once and sent many times. The gzipped form is another representation with an ETag of its own (RFC 9110, 8.8.3). */
export interface Prepared {
  readonly plain: Form;
  /** Made when the first asks for it; nothing where it would not be smaller. */
  readonly gzip: () => Form | undefined;
}

/** How hard answers are pressed: those that last are pressed best, those of the moment fast. */
export const pressing = { lasting: 9, moment: 5 } as const;

/**
 * Browsers ask again each time and mostly get a 304, so that no price is ever yesterday's; caches in front may answer
 * for a moment and refresh behind it (RFC 9213 targeted cache control, RFC 5861).
 */
export const FRESH = {
  'cache-control': 'public, max-age=0, must-revalidate',
  'cdn-cache-control': 'public, max-age=5, stale-while-revalidate=30',
  'access-control-allow-origin': '*',
} as const;

export function prepare(
  body: string | Buffer,
  headers: Readonly<Record<string, string>>,
  level: number = pressing.moment,
): Prepared {
  const plain = typeof body === 'string' ? Buffer.from(body) : body;
  const hash = createHash('blake2b512').update(plain).digest('base64url').slice(0, 27);
  const common = { vary: 'accept-encoding', ...headers, 'x-content-type-options': 'nosniff' };
  const form = (bytes: Buffer, etag: string, more: Head): Form => ({
    body: bytes,
    etag,
    head: { ...common, ...more, etag, 'content-length': bytes.length },
    same: { ...common, etag },
  });
  let pressed: { readonly form: Form | undefined } | undefined;
  const press = () => {
    const gzip = gzipSync(plain, { level });
    return {
      form:
        gzip.length < plain.length ? form(gzip, `"${hash}-gz"`, { 'content-encoding': 'gzip' }) : undefined,
    };
  };
  return { plain: form(plain, `"${hash}"`, {}), gzip: () => (pressed ??= press()).form };
}

/** Sends whole, gzipped or 304. */
export function sendPrepared(req: IncomingMessage, res: ServerResponse, { plain, gzip }: Prepared): void {
  const accepts = req.headers['accept-encoding'];
  const form = (accepts !== undefined && /\bgzip\b/.test(String(accepts)) && gzip()) || plain;
  if (req.headers['if-none-match'] === form.etag) {
    res.writeHead(304, form.same);
    res.end();
    return;
  }
  res.writeHead(200, form.head);
  res.end(req.method === 'HEAD' ? undefined : form.body);
}

/**
 * Prepared answers by site and by the address they were asked for with, dropped together when anything shoppers read
 * of that site changed. An answer that is ready is found by its address alone, before anything is parsed.
 */
export class PreparedAnswers {
  #bySite = new Map<string, Map<string, { readonly made: Promise<Prepared>; readonly until: number }>>();
  #ready = new Map<string, { readonly answer: Prepared; readonly until: number }>();
  static readonly LIMIT = 400;
  /** How long an answer is good without anything having changed here, in milliseconds: offers begin and end by the clock, and other processes change things too. */
  static readonly LIFETIME_MS = 5_000;
  constructor(private readonly now: () => number = () => performance.now()) {}

  /** For the first look at a request: the answer, when it is ready and still true. */
  ready(address: string): Prepared | undefined {
    const found = this.#ready.get(address);
    return found && found.until > this.now() ? found.answer : undefined;
  }

  get(site: string, address: string, make: () => Promise<Prepared>): Promise<Prepared> {
    const ours = this.#bySite.get(site) ?? new Map<string, { made: Promise<Prepared>; until: number }>();
    this.#bySite.set(site, ours);
    const known = ours.get(address);
    if (known && known.until > this.now()) return known.made;
    const made = make();
    const until = this.now() + PreparedAnswers.LIFETIME_MS;
    ours.delete(address);
    ours.set(address, { made, until });
    made.then(
      // A change may have come while it was being made: then it belongs to the past and is not kept.
      (answer) =>
        this.#bySite.get(site) === ours &&
        ours.get(address)?.made === made &&
        this.#ready.set(address, { answer, until }),
      () => ours.get(address)?.made === made && ours.delete(address),
    );
    if (ours.size > PreparedAnswers.LIMIT) this.#forget(ours, oldestKey(ours) ?? '');
    return made;
  }

  /** Takes the answers being made, too: they may have read the state before the change. */
  drop(site: string): void {
    for (const address of this.#bySite.get(site)?.keys() ?? []) this.#ready.delete(address);
    this.#bySite.delete(site);
  }

  #forget(ours: Map<string, unknown>, address: string): void {
    ours.delete(address);
    this.#ready.delete(address);
  }
}
