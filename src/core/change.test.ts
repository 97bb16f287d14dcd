import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import {
  apply,
  type Change,
  changeBetween,
  changeOf,
  invert,
  isEmpty,
  namesIn,
  noChange,
  only,
  rebase,
  type Records,
  recordsOf,
  squash,
} from './change';
import { sameJson } from './json';

interface Thing {
  readonly a: number;
  readonly b: string;
  readonly c?: boolean;
}
const names = ['one', 'two', 'three', 'constructor', '__proto__', 'toString'];
const thing: fc.Arbitrary<Thing> = fc.record(
  { a: fc.nat(3), b: fc.constantFrom('x', 'y'), c: fc.boolean() },
  { requiredKeys: ['a', 'b'] },
);
const state: fc.Arbitrary<Records<Thing>> = fc
  .uniqueArray(fc.tuple(fc.constantFrom(...names), thing), { selector: ([name]) => name })
  .map((all) => recordsOf(all));
const inOrder = (records: Records<Thing>) => Object.entries(records).sort(([a], [b]) => (a < b ? -1 : 1));
const same = (a: Records<Thing>, b: Records<Thing>) => sameJson(inOrder(a), inOrder(b));

describe('a change', () => {
  it('leads from one state to the other, and inverted back', () => {
    fc.assert(
      fc.property(state, state, (before, after) => {
        const change = changeBetween(before, after);
        expect(same(apply(before, change), after)).toBe(true);
        expect(same(apply(after, invert(change)), before)).toBe(true);
        expect(invert(invert(change))).toEqual(change);
        expect(isEmpty(change)).toBe(same(before, after));
        expect(isEmpty(changeBetween(before, before))).toBe(true);
      }),
    );
  });

  it('after another is the same as both squashed, whichever way they are grouped', () => {
    fc.assert(
      fc.property(state, state, state, state, (a, b, c, d) => {
        const [ab, bc, cd] = [changeBetween(a, b), changeBetween(b, c), changeBetween(c, d)];
        expect(same(apply(a, squash(ab, bc)), c)).toBe(true);
        expect(squash(squash(ab, bc), cd)).toEqual(squash(ab, squash(bc, cd)));
        expect(isEmpty(squash(ab, invert(ab)))).toBe(true);
        expect(squash(ab, noChange)).toEqual(ab);
        expect(squash(noChange, ab)).toEqual(ab);
      }),
    );
  });

  it('goes through JSON unharmed', () => {
    const schema = changeOf(z.object({ a: z.number(), b: z.string(), c: z.boolean().optional() }));
    fc.assert(
      fc.property(state, state, (before, after) => {
        const change = changeBetween(before, after);
        // Names that JSON's own reader would take for a prototype are no names of records here.
        if (namesIn(change).includes('__proto__')) return;
        const read = schema.parse(JSON.parse(JSON.stringify(change))) as Change<Thing>;
        expect(same(apply(before, read), after)).toBe(true);
      }),
    );
  });

  it('is made of its parts, one to each record', () => {
    fc.assert(
      fc.property(state, state, (before, after) => {
        const change = changeBetween(before, after);
        const parts = namesIn(change).map((name) => only(change, name));
        const whole = parts.reduce<Change<Thing>>((all, part) => squash(all, part), noChange);
        expect(same(apply(before, whole), after)).toBe(true);
      }),
    );
  });

  it('rebased over nothing is itself; over what it wants already it is nothing', () => {
    fc.assert(
      fc.property(state, state, (before, after) => {
        const change = changeBetween(before, after);
        const onto = rebase(change, before);
        expect(onto.ok && same(apply(before, onto.value), after)).toBe(true);
        const again = rebase(change, after);
        expect(again.ok && isEmpty(again.value)).toBe(true);
      }),
    );
  });

  it('an undo takes back its own fields alone, and says where somebody else changed the same', () => {
    fc.assert(
      fc.property(state, fc.nat(9), fc.constantFrom('x', 'y', 'z'), (start, a, b) => {
        const mine = recordsOf(
          Object.entries(start).map(([name, t]) => [name, { ...t, a: a + 10 }] as const),
        );
        const theirs = recordsOf(Object.entries(mine).map(([name, t]) => [name, { ...t, b }] as const));
        const undo = rebase(invert(changeBetween(start, mine)), theirs);
        expect(undo.ok).toBe(true);
        if (!undo.ok) return;
        for (const [name, t] of Object.entries(apply(theirs, undo.value)))
          expect(t).toEqual({ ...start[name], b });
        const over = recordsOf(Object.entries(mine).map(([name, t]) => [name, { ...t, a: a + 20 }] as const));
        const refused = rebase(invert(changeBetween(start, mine)), over);
        if (Object.keys(start).length) expect(refused).toMatchObject({ ok: false, error: { field: 'a' } });
      }),
    );
  });

  it('of a record that was taken away meanwhile is refused, and so is one that was made anew', () => {
    const one = { one: { a: 1, b: 'x' } };
    const two = { one: { a: 2, b: 'x' } };
    expect(rebase(changeBetween(one, two), {})).toMatchObject({
      ok: false,
      error: { name: 'one', field: '' },
    });
    expect(rebase(changeBetween({}, one), two)).toMatchObject({ ok: false });
    expect(rebase(changeBetween(one, {}), two)).toMatchObject({ ok: false });
    expect(rebase(changeBetween(one, {}), {})).toEqual({ ok: true, value: changeBetween({}, {}) });
  });
});
