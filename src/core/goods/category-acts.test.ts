import fc from 'fast-check';
import { expect, it } from 'vitest';
import { pathsNow, withPaths } from './category';
import { actOnCategories, type CategoryAct, type CategoryRow } from './category-acts';

const name = fc.constantFrom('Baskets', 'baskets', 'Kits', 'Trugs', 'Oval', 'Willow', 'A / B', '', '  ');
const id = fc.integer({ min: 0, max: 12 }).map((n) => `c${n}`);
const act: fc.Arbitrary<(n: number) => CategoryAct> = fc.oneof(
  fc.record({ parent: fc.option(id), name }).map(
    ({ parent, name: given }) =>
      (n: number): CategoryAct => ({ do: 'add', id: `c${n}`, parent, name: given }),
  ),
  fc.record({ id, name }).map((a) => (): CategoryAct => ({ do: 'rename', ...a })),
  fc
    .record({ id, parent: fc.option(id), before: fc.option(id) })
    .map((a) => (): CategoryAct => ({ do: 'move', ...a })),
  fc.record({ id }).map((a) => (): CategoryAct => ({ do: 'remove', ...a })),
);

it('whatever an owner does, categories stay a tree: no circles, no orphans, no two of one name side by side, addresses kept', () => {
  fc.assert(
    fc.property(fc.array(act, { maxLength: 40 }), (acts) => {
      let rows: readonly CategoryRow[] = [];
      for (const [n, make] of acts.entries()) {
        const a = make(n);
        const after = actOnCategories(rows, a);
        if (!after.ok) {
          expect(after.error).toMatch(/\w/);
          continue;
        }
        for (const r of rows) {
          const same = after.value.find((x) => x.id === r.id);
          if (a.do === 'remove' && a.id === r.id) expect(same).toBeUndefined();
          else expect(same?.slug).toBe(r.slug);
        }
        rows = after.value;
        expect(rows.map((r) => r.order)).toEqual(rows.map((_, i) => i + 1));
        expect(new Set(rows.map((r) => r.slug)).size).toBe(rows.length);
        expect(new Set(rows.map((r) => `${r.parent}/${r.name.toLowerCase()}`)).size).toBe(rows.length);
        for (const r of rows) expect(r.parent === null || rows.some((x) => x.id === r.parent)).toBe(true);
        // A circle would make paths of parents that never reach the top.
        const depth = (r: CategoryRow, met = 0): number => {
          if (met > 9) return Number.NaN;
          if (r.parent === null) return 1;
          return 1 + depth(rows.find((x) => x.id === r.parent) as CategoryRow, met + 1);
        };
        for (const r of withPaths(rows)) expect(depth(r)).toBeLessThanOrEqual(4);
      }
    }),
  );
});

it('a path goes on meaning the category that had it last, until another has it or it is gone', () => {
  fc.assert(
    fc.property(fc.array(act, { maxLength: 30 }), (acts) => {
      let rows: readonly CategoryRow[] = [];
      /** Path to the id of who had it last, as somebody would who wrote it down at every step. */
      const book = new Map<string, string>();
      for (const [n, make] of acts.entries()) {
        const after = actOnCategories(rows, make(n));
        if (after.ok) rows = after.value;
        for (const c of withPaths(rows)) book.set(c.path, c.id);
      }
      const now = withPaths(rows);
      const means = pathsNow(now);
      for (const [path, owner] of book) {
        const at = now.find((c) => c.id === owner)?.path;
        const has = now.some((c) => c.path === path);
        if (has) expect(means.has(path)).toBe(false);
        // Two that had it one after the other: any of those that are left may be meant.
        else if (at)
          expect(now.filter((c) => c.former.includes(path)).map((c) => c.path)).toContain(means.get(path));
      }
      for (const to of means.values()) expect(now.some((c) => c.path === to)).toBe(true);
    }),
  );
});

it('what was beneath a removed category takes its place', () => {
  const row = (rowId: string, parent: string | null, order: number): CategoryRow => ({
    id: rowId,
    slug: rowId,
    name: rowId,
    parent,
    order,
    former: [],
  });
  const rows = [
    row('a', null, 1),
    row('b', null, 2),
    row('b1', 'b', 3),
    row('b2', 'b', 4),
    row('c', null, 5),
  ];
  const after = actOnCategories(rows, { do: 'remove', id: 'b' });
  expect(after.ok && after.value.map((r) => [r.id, r.parent])).toEqual([
    ['a', null],
    ['b1', null],
    ['b2', null],
    ['c', null],
  ]);
});
