/**
 * What stands at a place of a list where something is known to stand: loops and searches that never leave the list.
 * @throws RangeError where nothing does, which is a fault of the code that asked.
 */
export function entryAt<T>(list: ArrayLike<T>, index: number): T {
  const found = list[index];
  if (found === undefined) throw new RangeError(`nothing stands at ${index} of ${list.length}`);
  return found;
}

/** The key that came into a map first; nothing where it is empty. */
export const oldestKey = <K>(map: ReadonlyMap<K, unknown>): K | undefined => map.keys().next().value;

/** The names of a table's entries, as an enumeration takes them: one at least. @throws RangeError for an empty table. */
export function namesOf<T extends object>(table: T): [keyof T & string, ...(keyof T & string)[]] {
  // A table's own keys are what its type says: tables are constants, and nothing is added to them.
  const [first, ...rest] = Object.keys(table) as (keyof T & string)[];
  if (first === undefined) throw new RangeError('a table has one entry at least');
  return [first, ...rest];
}
