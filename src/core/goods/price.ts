import { add, type Minor, minor } from '../money/minor';
import { percentOf, ratio, taxWithin } from '../money/round';
import type { Offer, Product, UnitPrice, Variant } from './product';

type Priced = Pick<Product, 'price' | 'was' | 'offer'>;

/** What a variant costs before any offer: its own price, or the product's with a difference. */
export const fullPrice = (p: Pick<Product, 'price'>, v: Pick<Variant, 'price' | 'difference'>): Minor =>
  v.price ?? minor(Math.max(0, p.price + (v.difference ?? 0)));

export const offerRuns = (o: Offer | null, at: number): o is Offer =>
  o !== null &&
  (o.from === null || Date.parse(o.from) <= at) &&
  (o.until === null || at < Date.parse(o.until));

/** A full price with an offer on it: per cent or an amount off, never below nought. */
export function offered(full: Minor, offer: Offer): Minor {
  if (offer.kind === 'percent') return percentOf(full, 100 - offer.value, 'half-up');
  return minor(Math.max(0, full - offer.value));
}

export interface PriceNow {
  readonly price: Minor;
  /** The price before, to be struck through; nothing where there is no reduction. */
  readonly was: Minor | null;
}

/**
 * What a variant costs at a moment, and the price before that may stand struck through beside it. Where a price is announced
 * as reduced, the price before is the lowest of the thirty days before the reduction: Directive 98/6/EC, Article 6a(2), as
 * Directive (EU) 2019/2161 put it in. So a price before that is higher than `lowest` is brought down to it, and one that
 * is no reduction at all is left out.
 * @param lowest the lowest price of the thirty days before, where it is known.
 */
export function priceNow(
  p: Priced,
  v: Pick<Variant, 'price' | 'difference'>,
  at: number,
  lowest?: Minor,
): PriceNow {
  const full = fullPrice(p, v);
  const runs = offerRuns(p.offer, at);
  const price = runs ? offered(full, p.offer as Offer) : full;
  const before = runs ? full : ownPriceBefore(p, full);
  if (before === null) return { price, was: null };
  const honest = lowest === undefined ? before : minor(Math.min(before, lowest));
  return { price, was: honest > price ? honest : null };
}

/** The price before that the owner named, for a choice that costs `full`. */
const ownPriceBefore = (p: Priced, full: Minor): Minor | null =>
  p.was === null ? null : minor(p.was + full - p.price);

/**
 * What one piece in a basket costs: the price of the choice or the amount that the buyer named, and what the texts cost that were
 * written. The rules by number: docs/pricing.md, 1.
 * @param texts as written, in the order of the product's; an empty one costs nothing.
 */
export function pieceCost(
  p: Priced & Pick<Product, 'openLeast' | 'texts'>,
  v: Pick<Variant, 'price' | 'difference'>,
  written: { readonly named: number | null; readonly texts: readonly string[] },
  at: number,
): Minor {
  const price =
    p.openLeast !== null && written.named !== null ? minor(written.named) : priceNow(p, v, at).price;
  return p.texts.reduce((cost, text, n) => (written.texts[n] ? add(cost, text.price) : cost), price);
}

/** What a product costs at least, and whether its variants differ. */
export function priceFrom(
  p: Priced & Pick<Product, 'variants'>,
  at: number,
): { readonly least: Minor; readonly differs: boolean } {
  let least = Number.POSITIVE_INFINITY;
  let most = 0;
  for (const v of p.variants) {
    const { price } = priceNow(p, v, at);
    least = Math.min(least, price);
    most = Math.max(most, price);
  }
  return { least: minor(Number.isFinite(least) ? least : p.price), differs: most > least };
}

const byLink = new WeakMap<object, Map<string, Product>>();

/**
 * The same product at the price of one of its links; itself where it has no such link (any more). No offer
 * is on top of it, and
 * nothing stands struck through. Variants keep their difference; one with a price of its own changes in the
 * same ratio.
 * The answer is the same object each time, as long as the product is.
 */
export function atLinkPrice(p: Product, key: string): Product {
  const link = key ? p.linkPrices.find((l) => l.key === key) : undefined;
  if (!link) return p;
  const known = byLink.get(p) ?? new Map<string, Product>();
  byLink.set(p, known);
  const made: Product = known.get(key) ?? {
    ...p,
    price: link.price,
    was: null,
    offer: null,
    variants: p.variants.map((v) =>
      v.price === null || p.price === 0 ? v : { ...v, price: ratio(v.price, link.price, p.price, 'half-up') },
    ),
  };
  known.set(key, made);
  return made;
}

export interface PricePoint {
  /** When this price began to hold, in milliseconds since 1970. */
  readonly at: number;
  readonly price: Minor;
}

const DAYS_30 = 30 * 86_400_000;

/**
 * The lowest price that held at any moment of the thirty days before `start`, the moment a reduction begins. A price holds
 * until the next; the one that held when the thirty days began counts. Nothing where no price of that time is known.
 * Source: Directive 98/6/EC, Article 6a(2).
 * @param history sorted by time. Points at `start` or later are the reduction itself.
 */
export function lowestBefore(history: readonly PricePoint[], start: number): Minor | undefined {
  let lowest: Minor | undefined;
  for (const [i, point] of history.entries()) {
    if (point.at >= start) break;
    const until = Math.min(history[i + 1]?.at ?? start, start);
    if (until > start - DAYS_30)
      lowest = lowest === undefined ? point.price : minor(Math.min(lowest, point.price));
  }
  return lowest;
}

/** When the price now in force began: the start of the last run of one price, for reductions by hand. */
export const reducedSince = (history: readonly PricePoint[], now: number): number =>
  [...history].reverse().find((p) => p.at <= now)?.at ?? now;

/** Whole per cent off: 25.00 to 15.00 is 40 %. */
export const percentOff = (was: Minor, price: Minor): number =>
  was > 0 ? Math.round(((was - price) / was) * 100) : 0;

/** Units of measure, what they measure, and how many of the base unit each is. */
export const measures = {
  g: { of: 'weight', in: 0.001 },
  kg: { of: 'weight', in: 1 },
  ml: { of: 'volume', in: 0.001 },
  cl: { of: 'volume', in: 0.01 },
  l: { of: 'volume', in: 1 },
  cm: { of: 'length', in: 0.01 },
  m: { of: 'length', in: 1 },
  m2: { of: 'area', in: 1 },
  piece: { of: 'count', in: 1 },
} as const;
export type Measure = keyof typeof measures;

const NANO = 1_000_000_000;

/** The unit a price is told for: kilogram, litre, metre, square metre, one piece. Directive 98/6/EC, Article 2(b). */
const tellsBy = {
  weight: 'kg',
  volume: 'l',
  length: 'm',
  area: 'm2',
  count: 'piece',
} as const satisfies Record<string, Measure>;

/** Price per unit: 14.00 for 1.5 kg is 9.33 a kilogram. */
export function pricePerUnit(price: Minor, u: UnitPrice): { readonly price: Minor; readonly per: Measure } {
  const m = measures[u.measure];
  // Amounts of goods are decimals: to a thousandth of the smallest measure they are exact.
  const base = Math.max(1, Math.round(u.amount * m.in * NANO));
  return { price: ratio(price, NANO, base, 'half-up'), per: tellsBy[m.of] };
}

export interface Margin {
  /** Tax inside the price, in minor units. */
  readonly tax: Minor;
  readonly cost: Minor;
  readonly profit: Minor;
  /** Share of the price without tax that is kept, in per cent: cost 0.50 at 1.00 is 50. */
  readonly percent: number;
}

/** What is kept of a price. @param rate tax in per cent. @param included whether the price holds it. */
export function marginOf(price: Minor, cost: Minor, rate: number, included: boolean): Margin {
  const net = included ? minor(price - taxWithin(price, rate, 'half-up')) : price;
  return {
    tax: minor(price - net),
    cost,
    profit: minor(net - cost),
    percent: net === 0 ? 0 : Math.round(((net - cost) / net) * 1000) / 10,
  };
}
