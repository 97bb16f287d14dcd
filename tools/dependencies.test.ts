import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { faultsIn, graveIn, packagesIn } from './dependencies.mjs';

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8')) as { packages: Record<string, object> };
const withOne = (p: object) => ({
  packages: { '': {}, 'node_modules/a/node_modules/@b/c': { version: '1.0.0', ...p } },
});

describe('what packages bring with them', () => {
  it('is fine as it is installed', () => {
    expect(packagesIn(lock).length).toBeGreaterThan(500);
    expect(faultsIn(lock)).toEqual([]);
  });
  it.each([
    'GPL-3.0-only',
    'AGPL-3.0-or-later',
    'MIT AND GPL-2.0-only',
    'SEE LICENSE IN x',
    'UNLICENSED',
    undefined,
  ])('a licence "%s" is told', (license) => {
    expect(faultsIn(withOne({ license }))).toEqual([expect.stringContaining('@b/c 1.0.0')]);
  });
  it.each(['MIT', '(MIT OR GPL-3.0-only)', 'MIT or MPL-2.0', 'Apache-2.0 AND LGPL-3.0-or-later'])(
    '"%s" is fine',
    (license) => {
      expect(faultsIn(withOne({ license }))).toEqual([]);
    },
  );
  it('a script that runs when it is installed is told', () => {
    expect(faultsIn(withOne({ license: 'MIT', hasInstallScript: true }))).toEqual([
      expect.stringContaining('runs a script'),
    ]);
  });
  it('grave faults are told, others not; and nothing is known where the registry does not say', () => {
    const via = (severity: string) => ({
      severity,
      via: [{ source: 7, name: 'x', title: 't', severity, url: 'u' }, 'y'],
    });
    expect(
      graveIn({ vulnerabilities: { a: via('critical'), b: via('moderate'), c: via('high') } }),
    ).toHaveLength(2);
    expect(graveIn({ vulnerabilities: {} })).toEqual([]);
    // What npm answers where a registry takes no such question.
    expect(
      graveIn({ message: '405 Method Not Allowed', statusCode: 405, error: { summary: '' } }),
    ).toBeUndefined();
    expect(graveIn(undefined)).toBeUndefined();
  });
});
