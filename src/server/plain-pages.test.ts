import { createServer, request } from 'node:http';
import { connected } from './client-address';
import type { AddressInfo } from 'node:net';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { PerSite } from '../services/cache';
import type { Ctx } from '../services/context';
import { listGoods, saveProduct } from '../services/goods/goods';
import { makeWorld, type World } from '../services/testing';
import { addToCart } from '../services/till/add-to-cart';
import { setCode, setQuantity } from '../services/till/cart-changes';
import { publicListener } from './public/listener';
import { PreparedAnswers } from './public/prepared';

/** Plain pages that are the same for all, made once; and the same page with a cart in its bar for whoever has one. */
let w: World;
const ports: Record<'kept' | 'anew', number> = { kept: 0, anew: 0 };
const servers: ReturnType<typeof createServer>[] = [];

/** @param ctx with what is remembered, or without. */
async function serve(ctx: Ctx): Promise<number> {
  const answers = new PreparedAnswers();
  w.whenChanged.push((id) => {
    answers.drop(id);
    ctx.memo?.drop(id);
  });
  const server = createServer(
    publicListener(ctx, { files: new Map(), answers, writesPerMinute: undefined, clientOf: connected }),
  );
  servers.push(server);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return (server.address() as AddressInfo).port;
}

beforeAll(async () => {
  w = await makeWorld();
  await w.addGoods('Trug <"wide"> \u00e9', 4200, 9, { slug: 'trug' });
  ports.kept = await serve({ ...w.ctx, memo: new PerSite(5_000) });
  ports.anew = await serve(w.ctx);
});
afterAll(async () => {
  for (const server of servers) server.close();
  await w.end();
});

interface Answer {
  readonly status: number;
  readonly headers: Readonly<Record<string, string | string[] | undefined>>;
  readonly body: Buffer;
}

const ask = (path: string, headers: Record<string, string> = {}, port = ports.kept): Promise<Answer> =>
  new Promise((done, failed) => {
    request({ port, host: '127.0.0.1', path, headers: { host: 'shop.test', ...headers } }, (res) => {
      const chunks: Buffer[] = [];
      res.on('data', (c: Buffer) => chunks.push(c));
      res.on('end', () =>
        done({ status: res.statusCode ?? 0, headers: res.headers, body: Buffer.concat(chunks) }),
      );
    })
      .on('error', failed)
      .end();
  });

const cartOf = async (quantity: number): Promise<string> =>
  (
    await addToCart(
      w.ctx,
      await w.site(),
      null,
      { goods: 'trug', quantity, placement: null, page: '/' },
      null,
    )
  ).token;

it('a page of the shell that is kept has the bytes of one that is built anew', async () => {
  for (const path of ['/tiny/goods', '/tiny/goods/trug', '/tiny/lookup', `/tiny/cart/${await cartOf(1)}`]) {
    const [kept, anew] = [await ask(path), await ask(path, {}, ports.anew)];
    expect(kept.body.toString()).toBe(anew.body.toString());
    expect(kept.body.toString()).not.toContain('stallPlaceOf');
    // Twice: once to make the shell, once from it.
    expect((await ask(path)).body.toString()).toBe(anew.body.toString());
  }
  expect((await ask('/tiny/goods/trug')).body.toString()).toContain(
    '<title>Trug &lt;&quot;wide&quot;&gt; &#233;',
  );
});

it('goes out pressed, with a strong ETag (RFC 9110, 8.8) and a policy for caches; 304 while it is the same', async () => {
  const plain = await ask('/tiny/goods/trug');
  const pressed = await ask('/tiny/goods/trug', { 'accept-encoding': 'gzip' });
  expect(gunzipSync(pressed.body).toString()).toBe(plain.body.toString());
  expect(pressed.headers).toMatchObject({
    'content-encoding': 'gzip',
    'cache-control': 'public, max-age=0, must-revalidate',
    vary: expect.stringMatching(/accept-encoding.*cookie/),
    'content-security-policy': expect.stringContaining("default-src 'none'"),
  });
  const etag = String(plain.headers.etag);
  expect((await ask('/tiny/goods/trug', { 'if-none-match': etag })).status).toBe(304);
  expect((await ask('/tiny/goods')).headers['set-cookie']).toBeUndefined();
});

it('shows today\u2019s price at once, to all', async () => {
  const before = await ask('/tiny/goods/trug');
  const token = await cartOf(1);
  const cookie = { cookie: `stall-cart=${token}` };
  expect((await ask('/tiny/goods/trug', cookie)).body.toString()).toContain('42.00');
  const [trug] = await listGoods(w.ctx, (await w.site()).row.id);
  await saveProduct(w.ctx, await w.site(), trug?.id ?? '', { fields: { price: 4400 } }, 't');
  for (const more of [{}, cookie, { 'if-none-match': String(before.headers.etag) }]) {
    const after = await ask('/tiny/goods/trug', more);
    expect([after.status, after.body.toString().includes('44.00')]).toEqual([200, true]);
  }
});

it('shows whoever has a cart the way to it, and nobody else', async () => {
  const [one, two] = [await cartOf(1), await cartOf(2)];
  const seen = async (cookie?: string) =>
    ask('/tiny/goods', { 'accept-encoding': 'gzip', ...(cookie && { cookie: `stall-cart=${cookie}` }) });
  for (let n = 0; n < 2; n++) {
    const [none, first, second] = [await seen(), await seen(one), await seen(two)];
    const text = (a: Answer) => gunzipSync(a.body).toString();
    expect(text(none)).not.toContain('/cart/');
    expect(text(first)).toContain(`/tiny/cart/${one}">Cart, 1 piece<`);
    expect(text(second)).toContain(`/tiny/cart/${two}">Cart, 2 pieces<`);
    expect(text(second)).not.toContain(one);
    expect(first.headers['cache-control']).toBe('private, no-cache');
    expect(first.headers.etag).not.toBe(second.headers.etag);
    const again = await ask('/tiny/goods', {
      cookie: `stall-cart=${one}`,
      'if-none-match': String(first.headers.etag),
    });
    expect([again.status, again.headers['cache-control']]).toEqual([304, 'private, no-cache']);
  }
  // A cart of nobody is none.
  expect(
    (await ask('/tiny/goods', { cookie: 'stall-cart=0123456789abcdef0123' })).body.toString(),
  ).not.toContain('/cart/');
});

it('a product that is not there is told in the site\u2019s own frame, with a way on', async () => {
  const answer = await ask('/tiny/goods/nothing-like-it');
  expect([answer.status, answer.headers['cache-control']]).toEqual([404, 'no-store']);
  for (const part of ['<footer>f</footer>', 'not for sale any more', 'href="http://shop.test/tiny/goods"'])
    expect(answer.body.toString()).toContain(part);
  expect((await ask('/nobody/goods/trug')).status).toBe(404);
});

it('pages that carry a cart are kept by nobody', async () => {
  const page = await ask(`/tiny/cart/${await cartOf(1)}`, { 'accept-encoding': 'gzip' });
  expect(page.headers).toMatchObject({ 'cache-control': 'no-store', 'content-encoding': 'gzip' });
});

it('what is made of a cart is kept only as long as nothing of it changes: pieces, codes, prices, rules, what others hold', async () => {
  await w.addGoods('Creel', 1000, 3);
  const site = await w.site();
  const put = (quantity: number) =>
    addToCart(w.ctx, site, null, { goods: 'creel', quantity, placement: null, page: '/' }, null);
  const { token, lines } = await put(2);
  const page = async (part = '') =>
    (await ask(`/v1/tiny/carts/${token}/page${part}?cart=https%3A%2F%2Fa.example%2F`)).body.toString();
  const steps: readonly [change: () => Promise<unknown>, shows: string][] = [
    [async () => undefined, '20.00'],
    [() => setQuantity(w.ctx, site, token, lines[0]?.id ?? '', 3), '30.00'],
    [
      () => w.till('discounts', [{ id: 'ten', name: 'Ten off', code: 'TEN', kind: 'amount', amount: 1000 }]),
      '30.00',
    ],
    [() => setCode(w.ctx, site, token, 'TEN', 'in'), '20.00'],
    [() => w.order([{ goods: 'creel', quantity: 2 }]), 'Only 1 left'],
  ];
  for (const [change, shows] of steps) {
    await change();
    for (const part of ['', '', '/checkout'] as const)
      if (part === '' || !shows.startsWith('Only')) expect(await page(part)).toContain(shows);
  }
  // Another address of the site's own pages is another page.
  const other = await ask(`/v1/tiny/carts/${token}/page?checkout=https%3A%2F%2Fb.example%2Fpay`);
  expect(other.body.toString()).toContain('https://b.example/pay');
  expect((await ask(`/v1/tiny/carts/nobody-has-this-one-here/page`)).status).toBe(404);
});
