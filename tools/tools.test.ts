import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { fault, importsOf } from './layers.mjs';

const run = (...args: string[]): Promise<{ code: number; err: string; out: string }> =>
  new Promise((done) =>
    execFile(process.execPath, ['tools/run.mjs', ...args], { timeout: 20_000 }, (error, out, err) =>
      done({ code: Number(error?.code ?? 0), out, err }),
    ),
  );

it('a layer that imports upward is caught, types and values apart', () => {
  const value = { name: '../../services/till/cart', typeOnly: false };
  expect(fault('src/core/till/x.ts', value)).toContain('may not import src/services');
  expect(fault('src/office/goods/x.tsx', value)).toContain('may not import');
  expect(fault('src/office/goods/x.tsx', { ...value, typeOnly: true })).toBeUndefined();
  expect(fault('src/core/x.ts', { name: 'node:fs', typeOnly: false })).toContain('may not use node:fs');
  expect(fault('src/core/x.ts', { name: 'react', typeOnly: false })).toContain('package react');
  expect(fault('standins/a/b.ts', { name: '../../src/core/result', typeOnly: false })).toContain(
    'may not import',
  );
  expect(fault('src/newfolder/x.ts', value)).toContain('in no layer');
  expect(
    importsOf(
      "import type { A } from './a';\nexport * from './b';\nconst c = await import('./c');\nlet d: import('./d').D;",
      'x.ts',
    ),
  ).toEqual([
    { name: './a', typeOnly: true },
    { name: './b', typeOnly: false },
    { name: './c', typeOnly: false },
    { name: './d', typeOnly: true },
  ]);
});

it('a folder that uses one above it in its own layer is caught; types may be named both ways', () => {
  const up = { name: '../till/cart', typeOnly: false };
  expect(fault('src/services/goods/x.ts', up)).toContain('till stands above goods');
  expect(fault('src/services/goods/x.ts', { ...up, typeOnly: true })).toBeUndefined();
  expect(fault('src/services/storefront/x.ts', up)).toBeUndefined();
  expect(fault('src/core/money/x.ts', { name: '../till/tax', typeOnly: false })).toContain('stands above');
  expect(fault('src/services/context.ts', { name: './till/cart', typeOnly: false })).toContain('above');
  expect(fault('src/services/newfolder/x.ts', up)).toContain('name the folder newfolder');
});

it('starting says what to do about a taken port, a folder that cannot be, and words it does not know', async () => {
  const dir = await mkdtemp(join(tmpdir(), 'stall-run-'));
  const server = createServer();
  await new Promise<void>((ready) => server.listen(4903, '127.0.0.1', ready));
  const taken = await run('demo', '--port', '4900', '--data', join(dir, 'd'));
  expect(taken).toMatchObject({
    code: 1,
    err: expect.stringContaining(
      'Port 4903 is taken by another program. Stop it, or choose other ports: bin/demo --port 5000',
    ),
  });
  server.close();
  await writeFile(join(dir, 'file'), '');
  expect((await run('demo', '--port', '4910', '--data', join(dir, 'file/inside'))).err).toContain(
    'cannot be made',
  );
  expect((await run('demo', '--nonsense')).err).toContain('Not understood: --nonsense');
  await writeFile(join(dir, 'precious'), 'x');
  expect((await run('demo', '--fresh', '--port', '4910', '--data', dir)).err).toContain(
    'holds no Green Stall data',
  );
  expect((await run('start', '--help')).out).toContain('Usage: bin/start');
  await rm(dir, { recursive: true });
});
