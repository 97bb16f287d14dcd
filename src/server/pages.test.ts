import { createServer, request } from 'node:http';
import { connected } from './client-address';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { attr, descendants, parsePage } from '../core/html/tree';
import { readSource } from '../core/html/source';
import { listPitches } from '../core/site/pitch';
import { orders } from '../data/schema';
import { place } from '../services/sites/placing';
import { loadPage } from '../services/sites/site';
import { makeWorld, type World } from '../services/testing';
import { draftListener } from './draft/listener';
import { publicListener } from './public/listener';
import { prepare, PreparedAnswers } from './public/prepared';

let w: World;
let draftHost: string;
const servers: ReturnType<typeof createServer>[] = [];
const ports = { draft: 0, shop: 0 };

interface Answer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
}

function ask(
  port: number,
  path: string,
  options: { host?: string; method?: string; form?: Record<string, string> } = {},
): Promise<Answer> {
  const body = options.form && new URLSearchParams(options.form).toString();
  return new Promise((resolve, reject) => {
    const req = request(
      {
        host: '127.0.0.1',
        port,
        path,
        method: options.method ?? (body ? 'POST' : 'GET'),
        headers: {
          host: options.host ?? 'shop.test',
          ...(body && { 'content-type': 'application/x-www-form-urlencoded' }),
        },
      },
      (res) => {
        let text = '';
        res.setEncoding('utf8');
        res.on('data', (c: string) => {
          text += c;
        });
        res.on('end', () => resolve({ status: res.statusCode ?? 0, headers: res.headers, text }));
      },
    );
    req.on('error', reject);
    req.end(body);
  });
}

const shop = (path: string, form?: Record<string, string>) => ask(ports.shop, path, form ? { form } : {});
const draft = (path: string, method = 'GET') => ask(ports.draft, path, { host: draftHost, method });
const elements = (html: string) => [...descendants(parsePage(readSource(Buffer.from(html))))];

beforeAll(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 2);
  const site = await w.site();
  draftHost = `${site.row.draftKey}.draft.test`;
  const page = await loadPage(w.ctx, site, 'index.html');
  const end = listPitches(page).find((p) => p.label === 'at the end of the header');
  const after = listPitches(page).find((p) => p.label === 'after “words”');
  if (!end || !after) throw new Error('the tiny site has lost its pitches');
  await place(w.ctx, site, {
    kind: 'cart',
    settings: {},
    pitch: end.address,
    pitchLabel: end.label,
    reach: { to: 'every', except: [] },
  });
  await place(w.ctx, site, {
    kind: 'buy',
    settings: { goods: 'trug' },
    pitch: after.address,
    pitchLabel: after.label,
    reach: { to: 'page', page: 'index.html' },
  });
  const start = (listener: Parameters<typeof createServer>[1]) =>
    new Promise<number>((ready) => {
      const server = createServer(listener ?? (() => {}));
      servers.push(server);
      server.listen(0, '127.0.0.1', () => ready((server.address() as AddressInfo).port));
    });
  ports.draft = await start(draftListener(w.ctx, prepare('frame()', {})));
  ports.shop = await start(
    publicListener(w.ctx, {
      files: new Map(),
      answers: new PreparedAnswers(),
      writesPerMinute: undefined,
      clientOf: connected,
    }),
  );
});
afterAll(async () => {
  for (const s of servers) s.close();
  await w.end();
});

describe('the draft of a site', () => {
  it('shows pages as they will be, at the addresses hosts give them', async () => {
    const home = await draft('/');
    expect(home.status).toBe(200);
    expect(home.text).toContain('<stall-buy goods="trug"');
    expect((await draft('/about/')).text).toContain('<stall-cart');
    expect((await draft('/about')).headers.location).toBe('/about/');
    expect((await draft('/cart/')).text).toContain('<stall-page part="cart"');
    expect((await draft('/nothing')).status).toBe(404);
  });

  it('is known only by its key, framed only by the office, and takes nothing in', async () => {
    expect((await ask(ports.draft, '/', { host: 'guess.draft.test' })).status).toBe(404);
    expect((await draft('/')).headers['content-security-policy']).toContain(
      'frame-ancestors http://office.test',
    );
    expect((await draft('/', 'POST')).status).toBe(405);
  });

  it('on the bench marks the elements that pitches hang on, without moving anything', async () => {
    const shopper = elements((await draft('/')).text);
    const bench = elements((await draft('/?stall=bench')).text);
    const marked = bench.filter((e) => attr(e, 'data-stall-n') !== undefined);
    expect(marked.length).toBeGreaterThan(4);
    expect(marked.map((e) => e.tagName)).toContain('header');
    const tags = (list: typeof bench) => list.map((e) => e.tagName).join(' ');
    expect(tags(bench)).toBe(`${tags(shopper)} script`);
  });

  it('in a miniature runs no script but ours', async () => {
    const policy = String((await draft('/?stall=mini')).headers['content-security-policy']);
    expect(policy).toContain("script-src 'self' http://shop.test");
    expect((await draft('/.stall/frame.js')).text).toBe('frame()');
  });
});

describe('the plain pages of the shop', () => {
  it('wear the site\u2019s chrome, run no script, and lead back to the live site', async () => {
    const page = await shop('/tiny/goods/trug');
    expect(page.status).toBe(200);
    const all = elements(page.text);
    // Data for search engines is no script.
    expect(
      all.filter((e) => e.tagName === 'script' && attr(e, 'type') !== 'application/ld+json').length,
    ).toBe(0);
    expect(String(page.headers['content-security-policy'])).toContain("default-src 'none'");
    expect(String(page.headers['content-security-policy'])).not.toContain('script-src');
    expect(all.some((e) => e.tagName === 'header')).toBe(true);
    const links = all.filter((e) => e.tagName === 'a').map((e) => attr(e, 'href'));
    expect(links).toContain('https://tiny.example/');
    expect(page.text).toContain('Only 2 left');
  });

  it('carry a shopper from the product to the provider', async () => {
    const added = await shop('/tiny/goods/trug', { quantity: '2', placement: '' });
    expect(added.status).toBe(303);
    const cart = new URL(String(added.headers.location)).pathname;
    const seen = await shop(cart);
    expect(seen.text).toContain('&#163;84.00');
    const line = /action="[^"]*(\/tiny\/cart\/[^"]+)"/.exec(seen.text)?.[1] ?? '';
    expect((await shop(line, { quantity: '1' })).status).toBe(303);
    const checkout = cart.replace('/cart/', '/checkout/');
    const wrong = await shop(checkout, { total: '4200', email: 'ada', order: 'yes' });
    expect(wrong.status).toBe(422);
    expect(wrong.text).toContain('value="ada"');
    const buyer = {
      email: 'a@b.example',
      name: 'Ada',
      street: '1',
      town: 'T',
      postcode: 'WB4 2TR',
      country: 'UK',
      order: 'yes',
    };
    const changed = await shop(checkout, { ...buyer, total: '1' });
    expect(changed.status).toBe(409);
    expect(changed.text).toContain('The total is now &#163;42.00');
    const paying = await shop(checkout, { ...buyer, total: '4200' });
    expect(paying.headers.location).toMatch(/^https:\/\/cards\.example\//);
    expect(w.provider.asked.at(-1)).toMatchObject({
      amount: 4200,
      approvedUrl: expect.stringMatching(/^http:\/\/shop\.test\/tiny\/thanks\//),
    });
    const thanks = new URL(w.provider.asked.at(-1)?.approvedUrl ?? '').pathname;
    const waiting = await shop(thanks);
    expect(waiting.text).toContain('being confirmed');
    expect(waiting.text).toContain('http-equiv="refresh"');
  });

  it('order when the button that orders says so, and by nothing else', async () => {
    const added = await shop('/tiny/goods/trug', { quantity: '1', placement: '' });
    const token = new URL(String(added.headers.location)).pathname.split('/').at(-1) ?? '';
    const whole = {
      email: 'a@b.example',
      name: 'Ada',
      street: '1',
      town: 'T',
      postcode: 'WB4 2TR',
      country: 'GB',
      total: '4200',
    };
    const ordersNow = async () => (await w.ctx.store.db.select().from(orders)).length;
    const before = await ordersNow();
    const asked = w.provider.asked.length;
    for (const to of [`/tiny/checkout/${token}`, `/v1/tiny/carts/${token}/page/checkout`])
      for (const [address, form] of [
        [to, whole],
        [to, { ...whole, order: '' }],
        [to, { ...whole, look: '1' }],
        [`${to}/sum`, { ...whole, order: 'yes' }],
        [`${to}/sum`, whole],
      ] as const) {
        const answer = await shop(address, form);
        expect([address, answer.status]).toEqual([address, 200]);
        expect(answer.text).toContain('name="order" value="yes"');
      }
    expect(await ordersNow()).toBe(before);
    expect(w.provider.asked.length).toBe(asked);
    // The first button of the form is what Enter in a field presses: it must be one that works the sum out.
    const page = (await shop(`/tiny/checkout/${token}`)).text;
    const form = page.slice(page.indexOf('<form class="stall-checkout"'));
    expect(/<button[^>]*>/.exec(form)?.[0]).toContain(`formaction="`);
  });

  it('say what is wrong where the shopper is', async () => {
    const many = await shop('/tiny/goods/trug', { quantity: '9', placement: '' });
    expect(many.status).toBe(409);
    // Two were made; the shopper above went to pay for one of them.
    expect(many.text).toContain('Only 1 left of Trug.');
    expect((await shop('/tiny/goods/trug', { quantity: 'two' })).text).toContain('as a whole number');
    expect((await shop('/tiny/goods/none')).status).toBe(404);
    expect((await shop('/tiny/cart/none')).text).toContain('This cart is no longer kept');
    expect((await shop('/nobody/goods')).status).toBe(404);
  });
});

describe('what widgets ask for', () => {
  it('a cart is fragments whose forms come back with the site\u2019s own ways', async () => {
    const token =
      'cart=https%3A%2F%2Ftiny.example%2Fcart%2F&checkout=https%3A%2F%2Ftiny.example%2Fcheckout%2F&back=https%3A%2F%2Ftiny.example%2F';
    const added = JSON.parse((await shop('/v1/tiny/carts', { goods: 'trug' })).text) as { token: string };
    const cart = await shop(`/v1/tiny/carts/${added.token}/page?${token}`);
    expect(cart.headers['stall-pieces']).toBe('1');
    expect(cart.headers['access-control-allow-origin']).toBe('*');
    expect(cart.text).toContain('href="https://tiny.example/checkout/"');
    const evil = await shop(`/v1/tiny/carts/${added.token}/page?checkout=javascript:alert(1)`);
    expect(evil.text).not.toContain('javascript:');
    const count = JSON.parse((await shop(`/v1/tiny/carts/${added.token}`)).text) as { pieces: number };
    expect(count.pieces).toBe(1);
  });

  it('numbers of orders cannot be counted through: looks that find nothing are few, and what is worth something is not shown', async () => {
    const email = 'lin@penhallow.example';
    await w.buy([{ goods: 'trug', quantity: 1 }], email);
    const [order] = await w.orders();
    const look = (number: number, of = email) => shop('/tiny/lookup', { number: String(number), email: of });
    const found = await look(order?.number ?? 0);
    expect(found.text).toContain('42.00');
    expect(found.text).not.toContain('/reviews/');
    expect(found.text).toContain('/tiny/account');
    // Another address is told the same words for a number that is not its own.
    expect((await look(order?.number ?? 0, 'eve@moor.example')).text).toContain(
      'There is no order of that number',
    );
    const tries = await Promise.all(Array.from({ length: 40 }, (_, n) => look(5000 + n)));
    expect(tries.filter((t) => t.text.includes('There is no order of that number')).length).toBe(8);
    expect(tries.filter((t) => t.status === 429).length).toBe(32);
    // Locked for everybody who names that address, whether the number is right or not.
    expect((await look(order?.number ?? 0)).status).toBe(429);
  });

  it('an unknown order is not known, and a notice without signature is refused', async () => {
    expect((await shop('/v1/tiny/orders/none/page?part=thanks')).status).toBe(404);
    expect((await shop('/v1/notices/card', { a: 'b' })).status).toBe(403);
    expect(
      (await ask(ports.shop, '/v1/tiny/carts', { method: 'OPTIONS' })).headers[
        'access-control-allow-headers'
      ],
    ).toContain('idempotency-key');
  });
});
