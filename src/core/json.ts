/** Keys in one order: the same record may come from JSON, the database or a form. */
export const canonical = (value: unknown): string =>
  JSON.stringify(value, (_, v: unknown) =>
    v && typeof v === 'object' && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => a.localeCompare(b)))
      : v,
  );

/** Whether two values are the same once they are JSON: the order of keys and what is undefined do not matter. */
export const sameJson = (a: unknown, b: unknown): boolean => canonical(a) === canonical(b);
