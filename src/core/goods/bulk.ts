import { z } from 'zod';
import { minorDigits } from '../money/currency';
import { type Minor, minor } from '../money/minor';
import { percentOf } from '../money/round';
import { pathOfNames, namesIn } from './category';
import { priceEndings, taxClasses, visibilities } from './choices';
import type { ProductForm } from './product';

const name = z.string().trim().min(1).max(200);

/** One change to many products. Prices round to the next end that is asked for, half upwards. */
export const bulkEdit = z.discriminatedUnion('do', [
  z.object({
    do: z.literal('price'),
    by: z.enum(['percent', 'amount', 'set']),
    value: z.number(),
    ends: z.enum(priceEndings).default(''),
  }),
  z.object({
    do: z.literal('offer'),
    percent: z.number().gt(0).max(100),
    from: z.iso.datetime({ offset: true }).nullable().default(null),
    until: z.iso.datetime({ offset: true }).nullable().default(null),
  }),
  z.object({ do: z.literal('offer-end') }),
  z.object({ do: z.literal('category'), how: z.enum(['in', 'out']), path: name }),
  z.object({ do: z.literal('tag'), how: z.enum(['in', 'out']), tag: z.string().trim().min(1).max(40) }),
  z.object({ do: z.literal('shows'), shows: z.enum(visibilities) }),
  z.object({ do: z.literal('badge'), badge: z.string().trim().max(24) }),
  z.object({ do: z.literal('tax'), taxClass: z.enum(taxClasses) }),
  z.object({ do: z.literal('remove') }),
]);
export type BulkEdit = z.output<typeof bulkEdit>;

/**
 * The next price with wanted ending figures: 41.37 ending in 99 is 40.99, the nearest; with nought figures after the mark
 * the amount itself ends so. Never below nought.
 */
export function endingIn(price: number, ends: string, currency: string): Minor {
  if (ends === '' || minorDigits(currency) === 0) return minor(Math.max(0, Math.round(price)));
  const unit = 10 ** minorDigits(currency);
  const end = Math.round((Number(ends) / 100) * unit);
  return minor(Math.max(0, end, Math.round((price - end) / unit) * unit + end));
}

function withOrWithout(all: readonly string[], one: string, how: 'in' | 'out'): string[] {
  if (how === 'out') return all.filter((x) => x !== one);
  return all.includes(one) ? [...all] : [...all, one];
}

/** A product's form with the change made; the same form where it changes nothing. */
export function applyBulk(f: ProductForm, e: BulkEdit, currency: string): ProductForm {
  if (e.do === 'price') return priced(f, e, currency);
  if (e.do === 'offer')
    return { ...f, offer: { kind: 'percent', value: e.percent, from: e.from, until: e.until } };
  if (e.do === 'offer-end') return { ...f, offer: null, was: null };
  if (e.do === 'category') {
    const path = pathOfNames(namesIn(e.path));
    return { ...f, categories: withOrWithout(f.categories, path, e.how) };
  }
  if (e.do === 'tag') return { ...f, tags: withOrWithout(f.tags, e.tag, e.how) };
  if (e.do === 'shows') return { ...f, shows: e.shows };
  if (e.do === 'badge') return { ...f, badge: e.badge };
  if (e.do === 'tax') return { ...f, taxClass: e.taxClass };
  return f;
}

function priced(f: ProductForm, e: Extract<BulkEdit, { do: 'price' }>, currency: string): ProductForm {
  const changed = (p: number): number => {
    if (e.by === 'percent') return percentOf(p, 100 + e.value, 'half-up');
    return e.by === 'amount' ? p + e.value : e.value;
  };
  const to = (p: number) => endingIn(changed(p), e.ends, currency);
  const price = to(f.price);
  // A price before that is no longer more than the price says nothing.
  const was = f.was !== null && f.was > price ? f.was : null;
  const grown = (d: number | null) =>
    d === null || e.by !== 'percent' ? d : percentOf(d, 100 + e.value, 'half-up');
  return {
    ...f,
    price,
    was,
    ...(f.openLeast !== null && { openLeast: price }),
    variants: f.variants.map((v) => ({
      ...v,
      price: v.price === null || e.by === 'set' ? v.price : to(v.price),
      difference: grown(v.difference),
    })),
  };
}
