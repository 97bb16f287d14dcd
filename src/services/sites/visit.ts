import { lookup } from 'node:dns';
import { type IncomingMessage, request as plainRequest } from 'node:http';
import { request as safeRequest } from 'node:https';
import type { LookupFunction } from 'node:net';
import { collect } from '../collect';
import { BeyondLimit, unreachable } from '../errors';
import { limits, limitText } from '../../core/limits';

const PATIENCE_MS = 15_000;
const LEADS_ON = 5;

/** Browsers take every *.localhost for this machine (RFC 6761, 6.3); Node.js asks a name server, which knows none. */
const find: LookupFunction = (host, options, done) => {
  if (host !== 'localhost' && !host.endsWith('.localhost')) return lookup(host, options, done);
  if (options.all) return done(null, [{ address: '127.0.0.1', family: 4 }]);
  done(null, '127.0.0.1', 4);
};

/** A page as its visitors get it, and the address where it was in the end. */
export interface Visited {
  readonly bytes: Buffer;
  readonly url: string;
}

/**
 * A page as its visitors get it: fetched without being remembered, redirects followed.
 * @throws Refusal that says what is wrong, where the page does not answer as a page.
 */
export async function visit(url: string): Promise<Visited> {
  let at = url;
  for (let n = 0; n <= LEADS_ON; n++) {
    const answer = await ask(at);
    const { statusCode = 0, headers } = answer;
    if (statusCode >= 300 && statusCode < 400 && headers.location) {
      answer.resume();
      at = new URL(headers.location, at).href;
      if (!/^https?:/.test(at)) break;
      continue;
    }
    if (statusCode !== 200) {
      answer.resume();
      throw unreachable(`That page answers ${statusCode}. Check the address.`);
    }
    return { bytes: await bytesOf(answer), url: at };
  }
  throw unreachable('That page leads on and on. Name the address where it ends.');
}

/** What stands in the way, by the codes that Node.js gives errors of names, of encryption (OpenSSL) and of connections. */
function whySilent(code: string): string {
  if (code === 'ENOTFOUND' || code === 'EAI_AGAIN')
    return 'Nobody knows the name in that address (DNS). Check it, and that the name is paid for.';
  if (/^(CERT_|ERR_TLS_|DEPTH_ZERO_|SELF_SIGNED_|UNABLE_TO_)/.test(code))
    return 'That address is not trusted: its certificate is over, is for another name, or was made by itself.';
  if (code === 'ECONNREFUSED') return 'No server answers at that address. Check that it runs.';
  return 'That page does not answer. Check the address, and that the page is public.';
}

function ask(url: string): Promise<IncomingMessage> {
  const request = url.startsWith('https:') ? safeRequest : plainRequest;
  return new Promise((resolve, reject) => {
    const req = request(
      url,
      { lookup: find, timeout: PATIENCE_MS, headers: { accept: 'text/html', 'cache-control': 'no-cache' } },
      resolve,
    );
    req.on('timeout', () => req.destroy());
    req.on('error', (error: NodeJS.ErrnoException) => reject(unreachable(whySilent(error.code ?? ''))));
    req.end();
  });
}

async function bytesOf(answer: IncomingMessage): Promise<Buffer> {
  return collect(answer, limits.visitedPage.most, () => {
    answer.destroy();
    return new BeyondLimit(
      'visitedPage',
      `That page is larger than ${limitText('visitedPage')}, so it was not looked at.`,
    );
  });
}
