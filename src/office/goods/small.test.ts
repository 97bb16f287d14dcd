import fc from 'fast-check';
import { expect, it } from 'vitest';
import { actOnCategories, type CategoryRow } from '../../core/goods/category-acts';
import { categoryTree, type CategoryNode, withPaths } from '../../core/goods/category';
import type { CategoryLine } from '../../services/goods/category-tree';
import { stepOf } from './categories-view';
import { nextName } from './files-field';
import { deltaOf } from './ledger';

it('the next release is most likely called so', () => {
  expect(['1.0', '1.9', 'v2', '2026-03', 'spring'].map(nextName)).toEqual([
    '1.1',
    '1.10',
    'v3',
    '2026-4',
    '',
  ]);
  expect(nextName(undefined)).toBe('1.0');
});

it('damaged pieces leave, whatever sign was typed; what is no number moves nothing', () => {
  expect([
    deltaOf('3', 'damaged'),
    deltaOf('-3', 'damaged'),
    deltaOf('+12', 'delivered'),
    deltaOf('\u22122', 'corrected'),
    deltaOf('0', 'corrected'),
    deltaOf('a few', 'delivered'),
    deltaOf('', 'damaged'),
  ]).toEqual([-3, -3, 12, -2, undefined, undefined, undefined]);
});

const flat = (nodes: readonly CategoryNode[], depth = 0): CategoryLine[] =>
  nodes.flatMap(({ children, ...c }) => [{ ...c, depth }, ...flat(children, depth + 1)]);
const linesOf = (rows: readonly CategoryRow[]) => flat(categoryTree(withPaths(rows), [], false));

it('a step up and then down, or in and then out, leaves categories as they were', () => {
  const rows = fc.array(fc.nat(5), { minLength: 2, maxLength: 8 }).map((parents) =>
    parents.map(
      (p, n): CategoryRow => ({
        id: `c${n}`,
        slug: `c${n}`,
        name: `c${n}`,
        parent: p < n && p % 3 === 0 && n > 0 ? `c${p}` : null,
        order: n + 1,
        former: [],
      }),
    ),
  );
  fc.assert(
    fc.property(
      rows,
      fc.nat(7),
      fc.constantFrom(['up', 'down'] as const, ['down', 'up'] as const),
      (all, pick, [there, back]) => {
        const lines = linesOf(all);
        const one = lines[pick % lines.length] as CategoryLine;
        const step = stepOf(lines, one.id, there);
        if (!step) return;
        const after = actOnCategories(all, step);
        if (!after.ok) return;
        const again = stepOf(linesOf(after.value), one.id, back);
        expect(again).toBeDefined();
        const home = again && actOnCategories(after.value, again);
        expect(home?.ok && linesOf(home.value).map((l) => [l.id, l.parent])).toEqual(
          lines.map((l) => [l.id, l.parent]),
        );
      },
    ),
  );
});
