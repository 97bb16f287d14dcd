import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { gzipSync } from 'node:zlib';
import { afterEach, describe, expect, it } from 'vitest';
import { limits } from '../../../core/limits';
import { reachOf } from '../../outside/reach';
import { type LiveOptions, type LiveReading, readLive } from './read-live';
import { readSiteMap } from './site-map';

type Page = string | { status?: number; headers?: Record<string, string>; body?: string | Buffer };

let close: (() => Promise<void>) | undefined;
afterEach(async () => {
  await close?.();
  close = undefined;
});

interface Host {
  readonly url: string;
  readonly asked: string[];
  pages: Record<string, Page>;
}

/** A host on this machine that answers with these pages, by their addresses; "404" for all else. */
async function host(
  pages: Record<string, Page>,
  also?: (req: IncomingMessage, res: ServerResponse) => boolean,
): Promise<Host> {
  const it: Host = { url: '', asked: [], pages };
  const server = createServer((req, res) => {
    const address = req.url ?? '';
    it.asked.push(address);
    if (also?.(req, res)) return;
    const page = it.pages[address];
    if (page === undefined)
      return void res.writeHead(404, { 'content-type': 'text/html' }).end('<p>Not found');
    const { status = 200, headers = {}, body = '' } = typeof page === 'string' ? { body: page } : page;
    const type = /\.css$/.test(address) ? 'text/css' : 'text/html; charset=utf-8';
    res.writeHead(status, { 'content-type': type, ...headers }).end(body);
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  close = () =>
    new Promise((closed) => {
      server.close(() => closed());
      server.closeAllConnections();
    });
  return Object.assign(it, { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/` });
}

const reach = reachOf((address) => address === '127.0.0.1');

async function read(
  url: string,
  more: Partial<LiveOptions> = {},
): Promise<LiveReading & { files: Map<string, string> }> {
  const files = new Map<string, string>();
  const onFile = async (path: string, bytes: Buffer) => void files.set(path, bytes.toString('utf8'));
  return { ...(await readLive(reach, url, { onFile, ...more })), files };
}

const linking = (...to: string[]) =>
  `<!doctype html><title>${to.join(' ') || 'end'}</title>${to.map((t) => `<p>Read on, there is more of it <a href="${t}">there</a>`).join('')}`;

describe('a site read from its live address', () => {
  it('is its pages by links, with what dresses them, under the names that links find', async () => {
    const h = await host({
      '/': `<link rel="stylesheet" href="/css/site.css?v=3">${linking('/about', 'journal/', '/gone', 'https://elsewhere.example/')}`,
      '/about': linking('/'),
      '/journal/': linking('first', '/'),
      '/journal/first': linking(),
      '/css/site.css': 'body{background:url(../img/wool.png)}@import "more.css";',
      '/css/more.css': 'p{color:red}',
      '/img/wool.png': { headers: { 'content-type': 'image/png' }, body: 'png' },
    });
    const site = await read(h.url);
    expect([...site.files.keys()].sort()).toEqual([
      'about.html',
      'css/more.css',
      'css/site.css',
      'img/wool.png',
      'index.html',
      'journal/first.html',
      'journal/index.html',
    ]);
    expect(Object.fromEntries(site.addresses)).toMatchObject({
      'about.html': '/about',
      'journal/index.html': '/journal/',
    });
    expect([...site.gone]).toEqual(['gone.html']);
    expect(site.front).toBe('index.html');
    expect(site.url).toBe(h.url);
    expect(site.notes).toEqual([]);
  });

  it('finds pages that nothing leads to by its lists of addresses, packed ones and lists of lists too', async () => {
    const h = await host({});
    const map = (...urls: string[]) =>
      `<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${urls.map((u) => `<url><loc>${h.url}${u}</loc></url>`).join('')}</urlset>`;
    h.pages = {
      '/': linking(),
      '/robots.txt': {
        headers: { 'content-type': 'text/plain' },
        body: `User-agent: *\nSitemap: ${h.url}maps.xml\n`,
      },
      '/maps.xml': `<sitemapindex><sitemap><loc>${h.url}a.xml</loc></sitemap><sitemap><loc>${h.url}b.xml.gz</loc></sitemap><sitemap><loc>http://127.0.0.2/c.xml</loc></sitemap></sitemapindex>`,
      '/a.xml': map('one'),
      '/b.xml.gz': { headers: { 'content-type': 'application/gzip' }, body: gzipSync(map('two', 'one')) },
      '/one': linking('/x1'),
      '/two': linking('/x2'),
    };
    expect([...(await read(h.url)).addresses.values()].sort()).toEqual(['/', '/one', '/two']);
  });

  it('stays within the folder that was named, and takes what dresses its pages from above it', async () => {
    const h = await host({
      '/~jane/': `<link rel="stylesheet" href="/shared.css">${linking('/~john/', 'yarn', '/')}`,
      '/~jane/yarn': linking(),
      '/~john/': linking(),
      '/': linking(),
      '/shared.css': 'p{}',
    });
    const site = await read(`${h.url}~jane/`);
    expect([...site.files.keys()].sort()).toEqual(['shared.css', '~jane/index.html', '~jane/yarn.html']);
    expect(site.url).toBe(`${h.url}~jane/`);
  });

  it('whose front page has a name of its own begins with that', async () => {
    const h = await host({
      '/': { status: 302, headers: { location: '/welcome' } },
      '/welcome': linking('/about'),
      '/about': linking('/welcome'),
    });
    const site = await read(h.url);
    expect(site.front).toBe('welcome.html');
    expect(site.url).toBe(h.url);
  });

  it('keeps a page once that stands at two addresses, and believes a page that wrongly names another as its own', async () => {
    const h = await host({
      '/': linking('/about', '/about/', '/shop', '/same-1', '/same-2'),
      '/about': `<link rel="canonical" href="/about/">${linking()}`,
      '/about/': `<link rel="canonical" href="/about/">${linking()}`,
      '/shop': `<link rel="canonical" href="/">${linking('/one')}`,
      '/one': linking('/y'),
      '/same-1': '<p>The very same',
      '/same-2': '<p>The very same',
    });
    const site = await read(h.url);
    const kept = [...site.addresses.values()].map((a) => a.replace(/same-[12]/, 'same')).sort();
    expect(kept).toEqual(['/', '/about/', '/one', '/same', '/shop']);
    expect(site.notes.join()).toContain('second address');
  });

  it('is asked as robots.txt wants it (RFC 9309): the most specific rule, and our own name before all', async () => {
    const h = await host({
      '/': linking('/private/a', '/private/open', '/free'),
      '/robots.txt': {
        headers: { 'content-type': 'text/plain' },
        body: 'User-agent: *\nDisallow: /\n\nUser-agent: greenstall\nDisallow: /private/\nAllow: /private/open$\n',
      },
      '/private/a': linking(),
      '/private/open': linking('/z'),
      '/free': linking('/q'),
    });
    const site = await read(h.url);
    expect([...site.addresses.values()].sort()).toEqual(['/', '/free', '/private/open']);
    expect(h.asked).not.toContain('/private/a');
    expect(site.notes).toEqual([
      expect.stringContaining("One page was left out, because the site's robots.txt"),
    ]);
  });

  it.each([
    [
      { headers: { 'content-type': 'text/plain' }, body: 'User-agent: *\nDisallow: /' },
      'asks programs to stay away',
    ],
    [{ status: 503 }, 'answers 503 for robots.txt'],
  ])('is left alone where robots.txt is %o', async (robots, why) => {
    const h = await host({ '/': linking(), '/robots.txt': robots });
    await expect(read(h.url)).rejects.toThrow(why);
  });

  it('is not asked again for what has not changed', async () => {
    const etag = (body: string) => ({ headers: { etag: `"${body.length}"` }, body });
    const h = await host(
      { '/': etag(linking('/a', '/b')), '/a': etag(linking()), '/b': etag(linking('/')) },
      (req, res) => {
        const page = h.pages[req.url ?? ''];
        const tag = typeof page === 'object' ? page.headers?.etag : undefined;
        if (!tag || req.headers['if-none-match'] !== tag) return false;
        res.writeHead(304).end();
        return true;
      },
    );
    const first = await read(h.url);
    h.pages['/b'] = etag(linking('/', '/new'));
    h.pages['/new'] = etag('<p>New.');
    const bodies: string[] = [];
    const again = await read(h.url, {
      before: {
        validators: first.validators,
        file: async (path) => {
          bodies.push(path);
          const text = first.files.get(path);
          return text === undefined ? undefined : Buffer.from(text);
        },
      },
    });
    expect([...again.files.keys()].sort()).toEqual(['a.html', 'b.html', 'index.html', 'new.html']);
    expect(again.files.get('a.html')).toBe(first.files.get('a.html'));
    expect(bodies.sort()).toEqual(['a.html', 'b.html']);
  });

  it('in an encoding that only its server tells is kept as what it says', async () => {
    const h = await host({
      '/': {
        headers: { 'content-type': 'text/html; charset=windows-1251' },
        body: Buffer.from([0x3c, 0x70, 0x3e, 0xcf, 0xf0, 0xe8, 0xe2, 0xe5, 0xf2]),
      },
    });
    expect((await read(h.url)).files.get('index.html')).toBe('\ufeff<p>\u041f\u0440\u0438\u0432\u0435\u0442');
  });

  it('waits once where a server asks for patience', async () => {
    let times = 0;
    const h = await host({ '/': linking('/busy'), '/busy': linking('/k') }, (req, res) => {
      if (req.url !== '/busy' || times++) return false;
      res.writeHead(429, { 'retry-after': '0' }).end();
      return true;
    });
    expect([...(await read(h.url)).addresses.values()]).toContain('/busy');
  });

  it('that a script draws is told, and addresses with questions are no pages', async () => {
    const h = await host({
      '/': linking('/app', '/list?page=2'),
      '/app': '<div id="root"></div><script src="/app.js"></script>',
    });
    const { notes } = await read(h.url);
    expect(notes).toEqual([
      expect.stringContaining('with "?" was not read'),
      expect.stringContaining('drawn by a script'),
    ]);
  });
});

describe('a host that means ill', () => {
  it('makes pages for ever: reading stops at its limit of time, and says so', async () => {
    let n = 0;
    const h = await host({}, (req, res) => {
      if (req.url === '/robots.txt' || req.url === '/sitemap.xml') return false;
      res.writeHead(200, { 'content-type': 'text/html' }).end(linking(`/p${++n}`, `/p${++n}`));
      return true;
    });
    let clock = 0;
    const site = await read(h.url, { now: () => (clock += 10_000) });
    expect(site.addresses.size).toBeLessThan(limits.livePages.most);
    expect(site.notes[0]).toContain('Reading stopped at 900 seconds');
  });
  it('gives one page at every address: it is kept once', async () => {
    let n = 0;
    const h = await host({}, (req, res) => {
      if (/robots|sitemap/.test(req.url ?? '')) return false;
      n++;
      res
        .writeHead(200, { 'content-type': 'text/html' })
        .end(Array.from({ length: 30 }, (_, i) => `<a href="${i}/">${i}</a>`).join(''));
      return true;
    });
    expect((await read(h.url)).files.size).toBe(1);
    expect(n).toBeLessThan(40);
  });
  it('answers with something that is no page: it is told what', async () => {
    const h = await host({ '/': { headers: { 'content-type': 'application/pdf' }, body: '%PDF' } });
    await expect(read(h.url)).rejects.toThrow('is no web page but application/pdf');
  });
  it('lies about what it sends: it is kept as no page', async () => {
    const h = await host({
      '/': linking('/lie'),
      '/lie': { body: Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 1, 2, 3, 0, 0]) },
    });
    const site = await read(h.url);
    expect([...site.addresses.values()]).toEqual(['/']);
  });
  it('names paths that climb out, in links and in lists', async () => {
    const h = await host({ '/': linking('/..%2f..%2fetc%2fpasswd', '/%2e%2e/x', '/a%00b') });
    expect([...(await read(h.url)).files.keys()]).toEqual(['index.html']);
  });
  it('leads a page to another machine: nothing of it is kept', async () => {
    const h = await host({
      '/': linking('/out'),
      '/out': { status: 302, headers: { location: 'http://127.0.0.2:1/' } },
    });
    const site = await read(h.url);
    expect(site.files.size).toBe(1);
    expect(site.notes.join()).toContain('not on the public Internet');
  });
  it('has a list of addresses that is none, or swells when it is read', () => {
    expect(readSiteMap('<urlset><url><loc>broken')).toEqual({ pages: [], lists: [] });
    expect(readSiteMap('https://yarn.example/a\nnothing\r\nhttps://yarn.example/b').pages).toHaveLength(2);
    const bomb = `<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa">${Array.from({ length: 9 }, (_, i) => `<!ENTITY a${i + 1} "${`&a${i || ''};`.repeat(10)}">`).join('')}]><urlset><url><loc>&a9;</loc></url></urlset>`;
    expect(readSiteMap(bomb).pages.join('').length).toBeLessThan(1e6);
  });
});

it('stops where the owner stops it, and nothing goes on behind', async () => {
  const h = await host(
    Object.fromEntries([
      ['/', linking(...Array.from({ length: 40 }, (_, i) => `/p${i}`))],
      ...Array.from({ length: 40 }, (_, i) => [`/p${i}`, linking(`/q${i}`)]),
    ]),
  );
  let told = 0;
  const stopped = read(h.url, {
    onProgress: () => {
      if (++told === 5) throw new Error('stopped');
    },
  });
  await expect(stopped).rejects.toThrow('stopped');
  // What was on its way to the host arrives there.
  await new Promise((soon) => setTimeout(soon, 50));
  const then = h.asked.length;
  await new Promise((soon) => setTimeout(soon, 150));
  expect(h.asked.length).toBe(then);
});
