import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { gzipSync } from 'node:zlib';
import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { askFor, type Question } from './ask';
import { isPublic, reachOf } from './reach';
import { visit } from './visit';

const closers: (() => Promise<void>)[] = [];
afterEach(async () => {
  for (const close of closers.splice(0)) await close();
});

/** A server on this machine. @returns where it is */
async function serve(listener: RequestListener, host = '127.0.0.1'): Promise<string> {
  const server = createServer(listener);
  await new Promise<void>((ready) => server.listen(0, host, ready));
  closers.push(
    () =>
      new Promise((closed) => {
        server.close(() => closed());
        server.closeAllConnections();
      }),
  );
  return `http://${host}:${(server.address() as AddressInfo).port}/`;
}

const nobody = reachOf(() => false);
const here = reachOf((address) => address === '127.0.0.1');
const page: Question = { accept: 'text/html', limit: 'robots', tooLarge: 'It was not read.' };

describe('machines that may be asked on an owner’s word', () => {
  // IANA IPv4 and IPv6 Special-Purpose Address Registries (RFC 6890 and those after it), one of each entry that is not globally reachable.
  it.each([
    ['0.0.0.0', 'this network'],
    ['10.1.2.3', 'private'],
    ['100.64.0.1', 'shared'],
    ['127.0.0.1', 'loopback'],
    ['169.254.169.254', 'link-local, where clouds tell secrets'],
    ['172.16.0.1', 'private'],
    ['192.0.0.8', 'IETF protocol assignments'],
    ['192.0.2.1', 'documentation'],
    ['192.168.1.1', 'private'],
    ['198.18.0.1', 'benchmarking'],
    ['198.51.100.1', 'documentation'],
    ['203.0.113.9', 'documentation'],
    ['224.0.0.1', 'multicast'],
    ['240.0.0.1', 'reserved'],
    ['255.255.255.255', 'broadcast'],
    ['::', 'unspecified'],
    ['::1', 'loopback'],
    ['::ffff:127.0.0.1', 'version 4 inside'],
    ['::ffff:10.0.0.1', 'version 4 inside'],
    ['64:ff9b::7f00:1', 'translated to 127.0.0.1 (RFC 6052)'],
    ['64:ff9b:1::1', 'translation, local use (RFC 8215)'],
    ['100::1', 'discard'],
    ['2001:db8::1', 'documentation'],
    ['2002:7f00:1::', 'a tunnel to 127.0.0.1 (RFC 3056)'],
    ['2001::1', 'Teredo'],
    ['fc00::1', 'unique local'],
    ['fd12:3456::1', 'unique local'],
    ['fe80::1', 'link-local'],
    ['ff02::1', 'multicast'],
    ['example.org', 'no address at all'],
    ['', 'nothing'],
  ])('%s is not asked: %s', (address) => {
    expect(isPublic(address)).toBe(false);
  });
  it.each([
    '8.8.8.8',
    '93.184.216.34',
    '1.1.1.1',
    '2606:4700:4700::1111',
    '::ffff:8.8.8.8',
    '64:ff9b::808:808',
  ])('%s may be asked', (address) => {
    expect(isPublic(address)).toBe(true);
  });
  it('are told from others in every way of writing an address of version 4', () => {
    const inside = fc
      .constantFrom('10', '127', '0', '224')
      .chain((first) =>
        fc.tuple(fc.constant(first), fc.nat(255), fc.nat(255), fc.nat(255)).map((parts) => parts.join('.')),
      );
    fc.assert(fc.property(inside, (ip) => !isPublic(ip) && !isPublic(`::ffff:${ip}`)));
  });
  it.each([
    'http://127.0.0.1:PORT/',
    'http://localhost:PORT/',
    'http://anything.localhost:PORT/',
    'http://2130706433:PORT/',
    'http://0x7f.1:PORT/',
    'http://0177.0.0.1:PORT/',
    'http://[::ffff:127.0.0.1]:PORT/',
    'http://0:PORT/',
  ])('%s, which is this machine, is never reached', async (address) => {
    let asked = 0;
    const { port } = new URL(
      await serve((_, res) => {
        asked++;
        res.end('secret');
      }),
    );
    await expect(visit(nobody, address.replace('PORT', port))).rejects.toThrow('not on the public Internet');
    expect(asked).toBe(0);
  });
  it('are judged anew at each redirect', async () => {
    let asked = 0;
    // ::1 stands for the machines of the network that an outer site leads to.
    const inner = await serve((_, res) => {
      asked++;
      res.end('secret');
    }, '127.0.0.2');
    const outer = await serve((_, res) => res.writeHead(302, { location: inner }).end());
    await expect(visit(here, outer)).rejects.toThrow('not on the public Internet');
    expect(asked).toBe(0);
  });
  it('are those that the settings name as well, and ours', async () => {
    const url = await serve((_, res) => res.end('<p>yes'));
    expect((await visit(here, url)).bytes.toString()).toBe('<p>yes');
    const ours = reachOf(
      () => false,
      (u) => u.href === url,
    );
    expect((await visit(ours, url)).bytes.toString()).toBe('<p>yes');
  });
});

describe('what hostile servers answer', () => {
  it('leads on and on: it is followed five times', async () => {
    let asked = 0;
    const url = await serve((_, res) => res.writeHead(302, { location: `/${++asked}` }).end());
    await expect(visit(here, url)).rejects.toThrow('leads on and on');
    expect(asked).toBe(6);
  });
  it.each(['file:///etc/passwd', 'ftp://127.0.0.1/', 'gopher://127.0.0.1/'])(
    'leads to %s: it is refused',
    async (to) => {
      const url = await serve((_, res) => res.writeHead(302, { location: to }).end());
      await expect(visit(here, url)).rejects.toThrow('no web page');
    },
  );
  it('never ends: it is cut off at the limit, whether its length is told or not', async () => {
    let sent = 0;
    const url = await serve((_, res) => {
      const chunk = Buffer.alloc(64 * 1024, 'x');
      const more = () => {
        while (!res.destroyed && sent < 1e9) {
          sent += chunk.length;
          if (!res.write(chunk)) return void res.once('drain', more);
        }
      };
      more();
    });
    await expect(askFor(here, url, page)).rejects.toThrow('larger than 512 KB');
    // Sockets hold some of it.
    expect(sent).toBeLessThan(32e6);
    const told = await serve((_, res) => res.writeHead(200, { 'content-length': '1000000000' }).write('x'));
    await expect(askFor(here, told, page)).rejects.toThrow('larger than 512 KB');
  });
  it('is small and unpacks to a gigabyte: the limit is for what it unpacks to', async () => {
    const bomb = gzipSync(Buffer.alloc(64e6));
    const url = await serve((_, res) => res.writeHead(200, { 'content-encoding': 'gzip' }).end(bomb));
    await expect(askFor(here, url, page)).rejects.toThrow('larger than 512 KB');
  });
  it('is packed and broken: it is told, and nothing hangs', async () => {
    const url = await serve((_, res) =>
      res.writeHead(200, { 'content-encoding': 'gzip' }).end('no gzip at all'),
    );
    await expect(askFor(here, url, page)).rejects.toThrow('stopped in the middle');
  });
  it('ends in the middle', async () => {
    const url = await serve((_, res) => {
      res.writeHead(200, { 'content-length': '100' }).write('half');
      setTimeout(() => res.destroy(), 20);
    });
    await expect(askFor(here, url, page)).rejects.toThrow('stopped in the middle');
  });
  it('drips a letter now and then: it is given up when its time is over', async () => {
    const url = await serve((_, res) => {
      const drip = setInterval(() => res.write('x'), 20);
      res.on('close', () => clearInterval(drip));
    });
    await expect(askFor(here, url, { ...page, within: 300 })).rejects.toThrow('stopped in the middle');
  });
  it('packed answers are unpacked', async () => {
    const url = await serve((_, res) =>
      res
        .writeHead(200, { 'content-encoding': 'gzip', 'content-type': 'text/html; charset="ISO-8859-1"' })
        .end(gzipSync('<p>yes')),
    );
    expect(await askFor(here, url, page)).toMatchObject({
      type: 'text/html',
      charset: 'ISO-8859-1',
      status: 200,
    });
    expect((await askFor(here, url, page)).bytes.toString()).toBe('<p>yes');
  });
});
