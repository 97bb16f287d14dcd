import { createHash } from 'node:crypto';
import { connected } from './client-address';
import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Readable } from 'node:stream';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { takeFile, takeFilm } from '../services/goods/files';
import { decideReview, listReviews } from '../services/goods/reviews';
import { makeWorld, type World } from '../services/testing';
import { publicListener } from './public/listener';
import { PreparedAnswers } from './public/prepared';

/** Files, films and reviews over HTTP, as browsers and download managers ask. */
let w: World;
let port = 0;
const server = createServer((req, res) => listener(req, res));
let listener: ReturnType<typeof publicListener>;
// Every byte tells where it stands, so that a wrong range is seen.
const bytes = Buffer.from(Array.from({ length: 300_000 }, (_, n) => (n * 7 + (n >> 8)) & 255));
let token = '';
let productId = '';

interface Answer {
  status: number;
  headers: Record<string, string | undefined>;
  body: Buffer;
}
const ask = (
  path: string,
  headers: Record<string, string> = {},
  form?: Record<string, string>,
  method = form ? 'POST' : 'GET',
) =>
  new Promise<Answer>((resolve, reject) => {
    const body = form && new URLSearchParams(form).toString();
    const req = request(
      {
        host: '127.0.0.1',
        port,
        path,
        method,
        headers: { ...headers, ...(body && { 'content-type': 'application/x-www-form-urlencoded' }) },
      },
      (res) => {
        const chunks: Buffer[] = [];
        res.on('data', (c: Buffer) => chunks.push(c));
        res.on('end', () =>
          resolve({
            status: res.statusCode ?? 0,
            headers: Object.fromEntries(
              Object.entries(res.headers).map(([k, v]) => [k, Array.isArray(v) ? v[0] : v]),
            ),
            body: Buffer.concat(chunks),
          }),
        );
      },
    );
    req.on('error', reject);
    req.end(body);
  });
const cookieFrom = (a: Answer) => (a.headers['set-cookie'] ?? '').split(';')[0] ?? '';
const pathOf = (a: Answer) => (a.headers.location ?? '').replace('http://shop.test', '');

beforeAll(async () => {
  w = await makeWorld();
  const answers = new PreparedAnswers();
  w.whenChanged.push((id) => answers.drop(id));
  listener = publicListener(w.ctx, {
    files: new Map(),
    answers,
    writesPerMinute: undefined,
    clientOf: connected,
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  port = (server.address() as AddressInfo).port;
  const file = await takeFile(w.ctx, Readable.from([bytes]), 'Körbe & Äste.pdf');
  productId = (
    await w.addGoods('Pattern', 650, null, {
      kind: 'download',
      downloads: { limit: 3, releases: [{ name: '1', date: '2026-01-01', files: [file] }] },
    })
  ).id;
  token = await w.buy([{ goods: 'pattern' }]);
});
afterAll(async () => {
  server.close();
  await w.end();
});

const slug = async () => (await w.site()).row.slug;

describe('a file that was bought', () => {
  let cookie = '';
  let way = '';
  const page = async () => `/${await slug()}/downloads/${token}`;

  it('is reached by the browser that came first: a cookie of that path alone, hidden from scripts', async () => {
    const first = await ask(await page());
    expect(first.status).toBe(200);
    expect(first.headers['set-cookie']).toMatch(
      new RegExp(
        `^stall-files=[\\w-]+; Max-Age=31536000; Path=/${await slug()}/downloads; HttpOnly; SameSite=Lax$`,
      ),
    );
    cookie = cookieFrom(first);
    const hash = createHash('sha256').update(bytes).digest('hex');
    const variant = /name="of" value="(\w+)"/.exec(first.body.toString())?.[1] ?? '';
    const pressed = await ask(await page(), { cookie }, { of: variant, file: hash });
    expect(pressed.status).toBe(303);
    way = pathOf(pressed);
    expect(way).toMatch(/\?until=\d+&sig=[\w-]{43}$/);
  });

  it('comes whole, in ranges, and by conditions, as RFC 9110 has them', async () => {
    const whole = await ask(way, { cookie });
    expect([
      whole.status,
      whole.headers['content-length'],
      whole.headers['accept-ranges'],
      whole.body.equals(bytes),
    ]).toEqual([200, '300000', 'bytes', true]);
    // RFC 6266: a name in ASCII for old programs, and in UTF-8.
    expect(whole.headers['content-disposition']).toContain(
      "filename*=UTF-8''K%C3%B6rbe%20%26%20%C3%84ste.pdf",
    );
    expect([
      whole.headers['cache-control'],
      whole.headers['x-content-type-options'],
      whole.headers['content-type'],
    ]).toEqual(['private, no-store', 'nosniff', 'application/octet-stream']);
    // RFC 9110, 14.1.2 and 14.4: first-last, from, the last n.
    for (const [range, from, to] of [
      ['bytes=0-99', 0, 99],
      ['bytes=299900-', 299_900, 299_999],
      ['bytes=-100', 299_900, 299_999],
      ['bytes=150000-150001', 150_000, 150_001],
      ['bytes=299990-400000', 299_990, 299_999],
    ] as const) {
      const part = await ask(way, { cookie, range });
      expect([
        part.status,
        part.headers['content-range'],
        part.body.equals(bytes.subarray(from, to + 1)),
      ]).toEqual([206, `bytes ${from}-${to}/300000`, true]);
    }
    const beyond = await ask(way, { cookie, range: 'bytes=300000-' });
    expect([beyond.status, beyond.headers['content-range']]).toEqual([416, 'bytes */300000']);
    const etag = whole.headers.etag ?? '';
    expect(etag).toMatch(/^"[\w-]+"$/);
    expect((await ask(way, { cookie, 'if-none-match': etag })).status).toBe(304);
    // RFC 9110, 13.1.5: a range of something that changed meanwhile is answered with the whole.
    expect((await ask(way, { cookie, range: 'bytes=0-9', 'if-range': '"other"' })).status).toBe(200);
    expect((await ask(way, { cookie, range: 'bytes=0-9', 'if-range': etag })).status).toBe(206);
    const head = await ask(way, { cookie }, undefined, 'HEAD');
    expect([head.status, head.headers['content-length'], head.body.length]).toEqual([200, '300000', 0]);
  });

  it('is of no use to others: without the cookie, with another, or with a changed address', async () => {
    for (const headers of [
      {},
      { cookie: 'stall-files=aaaaaaaaaaaaaaaaaaaaaa' },
      { cookie: 'stall-files=<script>' },
    ])
      expect((await ask(way, headers as Record<string, string>)).status).toBe(403);
    expect((await ask(way.replace('until=1', 'until=9'), { cookie })).status).toBe(403);
    const question = await ask(await page());
    expect([
      question.status,
      question.headers['set-cookie'],
      question.body.toString().includes('name="email"'),
    ]).toEqual([200, undefined, true]);
    const wrong = await ask(await page(), {}, { email: 'else@where.example' });
    expect([wrong.status, wrong.body.toString().includes('not the address of this order')]).toEqual([
      403,
      true,
    ]);
    const right = await ask(await page(), {}, { email: 'ADA@penhallow.example' });
    expect(right.status).toBe(303);
    expect((await ask(way, { cookie: cookieFrom(right) })).status).toBe(200);
  });

  it('has an address nobody guesses the mail address for', async () => {
    const other = await w.buy([{ goods: 'pattern' }]);
    await ask(`/${await slug()}/downloads/${other}`);
    const answers: number[] = [];
    for (let n = 0; n < 12; n++)
      answers.push(
        (await ask(`/${await slug()}/downloads/${other}`, {}, { email: `guess${n}@moor.example` })).status,
      );
    expect(answers).toEqual([...Array.from({ length: 10 }, () => 403), 429, 429]);
  });
});

it('a film is played in ranges by anybody, and only a film is', async () => {
  const mp4 = Buffer.concat([
    Buffer.from([0, 0, 0, 24]),
    Buffer.from('ftypisom'),
    Buffer.from([0, 0, 2, 0]),
    Buffer.from('isomiso2'),
    bytes,
  ]);
  const { hash } = await takeFilm(w.ctx, Readable.from([mp4]), 'shed.mp4');
  const part = await ask(`/films/${hash}/film.mp4`, { range: 'bytes=4-7' });
  expect([part.status, part.headers['content-type'], part.body.toString()]).toEqual([
    206,
    'video/mp4',
    'ftyp',
  ]);
  const secret = createHash('sha256').update(bytes).digest('hex');
  expect((await ask(`/films/${secret}/film.mp4`)).status).toBe(404);
  expect((await ask('/films/..%2f..%2fsecrets/film.mp4')).status).toBe(404);
});

it('a review is written without script, waits, and then stands on the product\u2019s page', async () => {
  const path = `/${await slug()}/reviews/${token}/${productId}`;
  expect((await ask(path)).body.toString()).toContain('value="Ada P."');
  const wrong = await ask(path, {}, { name: 'Ada', text: 'Fine <b>words</b>' });
  expect([
    wrong.status,
    wrong.body.toString().includes('aria-invalid="true"'),
    wrong.body.toString().includes('Fine &lt;b&gt;words'),
  ]).toEqual([422, true, true]);
  expect((await ask(path, {}, { rating: '5', name: 'Ada', text: 'Fine <b>words</b>' })).status).toBe(200);
  const product = async () => (await ask(`/${await slug()}/goods/pattern`)).body.toString();
  expect(await product()).not.toContain('words');
  const [r] = await listReviews(w.ctx, await w.site());
  await decideReview(w.ctx, await w.site(), r?.id ?? '', { state: 'shown' });
  expect(await product()).toContain('Fine &lt;b&gt;words');
  expect(await product()).toContain('"ratingValue":5');
  expect((await ask(`/${await slug()}/reviews/none/${productId}`)).status).toBe(404);
});
