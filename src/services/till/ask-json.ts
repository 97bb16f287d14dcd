import { Agent as PlainAgent, request as plain } from 'node:http';
import { Agent as SafeAgent, request as safe } from 'node:https';

export interface Asked {
  readonly method?: 'GET' | 'POST';
  /** JSON. */
  readonly body?: string;
  readonly headers?: Readonly<Record<string, string>>;
}

/** An answer of a payment interface is small; more is no answer, in bytes. */
const MOST = 100_000;

const ways = {
  'http:': { request: plain, agent: new PlainAgent({ keepAlive: true }) },
  'https:': { request: safe, agent: new SafeAgent({ keepAlive: true }) },
};

/**
 * Asks another program for JSON over connections that are kept. Node.js's own client: `fetch` takes four times as long of our
 * processor for the same (docs/benchmarks.md), and would follow a payment elsewhere and read an answer without end.
 * What is asked may be asked twice: where a kept connection turns out to have been closed meanwhile, a new one is tried.
 * @throws when there is no answer in time, it is no success, longer than it may be, or no JSON.
 */
export async function askJson(url: string, asked: Asked, patienceMs: number): Promise<unknown> {
  const signal = AbortSignal.timeout(patienceMs);
  try {
    return await askOnce(url, asked, signal);
  } catch (error) {
    if (!(error instanceof ClosedMeanwhile)) throw error;
    return askOnce(url, asked, signal);
  }
}

/** The other side closed a kept connection at the moment it was used again (Node.js documentation, `request.reusedSocket`). */
class ClosedMeanwhile extends Error {}

function askOnce(url: string, asked: Asked, signal: AbortSignal): Promise<unknown> {
  const to = new URL(url);
  const way = ways[to.protocol as keyof typeof ways];
  if (!way) throw new Error(`payments are not sent by ${to.protocol}`);
  return new Promise((resolve, reject) => {
    const body = asked.body ?? '';
    const headers = {
      'content-type': 'application/json',
      'content-length': Buffer.byteLength(body),
      ...asked.headers,
    };
    const sent = way.request(
      to,
      { agent: way.agent, method: asked.method ?? 'GET', headers, signal },
      (answer) => {
        const { statusCode = 0 } = answer;
        const parts: Buffer[] = [];
        let size = 0;
        answer.on('data', (part: Buffer) => {
          parts.push(part);
          size += part.length;
          if (size > MOST) answer.destroy(new Error('the answer is longer than it may be'));
        });
        answer.on('error', reject);
        answer.on('end', () => {
          if (statusCode < 200 || statusCode > 299)
            return reject(new Error(`the provider answered ${statusCode}`));
          try {
            resolve(JSON.parse(Buffer.concat(parts).toString('utf8')));
          } catch {
            reject(new Error('the answer is no JSON'));
          }
        });
      },
    );
    sent.on('error', (error: NodeJS.ErrnoException) =>
      reject(sent.reusedSocket && error.code === 'ECONNRESET' ? new ClosedMeanwhile(error.message) : error),
    );
    sent.end(body);
  });
}
