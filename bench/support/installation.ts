import { type ChildProcess, fork, spawn } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export interface Installation {
  readonly dir: string;
  readonly port: number;
  readonly end: () => Promise<void>;
}

/** The demo on a folder and ports of its own, as bin/demo starts it. */
export async function startDemo(port: number, env: Record<string, string> = {}): Promise<Installation> {
  const dir = await mkdtemp(join(tmpdir(), 'stall-bench-'));
  const child = spawn(
    process.execPath,
    ['tools/run.mjs', 'demo', '--data', join(dir, 'data'), '--port', String(port)],
    // All shoppers of a measurement come from one address.
    {
      stdio: ['ignore', 'pipe', 'inherit'],
      env: { ...process.env, STALL_CONNECTIONS_FROM_ONE: '0', ...env },
    },
  );
  // A measurement that fails leaves nothing running.
  process.once('exit', () => child.kill('SIGTERM'));
  await heard(child, /Ctrl\+C closes it/);
  return { dir: join(dir, 'data'), port, end: () => stop(child, dir) };
}

export const heard = (child: ChildProcess, wanted: RegExp): Promise<void> =>
  new Promise((ready, failed) => {
    let out = '';
    child.stdout?.on('data', (chunk: Buffer) => {
      out += chunk;
      if (wanted.test(out)) ready();
    });
    child.on('exit', (code) => failed(new Error(`stopped with ${code}: ${out}`)));
  });

export async function stop(child: ChildProcess, dir: string): Promise<void> {
  child.kill('SIGTERM');
  await new Promise((soon) => setTimeout(soon, 900));
  await rm(dir, { recursive: true, force: true });
}

export const startProgram = (file: string, env: Record<string, string>): Promise<ChildProcess> =>
  new Promise((ready, failed) => {
    const child = fork(join('dist', file), {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    process.once('exit', () => child.kill('SIGTERM'));
    child.once('message', () => ready(child));
    child.once('exit', (code) => failed(new Error(`${file} stopped with ${code}`)));
  });

/** Who owns the demo (demo/). */
export const demoOwner = { email: 'marnie@withybed.example', password: 'forty-one willows' };

interface Answer {
  readonly status: number;
  readonly body: string;
  readonly location: string;
}

/** One request to an address under .localhost, which Node does not resolve by itself. */
export function ask(
  url: string,
  method = 'GET',
  body?: string | Record<string, string>,
  type = 'application/x-www-form-urlencoded',
): Promise<Answer> {
  const to = new URL(url);
  const raw = body === undefined || typeof body === 'string' ? body : new URLSearchParams(body).toString();
  return new Promise((resolve, reject) => {
    const req = request(
      {
        host: '127.0.0.1',
        port: to.port,
        path: to.pathname + to.search,
        method,
        headers: {
          host: to.host,
          ...(raw && { 'content-type': type, 'content-length': Buffer.byteLength(raw) }),
        },
      },
      (res) => {
        let text = '';
        res.setEncoding('utf8');
        res.on('data', (c: string) => (text += c));
        res.on('end', () =>
          resolve({ status: res.statusCode ?? 0, body: text, location: String(res.headers.location ?? '') }),
        );
      },
    );
    req.on('error', reject);
    req.end(raw);
  });
}

/** Who buys in measurements. */
export const buyer = {
  email: 'b@buyers.example',
  name: 'Buyer',
  street: '1 Row',
  town: 'Town',
  postcode: 'WB4 2TR',
  country: 'GB',
};

/** One shopper: into the cart, to the checkout. Returns where to pay, or the answer that refused. */
export async function shopAndCheckOut(
  shop: string,
  goods: string,
  total: number,
): Promise<{ url?: string; cart: string; refused?: string }> {
  const first = await ask(`${shop}/v1/withybed/carts`, 'POST', JSON.stringify({ goods }), 'application/json');
  const added = JSON.parse(first.body) as { token: string };
  if (first.status !== 200) return { cart: '', refused: first.body };
  const paid = await ask(`${shop}/v1/withybed/carts/${added.token}/page/checkout`, 'POST', {
    ...buyer,
    total: String(total),
    order: 'yes',
  });
  if (paid.status !== 200) return { cart: added.token, refused: paid.body };
  return { cart: added.token, url: (JSON.parse(paid.body) as { url: string }).url };
}

/** "Add selling" with the usual answers on a site of the demo's owner, as they would by the office; published where it is asked for. */
export async function addSelling(port: number, site: string, andPublish: boolean): Promise<void> {
  const origin = `http://localhost:${port}`;
  const signedIn = await fetch(`${origin}/api/account/sign-in`, {
    method: 'POST',
    headers: { origin, 'content-type': 'application/json' },
    body: JSON.stringify(demoOwner),
  });
  const cookie = signedIn.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
  const call = async (path: string, body?: unknown): Promise<unknown> => {
    const answer = await fetch(`${origin}/api/${site}/${path}`, {
      headers: { origin, cookie, 'content-type': 'application/json' },
      ...(body !== undefined && { method: 'POST', body: JSON.stringify(body) }),
    });
    if (!answer.ok) throw new Error(`${path} answered ${answer.status}: ${await answer.text()}`);
    return answer.json();
  };
  const guess = (await call('selling')) as { readonly setUp: unknown };
  await call('selling', { setUp: guess.setUp });
  if (andPublish) await call('publish', {});
}

/** Memory of the server of an installation, in megabytes, as Linux tells it (resident). @returns nought where it does not. */
export async function serverMemoryMb(port: number): Promise<number> {
  const about = (pid: string, what: string) => readFile(`/proc/${pid}/${what}`, 'utf8').catch(() => '');
  for (const pid of (await readdir('/proc')).filter((name) => /^\d+$/.test(name))) {
    if (!(await about(pid, 'cmdline')).includes('server/main.js')) continue;
    if (!(await about(pid, 'environ')).split('\0').includes(`STALL_PORT=${port}`)) continue;
    return Math.round(Number(/VmRSS:\s+(\d+)/.exec(await about(pid, 'status'))?.[1] ?? 0) / 1000);
  }
  return 0;
}
