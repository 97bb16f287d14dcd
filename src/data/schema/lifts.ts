import { changeBetween } from '../../core/change';
import { optionalPages } from '../../core/site/set-up';
import type { Lift, Stored } from '../versioned';

/** What became of JSON columns, one function to each change of shape. Tested on what older releases really wrote: lifts.test.ts. */

const listOf = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const isRecord = (value: unknown): value is Stored =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const recordsIn = (value: unknown): Stored[] => listOf(value).filter(isRecord);

/** Ways to be paid have one name each: what set-up called "in-person" is "person" in the till. */
const onePayName: Lift = (old) => ({
  ...old,
  takesMoney: listOf(old.takesMoney).map((kind) => (kind === 'in-person' ? 'person' : kind)),
});
export const setUpLifts: readonly Lift[] = [onePayName];

/** Which pages the shop has is said, and whether a line leads to it; before, it had all pages, and no line. */
const pagesAreSaid: Lift = (old) => ({
  ...old,
  pages: old.pages ?? [...optionalPages],
  ...(isRecord(old.made) && { made: { line: null, carts: [], ...old.made } }),
});
export const shopLifts: readonly Lift[] = [pagesAreSaid];

/** What a buyer chose and wrote stands apart from the name; before, there was the name alone. */
const particularsApart: Lift = (old) => ({
  ...old,
  lines: recordsIn(old.lines).map((line) => ({ ...line, particulars: line.particulars ?? [] })),
});
/** What became of a code is its status. */
const codesHaveStatus: Lift = (old) =>
  'codes' in old
    ? { ...old, codes: recordsIn(old.codes).map(({ says, ...code }) => ({ status: says, ...code })) }
    : old;
export const workedLifts: readonly Lift[] = [particularsApart, codesHaveStatus];

/** A change of the till is a change as any other; before, it was one part with what it had been and what it was to be. */
const tillIsAChange: Lift = (old) => {
  if (!isRecord(old.till) || !('part' in old.till)) return old;
  const { part, from, to } = old.till;
  return { ...old, till: changeBetween({ [String(part)]: from }, { [String(part)]: to }) };
};
/** Categories remember their former paths; before, they did not. */
const formerPaths: Lift = (old) => {
  if (!isRecord(old.tree)) return old;
  const withFormer = (state: unknown) =>
    isRecord(state)
      ? { ...state, rows: recordsIn(state.rows).map((row) => ({ ...row, former: row.former ?? [] })) }
      : state;
  return { ...old, tree: { from: withFormer(old.tree.from), to: withFormer(old.tree.to) } };
};
export const liveChangeLifts: readonly Lift[] = [tillIsAChange, formerPaths];

/** What owners said of their hosts is as the first release wrote it. */
export const pastedLifts: readonly Lift[] = [];

/** Looks are as the first release wrote them. */
export const lookLifts: readonly Lift[] = [];
export const publishedLookLifts: readonly Lift[] = [];
export const foundLifts: readonly Lift[] = [];
