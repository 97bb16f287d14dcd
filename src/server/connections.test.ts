import { createServer } from 'node:http';
import { type AddressInfo, BlockList, connect, type Socket } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { holdBack, type Patience } from './connections';

const sockets: Socket[] = [];
const ends: (() => void)[] = [];
afterEach(() => {
  for (const socket of sockets.splice(0)) socket.destroy();
  for (const end of ends.splice(0)) end();
});

async function open(patience: Partial<Patience>, trusted = new BlockList()): Promise<number> {
  const server = holdBack(
    createServer({ connectionsCheckingInterval: 20 }, (_, res) => res.end('ok')),
    trusted,
    { fromOne: 10, headersMs: 5_000, requestMs: 5_000, ...patience },
  );
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  ends.push(() => server.close());
  return (server.address() as AddressInfo).port;
}

/** A client that is connected and has said so much; what it heard, and whether it was shut out. */
async function client(port: number, said: string, from = '127.0.0.1') {
  const socket = connect({ port, host: '127.0.0.1', localAddress: from });
  sockets.push(socket);
  const state = { heard: '', closed: false };
  socket.on('data', (chunk) => (state.heard += chunk));
  socket.on('error', () => {});
  const closed = new Promise<void>((done) => {
    socket.on('close', () => {
      state.closed = true;
      done();
    });
  });
  await new Promise<void>((ready) => socket.once('connect', ready).once('close', ready));
  socket.write(said);
  return { state, closed, socket };
}

const request = 'GET / HTTP/1.1\r\nHost: shop.test\r\nConnection: close\r\n\r\n';

describe('connections', () => {
  it('one network has so many and no more; whoever comes from elsewhere is answered', async () => {
    const port = await open({});
    const silent = await Promise.all(Array.from({ length: 40 }, () => client(port, '')));
    await Promise.all(silent.slice(10).map((c) => c.closed));
    expect(silent.filter((c) => !c.state.closed)).toHaveLength(10);
    const other = await client(port, request, '127.0.0.2');
    await other.closed;
    expect(other.state.heard).toContain('200 OK');
    // When one is let go, the next may come.
    silent[0]?.socket.destroy();
    await silent[0]?.closed;
    await new Promise((soon) => setTimeout(soon, 50));
    const next = await client(port, request);
    await next.closed;
    expect(next.state.heard).toContain('200 OK');
  });

  it('a proxy of ours has as many as it brings', async () => {
    const trusted = new BlockList();
    trusted.addAddress('127.0.0.1');
    const port = await open({}, trusted);
    const many = await Promise.all(Array.from({ length: 40 }, () => client(port, request)));
    await Promise.all(many.map((c) => c.closed));
    expect(many.every((c) => c.state.heard.includes('200 OK'))).toBe(true);
  });

  it('whoever sends headers or a body by the drop is answered 408 and let go', async () => {
    const port = await open({ headersMs: 100, requestMs: 200 });
    const headers = await client(port, 'GET / HTTP/1.1\r\nHost: shop.test\r\nX-Slow: ');
    const body = await client(port, 'POST / HTTP/1.1\r\nHost: shop.test\r\nContent-Length: 100\r\n\r\nx');
    await Promise.all([headers.closed, body.closed]);
    expect(headers.state.heard).toContain('408');
  });
});
