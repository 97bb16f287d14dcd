import { mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import { folderBlobs } from '../data/blobs';
import { openStore } from '../data/database';
import { Recent } from './cache';
import type { Ctx } from './context';
import type { ProductInput } from '../core/goods/product';
import { addProduct } from './goods/goods';
import type { Letter } from './mail/mailer';
import { bringIn } from './sites/bring-in';
import { loadSite, type Site } from './sites/site';

export const noticeSecret = `whsec_${Buffer.from('a secret for tests, 24 by').toString('base64')}`;

/** A whole application without its listeners, on a folder of its own, with a clock that tests may turn and a provider that says yes. */
export interface World {
  readonly ctx: Ctx;
  readonly site: () => Promise<Site>;
  readonly clock: { ms: number };
  readonly provider: { up: boolean; asked: { reference: string; amount: number; noticeUrl: string; approvedUrl: string }[] };
  /** Letters that were sent, in order. */
  readonly letters: Letter[];
  readonly addGoods: (name: string, price: number, stock: number | null, more?: Partial<ProductInput>) => ReturnType<typeof addProduct>;
  readonly end: () => Promise<void>;
}

export const tinySite: Record<string, string> = {
  'index.html': '<!doctype html><html lang="en-GB"><head><title>Tiny</title></head><body><header><a href="/">Tiny</a><nav><ul><li><a href="/">Home</a></li><li><a href="/about/">About</a></li></ul></nav></header><main><h1>Tiny</h1><p>words</p></main><footer>f</footer></body></html>',
  'about/index.html': '<!doctype html><html lang="en-GB"><head><title>About</title></head><body><header><a href="/">Tiny</a></header><main><h1>About</h1><p>more</p></main><footer>f</footer></body></html>',
};

export const zipFrom = (files: Record<string, string | Uint8Array>): Buffer =>
  Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([name, body]) => [name, typeof body === 'string' ? Buffer.from(body) : body]))));

export async function makeWorld(): Promise<World> {
  const dir = await mkdtemp(join(tmpdir(), 'stall-test-'));
  const store = await openStore(`file:${join(dir, 'stall.db')}`, 'src/data/migrations');
  const provider: World['provider'] = { up: true, asked: [] };
  const server = createServer(async (req, res) => {
    let raw = '';
    for await (const chunk of req) raw += chunk;
    if (!provider.up) return void res.writeHead(503).end();
    // Asked how a payment stands: it is still open.
    if (req.method === 'GET') return void res.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify({ id: 'pay', reference: 'x', state: 'open' }));
    const asked = JSON.parse(raw) as World['provider']['asked'][number];
    provider.asked.push(asked);
    res.writeHead(201, { 'content-type': 'application/json' }).end(JSON.stringify({ id: `pay_${asked.reference}`, url: `https://cards.example/${asked.reference}` }));
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const letters: Letter[] = [];
  const clock = { ms: Date.UTC(2026, 10, 24, 9) };
  const quiet = () => {};
  const api = `http://127.0.0.1:${(server.address() as AddressInfo).port}/v1`;
  const ctx: Ctx = {
    store, blobs: folderBlobs(join(dir, 'blobs')), journals: join(dir, 'journals'), pictures: new Recent(5), host: undefined, changed: quiet, mail: { send: async (letter) => void letters.push(letter) },
    addresses: { office: 'http://office.test', shop: 'http://shop.test', draft: (k) => `http://${k}.draft.test` },
    cards: { api, pages: 'https://cards.example', key: 'k', noticeSecret }, now: () => new Date(clock.ms), log: { info: quiet, warn: quiet, error: quiet },
  };
  const { id } = await bringIn(ctx, { how: 'zip', fileName: 't.zip', bytes: zipFrom(tinySite) }, { currency: 'GBP', liveUrl: 'https://tiny.example/' });
  const site = () => loadSite(ctx, { id });
  return {
    ctx, site, clock, provider, letters,
    addGoods: async (name, price, stock, more = {}) => addProduct(ctx, await site(), { name, price, variants: [{ stock }], ...more }, 'test'),
    async end() {
      store.close();
      server.close();
      await rm(dir, { recursive: true, force: true });
    },
  };
}
