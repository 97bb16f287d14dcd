import { measureText } from '../../core/till/measures';
import type { WeightUnit } from '../../core/till/weight';
import { zero } from '../../core/money/minor';
import type { Region, ShippingWay } from '../../core/till/rules';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { TillView } from '../../services/till/try-cart';
import { shippingEditor as say } from '../words/till';

/** An id for what is not saved yet. */
export const freshId = (): string => Math.random().toString(36).slice(2, 10);

/** A shipping method as it begins. */
export const newWay = (name: string, more: Partial<ShippingWay> = {}): ShippingWay => ({
  id: freshId(),
  name,
  kind: 'post',
  by: 'flat',
  base: zero,
  bands: [],
  each: zero,
  own: [],
  freeFrom: null,
  days: null,
  hint: '',
  ...more,
});

/** Where a region is, in words. */
export const placeName = (view: TillView, code: string): string =>
  code === '*' ? say.everywhereElse : (view.countries.find((c) => c.code === code)?.name ?? code);

/** What a way's bands are told in. */
export const bandText =
  (x: ShippingWay, unit: WeightUnit, money: (n: number) => string) =>
  (n: number): string =>
    x.by === 'flat' ? '' : measureText(x.by, n, { money, unit });

/** Where this cart lies on a way's ruler. */
export function onRuler(
  x: ShippingWay,
  cart: WorkedSum | undefined,
): { readonly band: number; readonly measure: number } | null {
  const offered = cart?.ways?.find((o) => o.id === x.id);
  return offered && offered.band !== null ? { band: offered.band, measure: offered.measure } : null;
}

/** Where a region is: a place, with what of it; or how many countries. */
export function whereWords({ areas }: Region, view: TillView): string {
  const [first] = areas;
  if (!first) return 'nowhere';
  if (areas.length > 1) return `${areas.length} countries`;
  const part = first.postcodes.join(', ') || first.states.join(', ');
  return [placeName(view, first.country), part].filter(Boolean).join(', ');
}
