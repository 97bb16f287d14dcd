import { createServer } from 'node:http';
import { connected } from './client-address';
import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { saveProduct } from '../services/goods/goods';
import { makeWorld, type World } from '../services/testing';
import { publicListener } from './public/listener';
import { prepare, PreparedAnswers } from './public/prepared';
import { readSettings, SettingsError } from './settings';

describe('settings', () => {
  it('make secrets once, readable by their user alone, and name what is wrong', async () => {
    const dir = await mkdtemp(join(tmpdir(), 'stall-set-'));
    const first = await readSettings({ STALL_DATA: join(dir, 'data') });
    expect((await readSettings({ STALL_DATA: join(dir, 'data') })).authSecret).toBe(first.authSecret);
    expect((await stat(join(dir, 'data/secrets.json'))).mode & 0o077).toBe(0);
    expect(first.draft('k')).toBe('http://k.draft.localhost:4602');
    await writeFile(join(dir, 'file'), '');
    await expect(readSettings({ STALL_DATA: join(dir, 'file') })).rejects.toThrow('cannot be written');
    await expect(readSettings({ STALL_DATA: dir, STALL_WALLET_KEY: 'k' })).rejects.toThrow(
      /STALL_WALLET_API: is needed, too[\s\S]*STALL_WALLET_NOTICE_SECRET: is needed, too/,
    );
    await expect(readSettings({ STALL_DATA: dir, STALL_PORT: 'x' })).rejects.toThrow(SettingsError);
    await writeFile(join(dir, 'data/secrets.json'), '{');
    await expect(readSettings({ STALL_DATA: join(dir, 'data') })).rejects.toThrow('is damaged');
    await rm(dir, { recursive: true });
  });
});

describe('public endpoints', () => {
  let w: World;
  let base: string;
  const answers = new PreparedAnswers();
  const server = createServer((req, res) => listener(req, res));
  let listener: ReturnType<typeof publicListener>;
  beforeAll(async () => {
    w = await makeWorld();
    listener = publicListener(
      { ...w.ctx, changed: (id) => answers.drop(id) },
      {
        files: new Map([['/stall.js', prepare('x'.repeat(2000), {})]]),
        answers,
        writesPerMinute: 3,
        clientOf: connected,
      },
    );
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterAll(async () => {
    server.close();
    await w.end();
  });

  it('answer a product with a strong ETag, 304 while it is the same, and today\u2019s price after a change', async () => {
    const made = await w.addGoods('Trug', 4200, 3);
    const url = `${base}/v1/tiny/page?goods=trug`;
    const first = await fetch(url);
    const etag = first.headers.get('etag') ?? '';
    // RFC 9110, 8.8.1: a strong validator has no W/ prefix.
    expect(etag).toMatch(/^"[\w-]+"$/);
    expect(first.headers.get('access-control-allow-origin')).toBe('*');
    expect(first.headers.get('set-cookie')).toBeNull();
    expect(await first.json()).toMatchObject({
      goods: { trug: { name: 'Trug', price: '£42.00', stock: 'Only 3 left' } },
      look: expect.stringContaining('--stall-accent:'),
    });
    expect((await fetch(url, { headers: { 'if-none-match': etag } })).status).toBe(304);
    await saveProduct(
      { ...w.ctx, changed: (id) => answers.drop(id) },
      await w.site(),
      made.id,
      { fields: { price: 4400 } },
      't',
    );
    const after = await fetch(url, { headers: { 'if-none-match': etag } });
    expect(after.status).toBe(200);
    expect(await after.text()).toContain('£44.00');
  });

  it('tell programs of others what is sold: feeds and a sitemap, cacheable, without what is by link only', async () => {
    await w.addGoods('Creel', 5000, 3);
    await w.addGoods('Secret', 100, 3, { shows: 'link' });
    for (const [name, type] of [
      ['feed.atom', 'application/atom+xml'],
      ['feed.json', 'application/ld+json'],
      ['sitemap.xml', 'application/xml'],
    ] as const) {
      const answer = await fetch(`${base}/tiny/${name}`);
      expect(answer.headers.get('content-type')).toContain(type);
      expect(answer.headers.get('etag')).toMatch(/^"/);
      const text = await answer.text();
      expect(text).toContain('creel');
      expect(text).not.toMatch(/secret/i);
    }
  });

  it('serve files gzipped under an ETag of their own', async () => {
    const zipped = await fetch(`${base}/stall.js`, { headers: { 'accept-encoding': 'gzip' } });
    const plain = await fetch(`${base}/stall.js`, { headers: { 'accept-encoding': 'identity' } });
    expect(zipped.headers.get('content-encoding')).toBe('gzip');
    expect(zipped.headers.get('etag')).not.toBe(plain.headers.get('etag'));
    expect(await zipped.text()).toBe(await plain.text());
  });

  it('refuse in words, as problem details, and nothing of the inside', async () => {
    const gone = await fetch(`${base}/v1/nobody/page?goods=x`);
    expect([gone.status, gone.headers.get('content-type')]).toEqual([404, 'application/problem+json']);
    expect(await gone.json()).toEqual({ title: 'There is no such site.', status: 404 });
    for (const body of ['{', '[]', JSON.stringify({ goods: 'trug', quantity: -1 })]) {
      const answer = await fetch(`${base}/v1/tiny/carts`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      });
      expect(answer.status).toBeGreaterThanOrEqual(400);
      expect(await answer.text()).not.toMatch(/at .*\.ts|node_modules/);
    }
    const limited = await fetch(`${base}/v1/tiny/carts`, { method: 'POST', body: '{}' });
    expect(limited.status).toBe(429);
    expect((await fetch(`${base}/tiny/site/index.html`)).status).toBe(404);
    expect((await fetch(`${base}/tiny/site/..%2f..%2fetc/passwd`)).status).toBe(404);
  });
});

it('migrations stand in the repository as they are applied', async () => {
  const journal = JSON.parse(await readFile('src/data/migrations/meta/_journal.json', 'utf8')) as {
    entries: { tag: string }[];
  };
  for (const { tag } of journal.entries)
    expect((await readFile(`src/data/migrations/${tag}.sql`, 'utf8')).length).toBeGreaterThan(10);
});
