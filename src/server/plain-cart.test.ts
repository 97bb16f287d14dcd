import { createServer, request } from 'node:http';
import { connected } from './client-address';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeWorld, type World } from '../services/testing';
import { readCart } from '../services/till/cart';
import { publicListener } from './public/listener';
import { PreparedAnswers } from './public/prepared';

let w: World;
let port = 0;
const server = createServer((req, res) => listener(req, res));
let listener: ReturnType<typeof publicListener>;

beforeAll(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 9);
  await w.addGoods('Creel', 5000, 9);
  listener = publicListener(w.ctx, {
    files: new Map(),
    answers: new PreparedAnswers(),
    writesPerMinute: undefined,
    clientOf: connected,
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  port = (server.address() as AddressInfo).port;
});
afterAll(async () => {
  server.close();
  await w.end();
});

/**
 * A browser without script, as far as cookies go: SameSite=Lax cookies (RFC 6265bis, 5.5.7.1) go with every address that is followed,
 * and with forms of the same site; not with a form that another site sends.
 */
class Browser {
  readonly jar = new Map<string, string>();

  async send(
    path: string,
    form?: Record<string, string>,
    from: 'same-origin' | 'cross-site' = 'same-origin',
  ) {
    const body = form && new URLSearchParams(form).toString();
    const withCookies = !(body && from === 'cross-site') && this.jar.size > 0;
    const answer = await new Promise<{ location: string; text: string; status: number }>(
      (resolve, reject) => {
        const req = request(
          {
            port,
            host: '127.0.0.1',
            path,
            method: body ? 'POST' : 'GET',
            headers: {
              host: 'shop.test',
              'sec-fetch-site': from,
              ...(withCookies && { cookie: [...this.jar].map(([k, v]) => `${k}=${v}`).join('; ') }),
              ...(body && { 'content-type': 'application/x-www-form-urlencoded' }),
            },
          },
          (res) => {
            for (const set of res.headers['set-cookie'] ?? []) this.#keep(set);
            let text = '';
            res.on('data', (c: Buffer) => (text += c.toString()));
            res.on('end', () =>
              resolve({ location: res.headers.location ?? '', text, status: res.statusCode ?? 0 }),
            );
          },
        );
        req.on('error', reject);
        req.end(body);
      },
    );
    return answer;
  }

  #keep(set: string): void {
    expect(set).toMatch(/HttpOnly/);
    expect(set).toMatch(/SameSite=Lax/);
    expect(set).toMatch(/Path=\/tiny/);
    const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(set) ?? [];
    if (/Max-Age=0/.test(set)) this.jar.delete(name);
    else this.jar.set(name, value);
  }

  /** Follows where an answer leads, to its page. */
  async go(path: string, form?: Record<string, string>, from: 'same-origin' | 'cross-site' = 'same-origin') {
    let answer = await this.send(path, form, from);
    for (let n = 0; answer.location && n < 5; n++)
      answer = await this.send(new URL(answer.location, 'http://shop.test').pathname);
    return answer;
  }
}

const add = { quantity: '1', placement: '' };

describe('without script there is one cart', () => {
  it('along the plain pages: two things are bought together, and every page has the way to them', async () => {
    const b = new Browser();
    await b.go('/tiny/goods/trug', add);
    expect((await b.go('/tiny/goods')).text).toMatch(/<nav class="stall-bar"[\s\S]*Cart, 1 piece/);
    const cart = await b.go('/tiny/goods/creel', add);
    expect(cart.text).toContain('Trug');
    expect(cart.text).toContain('Creel');
    for (const page of ['/tiny/goods', '/tiny/goods/trug', '/tiny/lookup'])
      expect([page, (await b.go(page)).text.includes('Cart, 2 pieces')]).toEqual([page, true]);
  });

  it('from forms on the owner\u2019s own site too, which send no cookie', async () => {
    const b = new Browser();
    await b.go('/tiny/goods/trug', add, 'cross-site');
    const cart = await b.go('/tiny/goods/creel', add, 'cross-site');
    expect(cart.text).toContain('Trug');
    expect(cart.text).toContain('Creel');
    const again = await b.go('/tiny/goods/trug', add, 'cross-site');
    expect(again.text).toContain('Cart, 3 pieces');
    expect(b.jar.size).toBe(1);
  });

  it('and nobody\u2019s address puts another cart in its place', async () => {
    const [mine, theirs] = [new Browser(), new Browser()];
    await theirs.go('/tiny/goods/creel', add);
    const stranger = theirs.jar.get('stall-cart') ?? '';
    await mine.go('/tiny/goods/trug', add);
    const own = mine.jar.get('stall-cart');
    await mine.go(`/tiny/cart/${stranger}`);
    await mine.go(`/tiny/goods/trug?cart=${stranger}`, add);
    expect(mine.jar.get('stall-cart')).toBe(own);
    const site = await w.site();
    expect((await readCart(w.ctx, site, stranger)).pieces).toBe(1);
    expect((await readCart(w.ctx, site, own ?? '')).pieces).toBe(2);
    const newcomer = new Browser();
    await newcomer.go(`/tiny/cart/${stranger}`);
    expect(newcomer.jar.size).toBe(0);
  });

  it('is begun anew when what the cookie names is no cart', async () => {
    for (const token of ['constructor', 'x'.repeat(30), '../../etc', '%00']) {
      const b = new Browser();
      b.jar.set('stall-cart', token);
      expect((await b.go('/tiny/goods')).status).toBe(200);
      expect((await b.go('/tiny/goods/trug', add)).text).toContain('Cart, 1 piece');
    }
  });
});
