import { lookup, type LookupAddress } from 'node:dns';
import { type IncomingMessage, request as plainRequest } from 'node:http';
import { request as safeRequest } from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import { pipeline, type Duplex } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import { type LimitName, limits, limitText } from '../../core/limits';
import { collect } from '../collect';
import { BeyondLimit, unreachable } from '../errors';
import type { Reach } from './reach';

/** Longest silence, and longest answer: a server that drips is given up as well. Milliseconds, chosen by hand. */
const SILENCE_MS = 15_000;
const WHOLE_MS = 60_000;
const LEADS_ON = 5;

/** How we say who asks; robots.txt is asked by the first word (RFC 9309, 2.2.1). */
export const AGENT = 'GreenStall';

export interface Question {
  readonly accept: string;
  /** How much is taken. */
  readonly limit: LimitName;
  /** What is said where that is not enough. */
  readonly tooLarge: string;
  readonly headers?: Readonly<Record<string, string>>;
  readonly signal?: AbortSignal | undefined;
  /** Milliseconds until all of it has to be there; left out, a minute. */
  readonly within?: number;
}

/** What was answered in the end. */
export interface Answered {
  readonly status: number;
  readonly url: string;
  /** Small letters, without parameters: "text/html"; '' where none is said. */
  readonly type: string;
  readonly headers: IncomingMessage['headers'];
  readonly bytes: Buffer;
  /** The charset that the answer's head names, '' for none. */
  readonly charset: string;
}

/**
 * Asks for an address that an owner named: redirects are followed, and at each of them, after its name was looked up, the machine has to
 * be one that may be asked. Size and time are limited.
 * @throws Refusal that says what is wrong. An answer of whatever status is an answer.
 */
export async function askFor(reach: Reach, url: string, question: Question): Promise<Answered> {
  let at = parsed(url);
  for (let n = 0; n <= LEADS_ON; n++) {
    const answer = await ask(reach, at, question);
    const { statusCode: status = 0, headers } = answer;
    if (isRedirect(status) && headers.location) {
      answer.resume();
      at = parsed(headers.location, at);
      continue;
    }
    return answered(answer, at, await bytesOf(answer, question));
  }
  throw unreachable('That page leads on and on. Name the address where it ends.');
}

const isRedirect = (status: number): boolean => [301, 302, 303, 307, 308].includes(status);

function answered({ statusCode: status = 0, headers }: IncomingMessage, at: URL, bytes: Buffer): Answered {
  const said = headers['content-type'] ?? '';
  const [type = ''] = said.split(';');
  const [, charset = ''] = /charset\s*=\s*"?([\w.:-]+)/i.exec(said) ?? [];
  return { status, url: at.href, type: type.trim().toLowerCase(), headers, bytes, charset };
}

function parsed(address: string, base?: URL): URL {
  let url: URL;
  try {
    url = new URL(address, base);
  } catch {
    throw unreachable('That is no address. Enter the whole of it, with https:// in front.');
  }
  if (!/^https?:$/.test(url.protocol))
    throw unreachable('That page leads to something that is no web page. Name the address of a page.');
  url.hash = '';
  return url;
}

/** What stands in the way, by the codes that Node.js gives errors of names, of encryption (OpenSSL) and of connections. */
function whySilent(code: string): string {
  if (code === NOT_PUBLIC)
    return 'That address leads to a machine that is not on the public Internet, so it is not asked. Whoever runs Green Stall can allow its network (STALL_PRIVATE_NETWORKS).';
  if (code === 'ENOTFOUND' || code === 'EAI_AGAIN')
    return 'Nobody knows the name in that address (DNS). Check it, and that the name is paid for.';
  if (/^(CERT_|ERR_TLS_|DEPTH_ZERO_|SELF_SIGNED_|UNABLE_TO_)/.test(code))
    return 'That address is not trusted: its certificate is over, is for another name, or was made by itself.';
  if (code === 'ECONNREFUSED') return 'No server answers at that address. Check that it runs.';
  return 'That page does not answer. Check the address, and that the page is public.';
}

const NOT_PUBLIC = 'NOT_PUBLIC';
const notPublic = (): NodeJS.ErrnoException => Object.assign(new Error('not public'), { code: NOT_PUBLIC });

/** Names are looked up here, so that what is judged is what is connected: asked twice, a name may answer otherwise. */
function finder(reach: Reach, isOurs: boolean): LookupFunction {
  return (host, options, done) => {
    const give = (all: readonly LookupAddress[]) => {
      const may = isOurs ? all : all.filter(({ address }) => reach.mayConnect(address));
      const [first] = may;
      if (!first) return done(notPublic(), '', 0);
      return options.all ? done(null, [...may]) : done(null, first.address, first.family);
    };
    // Browsers take every *.localhost for this machine (RFC 6761, 6.3); Node.js asks a name server, which knows none.
    if (host === 'localhost' || host.endsWith('.localhost'))
      return give([{ address: '127.0.0.1', family: 4 }]);
    lookup(host, { ...options, all: true }, (error, all) => (error ? done(error, '', 0) : give(all)));
  };
}

function ask(reach: Reach, url: URL, question: Question): Promise<IncomingMessage> {
  const request = url.protocol === 'https:' ? safeRequest : plainRequest;
  const isOurs = reach.isOurs(url);
  // An address that is written as one is never looked up.
  const address = url.hostname.replace(/^\[|\]$/g, '');
  if (isIP(address) && !isOurs && !reach.mayConnect(address))
    return Promise.reject(unreachable(whySilent(NOT_PUBLIC)));
  return new Promise((resolve, reject) => {
    const req = request(
      url,
      {
        lookup: finder(reach, isOurs),
        timeout: SILENCE_MS,
        ...(question.signal && { signal: question.signal }),
        headers: {
          accept: question.accept,
          'accept-encoding': 'gzip, br',
          'user-agent': `${AGENT} (reads the site that its owner connects)`,
          ...question.headers,
        },
      },
      resolve,
    );
    const over = setTimeout(() => req.destroy(), question.within ?? WHOLE_MS);
    req.on('close', () => clearTimeout(over));
    req.on('timeout', () => req.destroy());
    req.on('error', (error: NodeJS.ErrnoException) => reject(unreachable(whySilent(error.code ?? ''))));
    req.end();
  });
}

/** All of an answer, unpacked where it comes packed: the limit is for what it unpacks to. */
async function bytesOf(answer: IncomingMessage, { limit, tooLarge }: Question): Promise<Buffer> {
  const stop = () => {
    answer.destroy();
    return new BeyondLimit(limit, `${tooLarge} It is larger than ${limitText(limit)}.`);
  };
  if (Number(answer.headers['content-length'] ?? 0) > limits[limit].most) throw stop();
  const unpack = unpackers[answer.headers['content-encoding']?.toLowerCase() ?? ''];
  try {
    return await collect(unpack ? pipeline(answer, unpack(), () => {}) : answer, limits[limit].most, stop);
  } catch (error) {
    answer.destroy();
    if (error instanceof BeyondLimit) throw error;
    throw unreachable('That page stopped in the middle of its answer. Try again.');
  }
}

const unpackers: Readonly<Record<string, () => Duplex>> = {
  gzip: createGunzip,
  'x-gzip': createGunzip,
  deflate: createInflate,
  br: createBrotliDecompress,
};
