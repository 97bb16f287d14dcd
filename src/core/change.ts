import { z } from 'zod';
import { sameJson } from './json';
import { fail, ok, type Result } from './result';

/**
 * The one shape of change: what differs between two states of records that have names. Placements on the slip and on the bench, parts of
 * the till, fields of goods and tokens of the look are all told, undone, published and kept in it.
 *
 * Laws (change.test.ts): what is applied and then inverted leaves nothing; squashing two changes is making both; a change goes through
 * JSON unharmed; rebased over a later change to other fields, an undo takes back its own part alone.
 */
export interface Change<T> {
  readonly added: Records<T>;
  readonly updated: Readonly<Record<string, readonly [from: T, to: T]>>;
  readonly removed: Records<T>;
}
export type Records<T> = Readonly<Record<string, T>>;

/** Whether two records mean the same; by default, once they are JSON. */
type Same<T> = (a: T, b: T) => boolean;

/** A record that somebody else changed meanwhile, in the very part that the change is about. */
export interface Clash {
  readonly name: string;
  /** The field, where a record is one of fields; '' for all of it. */
  readonly field: string;
}

export const noChange: Change<never> = { added: {}, updated: {}, removed: {} };

/** Records by their names, without anything that objects bring along: "constructor" is a name as any other. */
export const recordsOf = <T>(all: Iterable<readonly [string, T]>): Record<string, T> => {
  const out: Record<string, T> = Object.create(null) as Record<string, T>;
  for (const [name, record] of all) out[name] = record;
  return out;
};

const of = <T>(records: Records<T>, name: string): T | undefined =>
  Object.hasOwn(records, name) ? records[name] : undefined;

/** What is different in `after`. @param same left out: compared as JSON. */
export function changeBetween<T>(before: Records<T>, after: Records<T>, same: Same<T> = sameJson): Change<T> {
  const added: [string, T][] = [];
  const updated: [string, readonly [T, T]][] = [];
  const removed: [string, T][] = [];
  for (const [name, was] of Object.entries(before)) {
    const is = of(after, name);
    if (is === undefined) removed.push([name, was]);
    else if (!same(was, is)) updated.push([name, [was, is]]);
  }
  for (const [name, is] of Object.entries(after)) if (of(before, name) === undefined) added.push([name, is]);
  return { added: recordsOf(added), updated: recordsOf(updated), removed: recordsOf(removed) };
}

/** Names of the records it is about: removed ones, changed ones, new ones. */
export const namesIn = <T>({ added, updated, removed }: Change<T>): string[] => [
  ...Object.keys(removed),
  ...Object.keys(updated),
  ...Object.keys(added),
];

export const isEmpty = <T>(change: Change<T>): boolean => namesIn(change).length === 0;

/** What one record was and is; nothing for what was not or is not there. */
export const partOf = <T>(c: Change<T>, name: string): { before: T | undefined; after: T | undefined } => {
  const pair = of(c.updated, name);
  return pair
    ? { before: pair[0], after: pair[1] }
    : { before: of(c.removed, name), after: of(c.added, name) };
};

/** The part of a change that is about one record. */
export function only<T>(change: Change<T>, name: string): Change<T> {
  const { before, after } = partOf(change, name);
  return changeBetween(
    recordsOf(before === undefined ? [] : [[name, before]]),
    recordsOf(after === undefined ? [] : [[name, after]]),
    () => false,
  );
}

/** The change that takes it back. */
export const invert = <T>({ added, updated, removed }: Change<T>): Change<T> => ({
  added: removed,
  updated: recordsOf(Object.entries(updated).map(([name, [from, to]]) => [name, [to, from]] as const)),
  removed: added,
});

/** Makes a change to the state it was made for. What it says was there is not looked at: {@link rebase} does. */
export function apply<T>(records: Records<T>, { added, updated, removed }: Change<T>): Records<T> {
  const kept = Object.entries(records).filter(([name]) => !Object.hasOwn(removed, name));
  return recordsOf([
    ...kept.map(([name, record]) => [name, of(updated, name)?.[1] ?? record] as const),
    ...Object.entries(added),
  ]);
}

/** Two changes after each other, as one. What the second takes back of the first is gone from it. */
export function squash<T>(first: Change<T>, then: Change<T>, same: Same<T> = sameJson): Change<T> {
  const names = new Set([...namesIn(first), ...namesIn(then)]);
  const before: [string, T][] = [];
  const after: [string, T][] = [];
  for (const name of names) {
    const [one, two] = [partOf(first, name), partOf(then, name)];
    const inFirst = one.before !== undefined || one.after !== undefined;
    const inThen = two.before !== undefined || two.after !== undefined;
    const was = inFirst ? one.before : two.before;
    const is = inThen ? two.after : one.after;
    if (was !== undefined) before.push([name, was]);
    if (is !== undefined) after.push([name, is]);
  }
  return changeBetween(recordsOf(before), recordsOf(after), same);
}

/**
 * The same change for records as they are now, whatever happened since it was made. Records of fields are merged field by field; where
 * somebody else changed the very same, nothing is guessed.
 */
export function rebase<T>(
  change: Change<T>,
  now: Records<T>,
  same: Same<unknown> = sameJson,
): Result<Change<T>, Clash> {
  const after: [string, T][] = [];
  const before: [string, T][] = [];
  for (const name of namesIn(change)) {
    const part = partOf(change, name);
    const is = of(now, name);
    const wanted = rebased(name, part, is, same);
    if (!wanted.ok) return wanted;
    if (is !== undefined) before.push([name, is]);
    if (wanted.value !== undefined) after.push([name, wanted.value]);
  }
  return ok(changeBetween<T>(recordsOf(before), recordsOf(after), same));
}

/** What one record is to be, given what it is. */
function rebased<T>(
  name: string,
  { before, after }: { readonly before: T | undefined; readonly after: T | undefined },
  is: T | undefined,
  same: Same<unknown>,
): Result<T | undefined, Clash> {
  if (isFields(before) && isFields(after) && isFields(is)) return mergedFields(name, before, after, is, same);
  const matches = (record: T | undefined): boolean =>
    record === undefined || is === undefined ? record === is : same(is, record);
  // What is as the change wants it needs nothing.
  return matches(before) || matches(after) ? ok(after) : fail({ name, field: '' });
}

type Fields = Readonly<Record<string, unknown>>;
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function mergedFields<T>(
  name: string,
  before: Fields & T,
  after: Fields & T,
  is: Fields & T,
  same: Same<unknown>,
): Result<T, Clash> {
  const merged: Record<string, unknown> = { ...is };
  for (const field of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const [was, wanted, now] = [before[field], after[field], is[field]];
    if (same(was, wanted) || same(now, wanted)) continue;
    if (!same(now, was)) return fail({ name, field });
    if (wanted === undefined) delete merged[field];
    else merged[field] = wanted;
  }
  // Each field is one of the three records', so the whole is of their kind.
  return ok(merged as T);
}

/** A change as JSON, for what comes from outside. */
export const changeOf = <T>(record: z.ZodType<T>) =>
  z.object({
    added: z.record(z.string(), record).default({}),
    updated: z.record(z.string(), z.tuple([record, record])).default({}),
    removed: z.record(z.string(), record).default({}),
  });
