/** Units that weights are written and shown in; kept are grams, always. */
export const weightUnits = ['g', 'kg', 'oz', 'lb'] as const;
export type WeightUnit = (typeof weightUnits)[number];

/** Grams in each: the avoirdupois pound is 0.45359237 kg exactly, the ounce a sixteenth of it (international agreement of 1959). */
export const gramsIn: Readonly<Record<WeightUnit, number>> = {
  g: 1,
  kg: 1000,
  oz: 28.349523125,
  lb: 453.59237,
};

/** Digits shown behind the point: enough that what was typed comes back as it was typed, to a hundredth of a pound or a tenth of an ounce. */
const digits: Readonly<Record<WeightUnit, number>> = { g: 0, kg: 3, oz: 1, lb: 2 };

export const toGrams = (n: number, unit: WeightUnit): number => Math.round(n * gramsIn[unit]);

/** A weight as a number of a unit, without noise behind the point. */
export const inUnit = (grams: number, unit: WeightUnit): number =>
  Number((grams / gramsIn[unit]).toFixed(digits[unit]));

/** "3.65 kg", "8 lb". */
export const weightText = (grams: number, unit: WeightUnit): string => `${inUnit(grams, unit)} ${unit}`;

/** Reads "350", "1.2 kg", "12 oz", "2,5 lb" as grams; nothing when it is no weight. A bare number is in `usual`. */
export function readWeight(typed: string, usual: WeightUnit = 'g'): number | undefined {
  const m = /^(\d+(?:[.,]\d+)?)\s*(g|kg|oz|lb)?s?$/i.exec(typed.trim());
  if (!m) return undefined;
  const grams = toGrams(
    Number((m[1] ?? '').replace(',', '.')),
    (m[2]?.toLowerCase() as WeightUnit | undefined) ?? usual,
  );
  return Number.isSafeInteger(grams) ? grams : undefined;
}
