import type { StockRule, Variant } from './product';

/** Pieces that are few enough to say so, where the owner says nothing else; chosen by hand. */
export const FEW = 3;

/** How a count stands to a shopper: to be had, few left, to be had although none is there, or not to be had. */
export type Availability =
  | { readonly is: 'there' }
  | { readonly is: 'few'; readonly left: number }
  | { readonly is: 'later'; readonly on: string | null }
  | { readonly is: 'out' };

/**
 * The standing of a variant. @param free pieces a buyer could have now, held ones taken off; null where nobody counts.
 */
export function availabilityOf(free: number | null, rule: StockRule): Availability {
  if (free === null) return { is: 'there' };
  if (free <= 0)
    return rule.whenOut === 'refuse'
      ? { is: 'out' }
      : { is: 'later', on: rule.whenOut === 'preorder' ? rule.expected : null };
  return free <= (rule.low ?? FEW) ? { is: 'few', left: free } : { is: 'there' };
}

/** The most pieces of one thing that can go into a cart; null where there is no limit. */
export const mostOf = (free: number | null, rule: StockRule): number | null =>
  free === null || rule.whenOut !== 'refuse' ? null : Math.max(0, free);

/**
 * A bundle can be had as often as its scarcest part allows.
 * @param parts pieces of each part that one bundle takes. @param free pieces by variant id; null where nobody counts.
 */
export function freeOfBundle(
  parts: readonly { readonly variantId: string; readonly quantity: number }[],
  free: ReadonlyMap<string, number | null>,
): number | null {
  let least: number | null = null;
  for (const p of parts) {
    const has = free.get(p.variantId);
    if (has === null) continue;
    // A part that is not sold any more stops the bundle.
    const times = has === undefined ? 0 : Math.floor(Math.max(0, has) / p.quantity);
    least = least === null ? times : Math.min(least, times);
  }
  return parts.length === 0 ? 0 : least;
}

/** What an owner is told of a product's counts. */
export function countWords(p: {
  readonly variants: readonly Pick<Variant, 'stock' | 'values'>[];
  readonly stockRule: StockRule;
}): { readonly out: string[]; readonly low: string[] } {
  const name = (v: Pick<Variant, 'values'>) => v.values.join(' ') || 'It';
  const out = p.variants.filter((v) => v.stock !== null && v.stock <= 0).map(name);
  const low = p.variants
    .filter((v) => v.stock !== null && v.stock > 0 && v.stock <= (p.stockRule.low ?? FEW))
    .map(name);
  return { out, low };
}
