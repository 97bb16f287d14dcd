import { customType } from 'drizzle-orm/sqlite-core';

/** A record as it was written by some release, without its version. */
export type Stored = Readonly<Record<string, unknown>>;
/** Turns what one release wrote into what the next one would have written. */
export type Lift = (old: Stored) => Stored;

/**
 * A column of JSON records that know in which shape they were written: `v` beside their fields counts the lifts that had been there.
 * What is read is lifted to the shape of today, one small function to each change of shape; what is written says today's. Records
 * without `v` are those of before there were versions. The first lift turns 0 into 1, and so on: none is ever taken out or moved.
 *
 * @throws RangeError for a record of a later release: it is not guessed at, and nothing is written over it.
 */
export const versioned = <T extends object>(lifts: readonly Lift[]) =>
  customType<{ data: T; driverData: string }>({
    dataType: () => 'text',
    toDriver: (value) => JSON.stringify({ ...value, v: lifts.length }),
    fromDriver: (text) => readVersioned<T>(text, lifts),
  });

/**
 * What stands in such a column, for questions that take its text as it is. What was lifted has the shape that the schema names: the
 * lifts' tests hold it against what older releases wrote.
 */
export const readVersioned = <T extends object>(text: string, lifts: readonly Lift[]): T =>
  lifted(JSON.parse(text) as Stored, lifts) as T;

export function lifted(stored: Stored, lifts: readonly Lift[]): Stored {
  const { v = 0, ...record } = stored;
  if (typeof v !== 'number' || v > lifts.length)
    throw new RangeError('This was written by a later release of Green Stall. Start that release again.');
  return lifts.slice(v).reduce<Stored>((old, lift) => lift(old), record);
}
