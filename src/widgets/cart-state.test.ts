import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

/** The page these parts of the widgets need: storage, events and an address; nothing of it draws. */
const SHOP = 'https://shop.example/withybed';
const TOKEN = 'a-token-of-22-letters_';

interface Asked {
  readonly url: string;
  readonly method: string;
  readonly body: Record<string, unknown>;
  readonly key: string | undefined;
}
let kept: Map<string, string>;
let asked: Asked[];
let answer: (a: Asked) => Promise<Response> | Response;
let page: EventTarget;

beforeEach(() => {
  vi.resetModules();
  kept = new Map();
  asked = [];
  page = new EventTarget();
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => void kept.set(k, v),
  });
  vi.stubGlobal('document', Object.assign(new EventTarget(), { querySelector: () => null }));
  vi.stubGlobal('addEventListener', page.addEventListener.bind(page));
  vi.stubGlobal('location', { pathname: '/our-baskets/' });
  vi.stubGlobal('fetch', async (url: string, init: RequestInit = {}) => {
    const a: Asked = {
      url,
      method: init.method ?? 'GET',
      body: JSON.parse(String(init.body ?? '{}')) as Record<string, unknown>,
      key: (init.headers as Record<string, string> | undefined)?.['idempotency-key'],
    };
    asked.push(a);
    return answer(a);
  });
});
afterEach(() => vi.unstubAllGlobals());

const load = () => import('./cart-state');
const json = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status });
const inAnotherTab = (key: string, value: string) => {
  kept.set(key, value);
  page.dispatchEvent(Object.assign(new Event('storage'), { key }));
};

describe('the cart of a page', () => {
  it('is made by the first thing put into it, kept in the site\u2019s own storage, and told to who listens', async () => {
    const cart = await load();
    const heard: number[] = [];
    const until = new AbortController();
    cart.onCart(SHOP, (s) => heard.push(s.pieces), until.signal);
    answer = () => json({ token: TOKEN, pieces: 2 });
    await cart.addToCart(SHOP, { goods: 'trug', placement: 'p1', quantity: 2 });
    expect(asked).toMatchObject([
      {
        url: 'https://shop.example/v1/withybed/carts',
        method: 'POST',
        body: { goods: 'trug', placement: 'p1', quantity: 2, page: '/our-baskets/' },
      },
    ]);
    expect(JSON.parse(kept.get(`stall:${SHOP}`) ?? '')).toEqual({ token: TOKEN, pieces: 2 });
    until.abort();
    answer = () => json({ token: TOKEN, pieces: 3 });
    await cart.addToCart(SHOP, { goods: 'trug', placement: null });
    expect(asked[1]?.url).toBe(`https://shop.example/v1/withybed/carts/${TOKEN}/lines`);
    expect(heard).toEqual([2]);
  });

  it('is one, however fast things are put into it; each request has a key of its own', async () => {
    const cart = await load();
    let pieces = 0;
    answer = async (a) => {
      await new Promise((soon) => setTimeout(soon, 5));
      return json({
        token: a.url.endsWith('/carts') ? `${TOKEN}${++pieces}`.slice(-22) : a.url.split('/').at(-2),
        pieces: a.url.endsWith('/carts') ? pieces : ++pieces,
      });
    };
    const all = await Promise.all(
      ['trug', 'line', 'pattern'].map((goods) => cart.addToCart(SHOP, { goods, placement: null })),
    );
    expect(asked.filter((a) => a.url.endsWith('/carts'))).toHaveLength(1);
    expect(new Set(all.map((s) => s.token)).size).toBe(1);
    expect(cart.cartOf(SHOP).pieces).toBe(3);
    expect(new Set(asked.map((a) => a.key)).size).toBe(3);
  });

  it('one thing that cannot be had does not keep the next out, and says why', async () => {
    const cart = await load();
    answer = (a) =>
      a.body.goods === 'gone'
        ? json({ title: 'This is not for sale any more.' }, 404)
        : json({ token: TOKEN, pieces: 1 }, 201);
    const [gone, trug] = await Promise.allSettled([
      cart.addToCart(SHOP, { goods: 'gone', placement: null }),
      cart.addToCart(SHOP, { goods: 'trug', placement: null }),
    ]);
    expect(gone).toMatchObject({ status: 'rejected', reason: new Error('This is not for sale any more.') });
    expect(trug).toMatchObject({ status: 'fulfilled', value: { pieces: 1 } });
  });

  it('is that of another tab as soon as something is put into it there; other shops are not touched', async () => {
    const cart = await load();
    const heard: number[] = [];
    cart.onCart(SHOP, (s) => heard.push(s.pieces), new AbortController().signal);
    inAnotherTab('stall:https://shop.example/other', JSON.stringify({ token: TOKEN, pieces: 9 }));
    inAnotherTab(`stall:${SHOP}`, JSON.stringify({ token: TOKEN, pieces: 4 }));
    expect(heard).toEqual([4]);
    expect(cart.cartOf(SHOP)).toEqual({ token: TOKEN, pieces: 4 });
  });

  it.each([
    ['', 0],
    ['{', 0],
    ['null', 0],
    [JSON.stringify({ token: '<script>', pieces: 5 }), 0],
    [JSON.stringify({ token: TOKEN, pieces: 'many' }), 0],
    [JSON.stringify({ token: TOKEN, pieces: 2 }), 2],
  ])('kept as %j is read as far as it makes sense', async (text, pieces) => {
    kept.set(`stall:${SHOP}`, text);
    expect((await load()).cartOf(SHOP).pieces).toBe(pieces);
  });

  it('leads to the site\u2019s own pages; where storage is blocked, to the plain ones with the cart in their address', async () => {
    const cart = await load();
    expect([
      cart.cartWay(SHOP, '/cart/'),
      cart.checkoutWay(SHOP, '/checkout/'),
      cart.cartWay(SHOP, null),
    ]).toEqual(['/cart/', '/checkout/', `${SHOP}/goods`]);
    vi.stubGlobal('localStorage', {
      getItem: () => {
        throw new Error('blocked');
      },
      setItem: () => {
        throw new Error('blocked');
      },
    });
    answer = () => json({ token: TOKEN, pieces: 1 });
    await cart.addToCart(SHOP, { goods: 'trug', placement: null });
    expect([cart.cartWay(SHOP, '/cart/'), cart.checkoutWay(SHOP, '#')]).toEqual([
      `${SHOP}/cart/${TOKEN}`,
      `${SHOP}/checkout/${TOKEN}`,
    ]);
    expect(cart.cartOf(SHOP).pieces).toBe(1);
  });

  it('that is no longer kept is empty; a shop that does not answer changes nothing', async () => {
    kept.set(`stall:${SHOP}`, JSON.stringify({ token: TOKEN, pieces: 2 }));
    const cart = await load();
    answer = () => Promise.reject(new Error('offline'));
    await cart.refreshCart(SHOP);
    expect(cart.cartOf(SHOP).pieces).toBe(2);
    answer = () => json({ token: TOKEN, pieces: 1 });
    await cart.refreshCart(SHOP);
    expect(cart.cartOf(SHOP).pieces).toBe(1);
    answer = () => json({}, 404);
    await cart.refreshCart(SHOP);
    expect(cart.cartOf(SHOP)).toEqual({ pieces: 0 });
    asked.length = 0;
    await cart.refreshCart(SHOP);
    expect(asked).toEqual([]);
  });
});

describe('what the widgets of a page ask for', () => {
  const data = { goods: {}, look: '', words: {}, html: {} };

  it('is asked once for all of them, in whatever order they stand, and once for each language', async () => {
    const { pageData } = await import('./page-data');
    answer = () => json(data);
    const all = [
      pageData(SHOP, { goods: 'trug' }),
      pageData(SHOP, { widget: 'row?source=all' }),
      pageData(SHOP, { goods: 'line' }),
      pageData(SHOP, { goods: 'trug' }),
      pageData(SHOP, { goods: 'trug', lang: 'de' }),
    ];
    await Promise.all(all);
    expect(asked.map((a) => decodeURIComponent(a.url)).sort()).toEqual([
      'https://shop.example/v1/withybed/page?goods=line,trug&w=row?source=all',
      'https://shop.example/v1/withybed/page?goods=trug&lang=de',
    ]);
    expect(all[0]).toBe(all[1]);
  });

  it('waits for the loader, asks anew afterwards, and says when there is no answer', async () => {
    const { pageData, waitFor } = await import('./page-data');
    let go = () => {};
    waitFor(
      new Promise<void>((done) => {
        go = done;
      }),
    );
    answer = () => json(data);
    const first = pageData(SHOP, { goods: 'trug' });
    await new Promise((soon) => setTimeout(soon, 10));
    expect(asked).toEqual([]);
    go();
    await first;
    answer = () => json({}, 503);
    await expect(pageData(SHOP, { goods: 'trug' })).rejects.toThrow('503');
    expect(asked).toHaveLength(2);
  });
});
