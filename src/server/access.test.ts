import { mkdir, mkdtemp, rm, symlink, writeFile } from 'node:fs/promises';
import { connected } from './client-address';
import { createServer, request, type RequestListener, type Server } from 'node:http';
import { type AddressInfo, connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openEndpoints } from '../contract/rights';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bringIn } from '../services/sites/bring-in';
import { allowedFolder, isWithin } from '../services/sites/folders';
import { loadSite, type Site } from '../services/sites/site';
import { withUpload } from '../services/sites/take-upload';
import { makeWorld, tinySite, type World, zipFrom } from '../services/testing';
import { draftListener } from './draft/listener';
import type { App } from './office/app';
import { bodyLimit, bodyRefused, bytesOf } from './office/body-limits';
import { officeListener } from './office/listener';
import { makeWelcome } from './office/welcome';
import { publicListener } from './public/listener';
import { prepare, PreparedAnswers } from './public/prepared';

/** What somebody who means ill tries first, against the real listeners. */
let w: World;
const servers: Server[] = [];

async function open(listener: RequestListener): Promise<number> {
  const server = createServer(listener);
  servers.push(server);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return (server.address() as AddressInfo).port;
}

/** A request with its target as it is written: no client of Node's or the web's tidies it up. */
function raw(
  port: number,
  path: string,
  { host = 'shop.test', method = 'GET', body = '', headers = {} } = {},
): Promise<{ status: number; text: string }> {
  return new Promise((resolve, reject) => {
    const req = request({ port, host: '127.0.0.1', path, method, headers: { host, ...headers } }, (res) => {
      let text = '';
      res.on('data', (c: Buffer) => (text += c.toString()));
      res.on('end', () => resolve({ status: res.statusCode ?? 0, text }));
    });
    req.on('error', reject);
    req.end(body);
  });
}

beforeAll(async () => {
  w = await makeWorld();
});
afterAll(async () => {
  for (const s of servers) s.close();
  await w.end();
});

const secret = 'DB_PASSWORD=hunter2';
const withSecrets: Record<string, string> = {
  'index.html':
    '<!doctype html><html lang="en"><head><title>Kiln</title><link rel="stylesheet" href="css/site.css"><link rel="icon" href="favicon.ico"></head><body><header><a href="/">Kiln</a><img src="img/logo.svg" alt=""></header><main><h1>Kiln</h1><p>words</p><img src="img/kiln.jpg" alt=""></main><footer>f</footer></body></html>',
  'css/site.css': '@import "more.css"; body{background:url(../img/paper.png)} .x{background:url(../.env)}',
  'css/more.css': '@font-face{font-family:x;src:url(../fonts/x.woff2)}',
  'img/logo.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  'img/paper.png': 'png',
  'img/not-meant.png': 'png',
  'fonts/x.woff2': 'font',
  'favicon.ico': 'ico',
  'app.js': 'fetch("data.json")',
  'data.json': '{}',
  ...Object.fromEntries(
    [
      '.env',
      '.htpasswd',
      '.git/config',
      'config.php',
      'backup.sql',
      'wp-config.php.bak',
      'secrets.json',
      'stall.db',
      'private/key.pem',
    ].map((path) => [path, secret]),
  ),
};

describe('files that lie beside the pages', () => {
  let site: Site;
  let shop: number;
  let draft: number;
  beforeAll(async () => {
    const { slug } = await bringIn(
      w.ctx,
      { how: 'zip', fileName: 'x.zip', bytes: zipFrom(withSecrets) },
      { currency: 'GBP', liveUrl: 'https://kiln.example/' },
    );
    site = await loadSite(w.ctx, { slug });
    shop = await open(
      publicListener(w.ctx, {
        files: new Map(),
        answers: new PreparedAnswers(),
        writesPerMinute: undefined,
        clientOf: connected,
      }),
    );
    draft = await open(draftListener(w.ctx, prepare('', {})));
  });
  const secrets = Object.keys(withSecrets).filter((p) => withSecrets[p] === secret);

  it('are not served by the shop, whatever way they are asked for', async () => {
    for (const path of secrets)
      for (const asked of [path, `./${path}`, `css/../${path}`, encodeURIComponent(path), `%2e/${path}`]) {
        const answer = await raw(shop, `/${site.row.slug}/site/${asked}`);
        expect([asked, answer.status, answer.text.includes(secret)]).toEqual([asked, 404, false]);
      }
  });

  it('are not served by the draft either', async () => {
    for (const path of secrets) {
      const answer = await raw(draft, `/${path}`, { host: `${site.row.draftKey}.draft.test` });
      expect([path, answer.status, answer.text.includes(secret)]).toEqual([path, 404, false]);
    }
  });

  it('are there where the plain pages wear them, through style sheets too; scripts and what no page names are not', async () => {
    const status = async (path: string) => (await raw(shop, `/${site.row.slug}/site/${path}`)).status;
    for (const path of [
      'css/site.css',
      'css/more.css',
      'img/logo.svg',
      'img/paper.png',
      'fonts/x.woff2',
      'favicon.ico',
    ])
      expect([path, await status(path)]).toEqual([path, 200]);
    for (const path of ['app.js', 'data.json', 'img/not-meant.png', 'index.html', 'img/kiln.jpg'])
      expect([path, await status(path)]).toEqual([path, 404]);
    const host = { host: `${site.row.draftKey}.draft.test` };
    for (const path of ['app.js', 'data.json', 'index.html', 'img/not-meant.png'])
      expect([path, (await raw(draft, `/${path}`, host)).status]).toEqual([path, 200]);
  });

  it('and addresses that nobody would type, are answered as what they are: not found', async () => {
    const long = 'x'.repeat(6_000);
    const { slug } = site.row;
    for (const path of [
      '//',
      '///x',
      '//evil.example/x',
      '/%',
      '/%E0%A4%A',
      `/${long}`,
      `/${slug}/goods/${long}`,
      `/${slug}/site/${long}`,
      `/${slug}/site/constructor`,
      `/${slug}/site/__proto__`,
      `/${slug}/site/toString`,
      `/constructor/goods`,
      `/${slug}/cart/constructor`,
      `/${slug}/goods/__proto__`,
      `/${slug}/policies/constructor`,
      `/pictures/None/480`,
      `/pictures/${'a'.repeat(64)}/480`,
      `/pictures/constructor/480`,
      `/films/None/film.mp4`,
      `/films/${'a'.repeat(64)}/film.mp4`,
      `/v1/${slug}/widget/constructor`,
      `/v1/${slug}/carts/constructor`,
      `/v1/${slug}/orders/x/page`,
      `/v1/${slug}/glance/constructor`,
      `/${slug}/downloads/constructor`,
      `/${slug}/reviews/x/y`,
    ]) {
      const { status } = await raw(shop, path);
      expect([path.slice(0, 60), status >= 400 && status < 500]).toEqual([path.slice(0, 60), true]);
    }
    for (const [path, body] of [
      ['/v1/notices/constructor', '{}'],
      ['/v1/notices/card', '{}'],
      [`/v1/${slug}/carts`, '{"goods":"constructor"}'],
      [`/v1/${slug}/carts/constructor/lines`, '{"goods":"x"}'],
    ] as const) {
      const headers = { 'content-type': 'application/json', 'content-length': String(body.length) };
      const { status } = await raw(shop, path, { method: 'POST', body, headers });
      expect([path, status >= 400 && status < 500]).toEqual([path, true]);
    }
    for (const path of ['//', '/%', `/${long}`, '/constructor', '/__proto__', '/.stall/../.env'])
      expect((await raw(draft, path, { host: `${site.row.draftKey}.draft.test` })).status).toBeLessThan(500);
  });

  it('a body that is longer than a shopper may send is refused by its length', async () => {
    const headers = { 'content-type': 'application/json', 'content-length': String(1024 ** 3) };
    const answer = await new Promise<number>((resolve) => {
      const req = request(
        { port: shop, host: '127.0.0.1', path: `/v1/${site.row.slug}/carts`, method: 'POST', headers },
        (res) => {
          resolve(res.statusCode ?? 0);
          req.destroy();
        },
      );
      req.on('error', () => {});
      req.flushHeaders();
    });
    expect(answer).toBe(413);
  });
});

describe('folders of this machine', () => {
  let dir: string;
  beforeAll(async () => {
    dir = await mkdtemp(join(tmpdir(), 'stall-access-'));
    for (const d of ['www/site', 'www/data/live/demo', 'elsewhere', 'www/site-two'])
      await mkdir(join(dir, d), { recursive: true });
    await writeFile(join(dir, 'elsewhere/index.html'), '<p>');
    await symlink(join(dir, 'elsewhere'), join(dir, 'www/link'));
  });
  afterAll(() => rm(dir, { recursive: true }));
  const roots = () => ({ roots: [join(dir, 'www')], own: [join(dir, 'www/data')] });

  it('may be connected below the roots that the settings name, and nowhere else', async () => {
    await expect(allowedFolder(roots(), join(dir, 'www/site'))).resolves.toBe(join(dir, 'www/site'));
    for (const folder of ['elsewhere', 'www/../elsewhere', 'www-not', ''])
      await expect(allowedFolder(roots(), join(dir, folder))).rejects.toThrow('Sites are connected from');
    await expect(allowedFolder(roots(), '/')).rejects.toThrow('Sites are connected from');
    await expect(allowedFolder(roots(), 'www/site')).rejects.toThrow('whole path');
    await expect(allowedFolder({ roots: [], own: [] }, join(dir, 'www/site'))).rejects.toThrow(
      'STALL_FOLDERS',
    );
    await expect(allowedFolder(roots(), join(dir, 'www/none'))).rejects.toThrow('There is no folder');
  });

  it('never lead out by a link', async () => {
    await expect(allowedFolder(roots(), join(dir, 'www/link'))).rejects.toThrow('Sites are connected from');
  });

  it('are never the program\u2019s own, nor what holds them; a root inside was named on purpose', async () => {
    for (const folder of ['www/data', 'www/data/live', 'www'])
      await expect(allowedFolder(roots(), join(dir, folder))).rejects.toThrow('keeps itself and its data');
    await expect(
      allowedFolder(
        { roots: [join(dir, 'www/data/live')], own: [join(dir, 'www/data')] },
        join(dir, 'www/data/live/demo'),
      ),
    ).resolves.toBe(join(dir, 'www/data/live/demo'));
  });

  it('with a name that begins like another are not inside it', () => {
    expect(isWithin('/srv/site', '/srv/site-two')).toBe(false);
    expect(isWithin('/srv/site', '/srv/site/..two')).toBe(true);
  });

  it('are refused through the connection itself: the program\u2019s own data is not a site', async () => {
    const settings = { currency: 'GBP', liveUrl: 'https://x.example/' };
    await expect(bringIn(w.ctx, { how: 'folder', folder: w.dir }, settings)).rejects.toThrow('keeps itself');
    await expect(bringIn(w.ctx, { how: 'folder', folder: '/etc' }, settings)).rejects.toThrow(
      'Sites are connected',
    );
  });
});

describe('requests to the office before anybody has signed in', () => {
  let port: number;
  let reached = 0;
  beforeAll(async () => {
    const app = { ctx: w.ctx } as App;
    port = await open(
      officeListener(
        app,
        (_, res) => {
          reached++;
          res.end('ok');
        },
        { clientDir: tmpdir(), clientOf: connected, inlineScripts: [] },
      ),
    );
  });

  it('are refused by their length, with the limit in words, and nothing of them is kept', async () => {
    for (const [path, most] of [
      ...[...openEndpoints].map((path) => [path, bytesOf('signInBody')] as const),
      ['/api/x/till', bytesOf('formBody')],
      ['/api/sites', bytesOf('siteZip')],
    ] as const) {
      const before = reached;
      const tooLong = { 'content-length': String(most + 1) };
      const answer = await new Promise<{ status: number; text: string }>((resolve) => {
        const req = request({ port, host: '127.0.0.1', path, method: 'POST', headers: tooLong }, (res) => {
          let text = '';
          res.on('data', (c: Buffer) => (text += c.toString()));
          res.on('end', () => resolve({ status: res.statusCode ?? 0, text }));
        });
        req.on('error', () => {});
        req.flushHeaders();
      });
      expect([path, answer.status]).toEqual([path, 413]);
      expect(answer.text).toMatch(/\d+ (KB|MB)/);
      expect(reached).toBe(before);
    }
  });

  it('tell the limit to whoever goes on sending as well, and let go of who does so for long', async () => {
    const socket = connect({ port, host: '127.0.0.1' });
    const ended = new Promise<string>((done) => {
      socket.on('error', (error) => done(error.message));
      socket.on('close', () => done('closed'));
    });
    const most = bytesOf('signInBody');
    socket.write(
      `POST /api/welcome HTTP/1.1\r\nHost: office.test\r\nContent-Length: ${most * 1_000}\r\n\r\n`,
    );
    // As a proxy does: all of it is sent first, and the answer is read when that is done.
    const piece = Buffer.alloc(256 * 1024);
    for (let n = 0; n < 40 && socket.writable; n++)
      if (!socket.write(piece)) await new Promise((more) => socket.once('drain', more).once('close', more));
    let heard = '';
    socket.on('data', (chunk) => (heard += chunk));
    await ended;
    expect(heard).toContain('413');
  });

  it('say how long they are, or are not begun', () => {
    expect(bodyRefused({ headers: { 'transfer-encoding': 'chunked' } }, '/api/welcome')?.status).toBe(411);
    expect(bodyRefused({ headers: {} }, '/site')).toBeUndefined();
    expect(bodyRefused({ headers: { 'content-length': '100' } }, '/api/welcome')).toBeUndefined();
    expect(bodyLimit('/api/withybed/files')).toBe('goodsFile');
  });

  it('with a welcome key are let in once, however it is spelled', () => {
    const welcome = makeWelcome();
    expect(welcome.fits('\u00fc'.repeat(welcome.key.length))).toBe(false);
    expect(welcome.fits(welcome.key)).toBe(true);
    welcome.use();
    expect(welcome.fits(welcome.key)).toBe(false);
  });
});

describe('an upload', () => {
  it('goes to the disk as it comes, and is gone afterwards, also when it is too long', async () => {
    const bytes = zipFrom(tinySite);
    async function* pieces(): AsyncGenerator<Uint8Array> {
      for (let at = 0; at < bytes.length; at += 7) yield bytes.subarray(at, at + 7);
    }
    const { readFile, stat } = await import('node:fs/promises');
    let kept = '';
    const same = await withUpload(pieces(), 'siteZip', async ({ file }) => {
      kept = file;
      return (await readFile(file)).equals(bytes);
    });
    expect(same).toBe(true);
    await expect(stat(kept)).rejects.toThrow();
    async function* tooLong(): AsyncGenerator<Uint8Array> {
      for (let n = 0; n < 2; n++) yield new Uint8Array(40_000);
    }
    await expect(withUpload(tooLong(), 'shopperBody', async () => 1)).rejects.toMatchObject({
      limit: 'shopperBody',
      detail: { most: 65_536, unit: 'bytes' },
    });
  });
});
