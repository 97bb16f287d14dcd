import autocannon from 'autocannon';
import { figure, type Figure, median, type Measurement } from './support/figure';
import { bareServer } from './support/bare-server';
import { ask, buyer, serverMemoryMb, startDemo } from './support/installation';

const PORT = 4840;
const BARE = 4849;
const ROUNDS = 3;
const SECONDS = Number(process.env.BENCH_SECONDS ?? 4);
/** Carts that are asked about in turns: no answer is that of one lucky cart. */
const CARTS = 200;
/** Of the mixed run, in seconds: ten minutes, unless a shorter one is asked for. */
const MIXED_SECONDS = Number(process.env.BENCH_MIXED_SECONDS ?? 600);
const host = `shop.localhost:${PORT + 1}`;
const shop = `http://${host}`;
const goods = [
  'round-log-basket',
  'willow-bundle-1-5-kg',
  'weave-a-bird-feeder-kit',
  'pattern-sheet-oval-shopper',
];
const question = new URLSearchParams({
  cart: 'https://w.example/cart/',
  checkout: 'https://w.example/checkout/',
  back: 'https://w.example/',
});

interface Load {
  readonly perSecond: number;
  readonly p99: number;
  readonly errors: number;
}

/** Requests that one connection takes in turns: the client writes all of them before the first is sent, and keeps itself waiting. */
const OWN = 8;

/** Requests in turns over many connections, as they come from many browsers: each has its own part of them. */
async function load(
  port: number,
  requests: readonly autocannon.Request[],
  connections = 50,
  { duration = SECONDS, own = OWN }: { readonly duration?: number; readonly own?: number } = {},
): Promise<Load> {
  let nth = 0;
  const r = await autocannon({
    url: `http://127.0.0.1:${port}`,
    connections,
    duration,
    requests: [...requests.slice(0, own)],
    setupClient: (client) => {
      client.setRequests(ownPart(requests, own, nth++));
    },
    headers: { host, 'accept-encoding': 'gzip' },
  });
  return {
    perSecond: r.requests.average,
    p99: r.latency.p99,
    errors: r.errors + r.timeouts + r.non2xx,
  };
}

/** The requests of the connection that came as the nth; together the connections ask for all. */
function ownPart(requests: readonly autocannon.Request[], own: number, nth: number): autocannon.Request[] {
  const from = (nth * own) % requests.length;
  return [...requests, ...requests].slice(from, from + Math.min(own, requests.length));
}

const get = (path: string): autocannon.Request => ({ method: 'GET', path });

/** Carts with one to three lines, made the way shoppers make them. */
async function makeCarts(): Promise<string[]> {
  const made: string[] = [];
  for (let n = 0; n < CARTS; n++) {
    let token = '';
    for (let line = 0; line <= n % 3; line++) {
      const body = JSON.stringify({ goods: goods[(n + line) % goods.length] });
      const to = token ? `/carts/${token}/lines` : '/carts';
      const answer = await ask(`${shop}/v1/withybed${to}`, 'POST', body, 'application/json');
      token = (JSON.parse(answer.body) as { token?: string }).token ?? token;
    }
    if (token) made.push(token);
  }
  return made;
}

interface Walk {
  readonly what: string;
  /** How much of a bare server's rate it is to reach; nought where nothing is asked. */
  readonly aim: number;
  readonly requests: readonly autocannon.Request[];
  /** A page whose size the bare server sends, too: else the client's work with it would count against us. */
  readonly page?: string;
}

/** Bytes of a page as browsers get it. */
async function pressedSize(path: string): Promise<string> {
  const answer = await fetch(`http://127.0.0.1:${PORT + 1}${path}`, {
    headers: { host, 'accept-encoding': 'gzip' },
  });
  await answer.arrayBuffer();
  return answer.headers.get('content-length') ?? '';
}

/** What is measured. */
const walks = (carts: readonly string[]): Walk[] => [
  {
    what: 'cart count, asked on every page by whoever has a cart',
    aim: 0.15,
    requests: carts.map((t) => get(`/v1/withybed/carts/${t}?only=pieces`)),
  },
  {
    what: 'cart page',
    aim: 0.08,
    requests: carts.map((t) => get(`/v1/withybed/carts/${t}/page?${question}`)),
  },
  {
    what: 'cart page after a change, made anew each time',
    aim: 0,
    requests: carts.flatMap((t) =>
      ['A', 'B'].map(
        (code): autocannon.Request => ({
          method: 'POST',
          path: `/v1/withybed/carts/${t}/page/codes?${question}`,
          headers: { 'content-type': 'application/x-www-form-urlencoded' },
          body: `code=${code}`,
        }),
      ),
    ),
  },
  {
    what: 'product page without script',
    aim: 0.3,
    page: `/withybed/goods/${goods[0]}`,
    requests: goods.map((g) => get(`/withybed/goods/${g}`)),
  },
  {
    what: 'shop list without script',
    aim: 0.3,
    page: '/withybed/goods',
    requests: [get('/withybed/goods')],
  },
  {
    what: 'shop list without script, by whoever has a cart',
    aim: 0,
    requests: carts.map(
      (t): autocannon.Request => ({
        ...get('/withybed/goods'),
        headers: { cookie: `stall-cart=${t}` },
      }),
    ),
  },
  {
    what: 'checkout page',
    aim: 0.03,
    requests: carts.map((t) => get(`/v1/withybed/carts/${t}/page/checkout?${question}`)),
  },
];

/** The rest of a shopper's way, against a bare node:http server that answers a small JSON, in turns; and all of it mixed. */
export const shopper: Measurement = async () => {
  const demo = await startDemo(PORT, { STALL_WRITES_PER_MINUTE: '0' });
  const bare = await bareServer(BARE, '{"token":"0123456789abcdefghijkl","pieces":2}');
  try {
    const carts = await makeCarts();
    const figures: Figure[] = [];
    for (const { what, aim, requests, page } of walks(carts)) {
      const bytes = page ? await pressedSize(page) : '';
      const ours: Load[] = [];
      const theirs: number[] = [];
      for (let n = 0; n < ROUNDS; n++) {
        theirs.push((await load(BARE, [get(`/${bytes}`)])).perSecond);
        ours.push(await load(PORT + 1, requests));
      }
      const many = await load(PORT + 1, requests, 500, { duration: 2 * SECONDS });
      const rate = median(ours.map((o) => o.perSecond));
      const errors = ours.reduce((n, o) => n + o.errors, 0) + many.errors;
      figures.push(
        figure(
          what,
          `${rate.toFixed(0)}/s, 99th ${median(ours.map((o) => o.p99))} ms; with 500 connections ${many.p99} ms, ${errors} errors`,
          `bare node:http${bytes && `, as many bytes (${bytes})`} ${median(theirs).toFixed(0)}/s`,
          (rate / median(theirs)).toFixed(3),
          `${aim ? `${aim} or more, ` : ''}99th under 150 ms and 1 s, no error`,
        ),
      );
    }
    return [...figures, ...(await mixed(carts))];
  } finally {
    bare.kill();
    await demo.end();
  }
};

/** A hundred requests in the shares of a shop: 60 widgets, 20 products, 10 counts, 5 carts, 3 adds, 2 checkouts; spread, not in blocks. */
function mix(carts: readonly string[]): autocannon.Request[] {
  const cart = (n: number) => carts[n % carts.length] ?? '';
  const json = { 'content-type': 'application/json' };
  const of = (n: number): autocannon.Request => {
    if (n < 60) return get(`/v1/withybed/page?goods=${goods[n % goods.length]}`);
    if (n < 80) return get(`/withybed/goods/${goods[n % goods.length]}`);
    if (n < 90) return get(`/v1/withybed/carts/${cart(n)}?only=pieces`);
    if (n < 95) return get(`/v1/withybed/carts/${cart(n)}/page?${question}`);
    if (n < 98)
      return {
        method: 'POST',
        path: '/v1/withybed/carts',
        headers: json,
        body: JSON.stringify({ goods: 'pattern-sheet-oval-shopper' }),
      };
    return {
      method: 'POST',
      path: `/v1/withybed/carts/${cart(n)}/page/checkout/sum?${question}`,
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams(buyer).toString(),
    };
  };
  // 37 and 100 have no common part: every request once, neighbours far from each other.
  return Array.from({ length: 100 }, (_, n) => of((n * 37) % 100));
}

async function mixed(carts: readonly string[]): Promise<Figure[]> {
  const before = await serverMemoryMb(PORT);
  // All of it on each connection: one with quick questions alone would ask more of them, and the shares would be others.
  const requests = mix(carts);
  const came = await load(PORT + 1, requests, 50, { duration: MIXED_SECONDS, own: requests.length });
  const after = await serverMemoryMb(PORT);
  return [
    figure(
      `mixed, ${Math.round(MIXED_SECONDS / 60)} minutes: 60 % widgets, 20 % product, 10 % count, 5 % cart, 3 % adds, 2 % checkouts`,
      `${came.perSecond.toFixed(0)}/s, 99th ${came.p99} ms, ${came.errors} errors`,
      '',
      `memory ${before} to ${after} MB`,
      '99th under 150 ms, no error, memory bounded',
    ),
  ];
}
