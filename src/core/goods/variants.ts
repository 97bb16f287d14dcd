import type { Option, Product, Variant, VariantInput } from './product';

/** Options of a product, values of one, variants in all: more than anyone sells, few enough to stay quick. Chosen by hand. */
export const optionLimits = { options: 3, values: 100, variants: 2_000 } as const;

/** Every choice of one value from each option, first option slowest: [["S","natural"],["S","dyed"],…]. */
export const combinations = (options: readonly Pick<Option, 'values'>[]): string[][] =>
  options.reduce<string[][]>((rows, o) => rows.flatMap((row) => o.values.map((v) => [...row, v.name])), [[]]);

const keyOf = (values: readonly string[]): string => JSON.stringify(values);

/**
 * The rows that options make: those that are known keep all they have, new ones are made by `fresh` after the known row that
 * is most like them (the first that shares their first value, else the first of all); those that no choice leads to are gone.
 */
export function syncRows<T extends { readonly values: readonly string[] }>(
  options: readonly Pick<Option, 'values'>[],
  known: readonly T[],
  fresh: (values: string[], like: T | undefined) => T,
): T[] {
  const by = new Map(known.map((v) => [keyOf(v.values), v]));
  const first = new Map<string, T>();
  for (const v of known) if (v.values[0] !== undefined && !first.has(v.values[0])) first.set(v.values[0], v);
  return combinations(options).map(
    (values) => by.get(keyOf(values)) ?? fresh(values, first.get(values[0] ?? '') ?? known[0]),
  );
}

/** The variants that options make; new ones are counted from nought where those like them are counted. */
export const syncVariants = (options: readonly Option[], known: readonly VariantInput[]): VariantInput[] =>
  syncRows(options, known, (values, like) => ({
    values,
    price: null,
    difference: like?.difference ?? null,
    sku: '',
    gtin: '',
    stock: like && like.stock !== null ? 0 : null,
    weight: like?.weight ?? null,
    picture: null,
  }));

/** Renames a value of an option in the rows that have it. */
export const renameValue = <T extends { readonly values: readonly string[] }>(
  rows: readonly T[],
  option: number,
  from: string,
  to: string,
): T[] =>
  rows.map((v) =>
    v.values[option] === from ? { ...v, values: v.values.map((x, i) => (i === option ? to : x)) } : v,
  );

/** "M, natural"; '' where a product has no options. */
export const variantLabel = (v: Pick<Variant, 'values'>): string => v.values.join(', ');

/** The variant of a choice, or of an id; the only one where there is no choice. */
export function findVariant(
  p: Pick<Product, 'variants' | 'options'>,
  by: { readonly id?: string | null; readonly values?: readonly string[] },
): Variant | undefined {
  if (by.id) return p.variants.find((v) => v.id === by.id);
  if (by.values && by.values.length === p.options.length)
    return p.variants.find((v) => keyOf(v.values) === keyOf(by.values ?? []));
  return p.options.length === 0 ? p.variants[0] : undefined;
}

/**
 * Whether a value can still be had beside what is chosen of the other options: a shopper is told before choosing.
 * @param chosen a value or nothing for each option. @param free pieces by variant id; null where nobody counts.
 */
export function canChoose(
  p: Pick<Product, 'variants'>,
  chosen: readonly (string | undefined)[],
  option: number,
  value: string,
  free: ReadonlyMap<string, number | null>,
): boolean {
  return p.variants.some(
    (v) =>
      v.values[option] === value &&
      v.values.every((x, i) => i === option || chosen[i] === undefined || chosen[i] === x) &&
      (free.get(v.id) ?? 1) > 0,
  );
}
