import { add, allocate, type Minor, minor, subtract, sum, zero } from '../money/minor';
import type { BasketLine } from './basket';
import type { Place } from './place';
import { percentOf, taxWithin } from '../money/round';
import type { TaxClass, TaxRules } from './rules';

/**
 * Codes of tax categories (UNCL 5305, as EN 16931 uses them): S taxed, Z at a rate of nought, E exempt, G leaves the country free of tax.
 */
export type TaxCategory = 'S' | 'Z' | 'E' | 'G';

export interface Rate {
  readonly percent: number;
  readonly category: TaxCategory;
  /** Where it is due: "GB", "US-CA". */
  readonly where: string;
}

/** One row of the tax summary (EN 16931, BG-23). */
export interface TaxRow extends Rate {
  /** BT-116: what is taxed, without the tax. */
  readonly taxable: Minor;
  /** BT-117. */
  readonly tax: Minor;
}

/** The rate a class has where it is taxed. A place that no rate names is beyond the owner's tax. */
export function rateFor(rules: TaxRules, taxClass: TaxClass, digital: boolean, place: Place): Rate {
  const by = digital ? rules.digitalBy : rules.goodsBy;
  // Until somebody has said where it goes, it stays at home.
  const at = by === 'buyer' && place.country ? place : rules.home;
  const where = at.state ? `${at.country}-${at.state}` : at.country;
  if (!rules.charged) return { percent: 0, category: 'E', where };
  const here = rules.rates.filter((r) => r.country === at.country);
  const inState = here.filter((r) => r.state && r.state === at.state);
  const own = inState.length ? inState : here.filter((r) => !r.state);
  const found =
    own.find((r) => r.class === taxClass) ??
    (taxClass === 'zero' ? undefined : own.find((r) => r.class === 'standard'));
  if (found) return { percent: found.percent, category: found.percent > 0 ? 'S' : 'Z', where };
  return { percent: 0, category: own.length ? 'Z' : 'G', where };
}

export interface TaxedPart {
  /** What is paid for it, with tax. */
  readonly gross: Minor;
  readonly net: Minor;
  readonly tax: Minor;
  readonly rate: Rate;
}

export interface Taxed {
  readonly lines: readonly TaxedPart[];
  /** Shipping, in as many parts as it has rates. */
  readonly shipping: readonly TaxedPart[];
  readonly rows: readonly TaxRow[];
  /** Home's tax, taken off where none is due and the owner says so. */
  readonly takenOff: Minor;
}

interface Part {
  readonly amount: Minor;
  readonly rate: Rate;
}

const same = (a: Rate, b: Rate): boolean =>
  a.percent === b.percent && a.category === b.category && a.where === b.where;

/**
 * Tax of lines (as they are after discounts) and of shipping. Rounded once for each rate, or for each line; in either case what
 * the parts have adds up to what the rows say, by largest remainder.
 */
export function taxOf(
  rules: TaxRules,
  lines: readonly BasketLine[],
  amounts: readonly Minor[],
  shipping: Minor,
  place: Place,
): Taxed {
  const given = lines.map(
    (l, n): Part => ({
      amount: amounts[n] ?? zero,
      rate: rateFor(rules, l.taxClass ?? 'standard', l.digital ?? false, place),
    }),
  );
  const parts = given.map(
    (p, n): Part =>
      rules.abroad === 'net' && rules.included && p.rate.category === 'G'
        ? { ...p, amount: subtract(p.amount, homeTax(rules, lines[n] as BasketLine, p.amount)) }
        : p,
  );
  const takenOff = sum(given.map((p, n) => subtract(p.amount, parts[n]?.amount ?? zero)));
  const carried = shippingParts(rules, parts, shipping, place);
  const taxes =
    rules.roundAt === 'line'
      ? [...parts, ...carried].map((p) => taxIn(rules, p))
      : byRate(rules, [...parts, ...carried]);
  const taxed = [...parts, ...carried].map((p, n): TaxedPart => {
    const tax = taxes[n] ?? zero;
    return rules.included
      ? { gross: p.amount, net: subtract(p.amount, tax), tax, rate: p.rate }
      : { gross: add(p.amount, tax), net: p.amount, tax, rate: p.rate };
  });
  return {
    lines: taxed.slice(0, parts.length),
    shipping: taxed.slice(parts.length),
    rows: rowsOf(taxed),
    takenOff,
  };
}

const taxIn = (rules: TaxRules, { amount, rate }: Part): Minor =>
  (rules.included ? taxWithin : percentOf)(amount, rate.percent, rules.rounding);

const homeTax = (rules: TaxRules, line: BasketLine, amount: Minor): Minor =>
  taxWithin(
    amount,
    rateFor(
      { ...rules, goodsBy: 'seller', digitalBy: 'seller' },
      line.taxClass ?? 'standard',
      false,
      rules.home as Place,
    ).percent,
    rules.rounding,
  );

/** Each rate's tax is rounded once, and shared over its parts. */
function byRate(rules: TaxRules, parts: readonly Part[]): Minor[] {
  const out = parts.map(() => zero);
  for (const rate of ratesIn(parts)) {
    const own = parts.flatMap((p, n) => (same(p.rate, rate) ? [n] : []));
    const amount = sum(own.map((n) => parts[n]?.amount ?? zero));
    const tax = taxIn(rules, { amount, rate });
    if (tax === 0) continue;
    const shares = allocate(
      tax,
      own.map((n) => parts[n]?.amount ?? zero),
    );
    for (const [i, n] of own.entries()) out[n] = shares[i] ?? zero;
  }
  return out;
}

const ratesIn = (parts: readonly { readonly rate: Rate }[]): Rate[] =>
  parts.map((p) => p.rate).filter((r, n, all) => all.findIndex((x) => same(x, r)) === n);

/** Shipping follows the goods in their proportion, or has the rate of a class, or none. */
function shippingParts(rules: TaxRules, parts: readonly Part[], shipping: Minor, place: Place): Part[] {
  if (shipping === 0) return [];
  if (rules.shipping === 'none')
    return [
      {
        amount: shipping,
        rate: { percent: 0, category: rules.charged ? 'Z' : 'E', where: rules.home.country },
      },
    ];
  if (rules.shipping !== 'proportion')
    return [{ amount: shipping, rate: rateFor(rules, rules.shipping, false, place) }];
  const rates = ratesIn(parts);
  const weights = rates.map((r) => sum(parts.filter((p) => same(p.rate, r)).map((p) => p.amount)));
  if (weights.every((x) => x === 0))
    return [{ amount: shipping, rate: rateFor(rules, 'standard', false, place) }];
  return allocate(shipping, weights)
    .map((amount, n): Part => ({ amount, rate: rates[n] as Rate }))
    .filter((p) => p.amount !== 0);
}

function rowsOf(parts: readonly TaxedPart[]): TaxRow[] {
  return ratesIn(parts)
    .map((rate) => {
      const own = parts.filter((p) => same(p.rate, rate));
      return { ...rate, taxable: sum(own.map((p) => p.net)), tax: minor(own.reduce((n, p) => n + p.tax, 0)) };
    })
    .sort((a, b) => b.percent - a.percent || (a.where < b.where ? -1 : 1));
}
