import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { address, methodOf, pathOf } from './address';
import type { Input, Route } from './endpoints';

const ROOT = 'src/pages/api/[site]';
const files = readdirSync(ROOT, { recursive: true, encoding: 'utf8' }).filter(
  (f) => f.endsWith('.ts') && !/(^|\/)_/.test(f),
);

/** The path that the framework gives a file: "goods/[id]/index.ts" is "goods/:id". */
const pathOfFile = (file: string): string =>
  file
    .replace(/\.ts$/, '')
    .replace(/\/index$/, '')
    .replace(/\[(\w+)\]/g, ':$1');

const served = files.flatMap((file) => {
  const code = readFileSync(join(ROOT, file), 'utf8');
  return [...code.matchAll(/export const (\w+) = endpoint\(\s*'([^']+)'/g)].map(
    ([, method = '', route = '']) => ({
      file,
      method,
      route: route as Route,
    }),
  );
});

describe('the contract', () => {
  it('names each endpoint by the method and the file it stands in', () => {
    for (const { file, method, route } of served)
      expect([file, methodOf(route), pathOf(route)]).toEqual([file, method, pathOfFile(file)]);
  });

  it('holds every endpoint of a site, and each of its routes is served', () => {
    const written = [
      ...readFileSync('src/contract/endpoints.ts', 'utf8').matchAll(/^ {2}'([A-Z]+ [^']+)':/gm),
    ];
    expect(served.map((s) => s.route).sort()).toEqual(written.map(([, route]) => route).sort());
    for (const file of files) {
      const methods = readFileSync(join(ROOT, file), 'utf8').match(
        /export const (GET|POST|PUT|PATCH|DELETE) =/g,
      );
      expect([file, served.filter((s) => s.file === file).length]).toEqual([file, methods?.length ?? 0]);
    }
  });
});

describe('an address', () => {
  it('is the path with what it leaves open, and the query, whatever stands in them', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), fc.string(), (id, version) => {
        const input: Input<'GET orders/:id/policy'> = { id, query: { version } };
        const url = new URL(address('shop', 'GET orders/:id/policy', input), 'http://office.test');
        expect(url.searchParams.get('version')).toBe(version);
        const [, , , , part = '', last] = url.pathname.split('/');
        // A lone dot or two is a step in a path: the URL standard takes them away, whoever writes them.
        fc.pre(!/^\.{1,2}$/.test(id));
        expect(last).toBe('policy');
        expect(decodeURIComponent(part)).toBe(id);
      }),
    );
  });

  it('leaves out what is not given', () => {
    expect(address('withybed', 'GET orders', { query: { find: 'a b' } })).toBe(
      '/api/withybed/orders?find=a+b',
    );
    expect(address('withybed', 'GET goods', {})).toBe('/api/withybed/goods');
  });
});
