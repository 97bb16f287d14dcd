import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { expect, it } from 'vitest';
import { kinds } from '../src/core/placement/kinds';
import { spellingNames } from '../src/core/placement/spelling';

const pages = ['README.md', 'CONTRIBUTING.md', ...readdirSync('docs').map((name) => `docs/${name}`)].filter(
  (p) => p.endsWith('.md'),
);
const numbers = [
  'none',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
  'thirteen',
  'fourteen',
  'fifteen',
  'sixteen',
];

it('the README counts widgets and spellings as they are', () => {
  const text = readFileSync('README.md', 'utf8').replaceAll('\n', ' ');
  expect(text).toContain(`${numbers[kinds.filter((k) => k.built).length]} widgets on any page`);
  expect(text).toContain(`in ${numbers[spellingNames.length]} spellings`);
});

it.each(pages)('%s links to what is there', (page) => {
  const links = [...readFileSync(page, 'utf8').matchAll(/\]\(([^)#\s]+)[^)]*\)/g)].map((m) => m[1] ?? '');
  const gone = links.filter((to) => !/^[a-z]+:/.test(to) && !existsSync(join(dirname(page), to)));
  expect(gone).toEqual([]);
});

it('every place that architecture.md names is there', () => {
  const text = readFileSync('docs/architecture.md', 'utf8');
  const named = [
    ...text.matchAll(
      /`((?:core|data|services|server|office|widgets|cli|bench|e2e|standins|tools)\/[\w./-]+)`/g,
    ),
  ];
  const gone = named
    .map((m) => m[1] ?? '')
    .filter((p) => !existsSync(p) && !existsSync(join('src', p)) && !existsSync(join('src', `${p}.ts`)));
  expect(gone).toEqual([]);
});
