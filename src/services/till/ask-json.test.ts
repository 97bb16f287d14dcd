import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, expect, it } from 'vitest';
import { askJson } from './ask-json';

const servers: Server[] = [];
afterEach(() => {
  for (const s of servers.splice(0)) {
    s.closeAllConnections();
    s.close();
  }
});

async function serve(answer: RequestListener): Promise<string> {
  const server = createServer(answer);
  servers.push(server);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

it('sends JSON with what goes with it, and reads the answer whole, umlauts across pieces among it', async () => {
  const seen: unknown[] = [];
  const at = await serve(async (req, res) => {
    let raw = '';
    for await (const part of req) raw += part;
    seen.push([req.method, req.url, req.headers.authorization, req.headers['content-type'], raw]);
    const body = Buffer.from(JSON.stringify({ id: 'Öl' }));
    const cut = body.indexOf(0xc3) + 1;
    res.writeHead(201);
    res.write(body.subarray(0, cut));
    setTimeout(() => res.end(body.subarray(cut)), 5);
  });
  expect(
    await askJson(
      `${at}/v1/payments`,
      { method: 'POST', body: '{"a":1}', headers: { authorization: 'Bearer k' } },
      2000,
    ),
  ).toEqual({ id: 'Öl' });
  expect(seen).toEqual([['POST', '/v1/payments', 'Bearer k', 'application/json', '{"a":1}']]);
});

it('one that says no, sends elsewhere, answers no JSON, or without end, is no answer', async () => {
  const at = await serve((req, res) => {
    if (req.url === '/no') res.writeHead(503).end('{}');
    else if (req.url === '/elsewhere') res.writeHead(307, { location: '/yes' }).end();
    else if (req.url === '/words') res.writeHead(200).end('busy');
    else if (req.url === '/long') res.writeHead(200).end(`"${'x'.repeat(200_000)}"`);
    else res.writeHead(200).end('{}');
  });
  await expect(askJson(`${at}/no`, {}, 2000)).rejects.toThrow('503');
  await expect(askJson(`${at}/elsewhere`, {}, 2000)).rejects.toThrow('307');
  await expect(askJson(`${at}/words`, {}, 2000)).rejects.toThrow('no JSON');
  await expect(askJson(`${at}/long`, {}, 2000)).rejects.toThrow('longer');
  await expect(askJson('ftp://127.0.0.1/', {}, 2000)).rejects.toThrow();
});

it('asks again where a kept connection was closed meanwhile, and only then', async () => {
  let asked = 0;
  const at = await serve((req, res) => {
    asked++;
    // The second request of a connection finds it closed, as after a pause.
    if (asked === 2) req.socket.resetAndDestroy();
    else res.writeHead(200).end(JSON.stringify({ asked }));
  });
  expect(await askJson(at, {}, 2000)).toEqual({ asked: 1 });
  expect(await askJson(at, {}, 2000)).toEqual({ asked: 3 });
  const always = await serve((req) => void req.socket.resetAndDestroy());
  await expect(askJson(always, {}, 2000)).rejects.toThrow(/ECONNRESET|hang up/);
});

it('waits no longer than it was told, for a connection or for the end of an answer', async () => {
  const silent = await serve(() => {});
  await expect(askJson(silent, {}, 50)).rejects.toThrow(/abort|time/i);
  const halfway = await serve((_, res) => void res.writeHead(200).write('{'));
  await expect(askJson(halfway, {}, 50)).rejects.toThrow(/abort|time/i);
  await expect(askJson('http://127.0.0.1:1/', {}, 2000)).rejects.toThrow();
});
