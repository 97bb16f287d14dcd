import { entryAt } from '../entries';
import { compareCodes } from '../compare';
import { add, allocate, type Minor, subtract, sum, times, zero } from '../money/minor';
import { type BasketLine, inOrderOfIds } from './basket';
import { nowhere, type Place } from './place';
import { percentOf, taxWithin } from '../money/round';
import type { TaxClass } from '../goods/choices';
import type { TaxRules } from './rules';

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

/**
 * The rate a class has where it is taxed: that of its state, else of its country, else of the rest of the world ('*'); the
 * nearest place that has any rate settles it. A place that no rate reaches is beyond the owner's tax.
 */
export function rateFor(rules: TaxRules, taxClass: TaxClass, digital: boolean, place: Place): Rate {
  const by = digital ? rules.digitalBy : rules.goodsBy;
  // Until somebody has said where it goes, it stays at home.
  const at = by === 'buyer' && place.country ? place : rules.home;
  const where = at.state ? `${at.country}-${at.state}` : at.country;
  if (!rules.charged) return { percent: 0, category: 'E', where };
  const own = nearestRates(rules, at);
  const found =
    own.find((r) => r.class === taxClass) ??
    (taxClass === 'zero' ? undefined : own.find((r) => r.class === 'standard'));
  if (found) return { percent: found.percent, category: found.percent > 0 ? 'S' : 'Z', where };
  return { percent: 0, category: own.length ? 'Z' : 'G', where };
}

function nearestRates({ rates }: TaxRules, at: Pick<Place, 'country' | 'state'>): TaxRules['rates'] {
  const here = rates.filter((r) => r.country === at.country);
  const inState = here.filter((r) => r.state && r.state === at.state);
  if (inState.length) return inState;
  const inCountry = here.filter((r) => !r.state);
  return inCountry.length ? inCountry : rates.filter((r) => r.country === '*');
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
  /** What the same goods are taxed with at home, in per cent. */
  readonly home: number;
}

const same = (a: Rate, b: Rate): boolean =>
  a.percent === b.percent && a.category === b.category && a.where === b.where;

/**
 * Tax of lines (as they are after discounts) and of shipping. Rounded once for each rate, or for each line; in either case what
 * the parts have adds up to what the rows say, by largest remainder over lines in the order of their ids, shipping last.
 * The rules by number: docs/pricing.md, 4.
 * @param amounts of the lines, in their order, after discounts.
 */
export function taxOf(
  rules: TaxRules,
  lines: readonly BasketLine[],
  amounts: readonly Minor[],
  shipping: Minor,
  place: Place,
): Taxed {
  const order = inOrderOfIds(lines);
  const sorted = order.map((n) => ({ line: entryAt(lines, n), amount: amounts[n] ?? zero }));
  const goods = sorted.map(
    ({ line, amount }): Part => ({
      amount,
      rate: rateFor(rules, line.taxClass ?? 'standard', line.digital ?? false, place),
      home: homeRate(rules, line.taxClass ?? 'standard'),
    }),
  );
  const given = [...goods, ...shippingParts(rules, sorted, goods, shipping, place)];
  const off = homeTax(rules, given);
  const parts = given.map((p, n) => ({ ...p, amount: subtract(p.amount, off[n] ?? zero) }));
  const taxes = onceForEach(rules, parts, taxIn(rules), (p) => p.rate, same);
  const taxed = parts.map(({ amount, rate }, n): TaxedPart => {
    const tax = taxes[n] ?? zero;
    return rules.included
      ? { gross: amount, net: subtract(amount, tax), tax, rate }
      : { gross: add(amount, tax), net: amount, tax, rate };
  });
  const ofLines: TaxedPart[] = [];
  for (const [at, n] of order.entries()) ofLines[n] = entryAt(taxed, at);
  return {
    lines: ofLines,
    shipping: taxed.slice(lines.length),
    rows: rowsOf(taxed),
    takenOff: sum(off),
  };
}

const taxIn =
  (rules: TaxRules) =>
  (amount: Minor, { rate }: Part): Minor =>
    (rules.included ? taxWithin : percentOf)(amount, rate.percent, rules.rounding);

const homeRate = (rules: TaxRules, taxClass: TaxClass): number =>
  rateFor({ ...rules, goodsBy: 'seller' }, taxClass, false, nowhere).percent;

/** The tax that prices hold at home, of parts that leave it behind; rounded where the shop rounds. */
function homeTax(rules: TaxRules, parts: readonly Part[]): Minor[] {
  const leaves = parts.map((p) => rules.abroad === 'net' && rules.included && p.rate.category === 'G');
  const held = parts.map((p, n) => (leaves[n] ? p : { ...p, amount: zero }));
  const within = (amount: Minor, { home }: Part) => taxWithin(amount, home, rules.rounding);
  return onceForEach(
    rules,
    held,
    within,
    (p) => p.home,
    (a, b) => a === b,
  );
}

/** Worked out for each part where lines are rounded; else once for all parts of a rate, and shared over them. */
function onceForEach<Key>(
  rules: TaxRules,
  parts: readonly Part[],
  tax: (amount: Minor, like: Part) => Minor,
  keyOf: (part: Part) => Key,
  equal: (a: Key, b: Key) => boolean,
): Minor[] {
  if (rules.roundAt === 'line') return parts.map((p) => tax(p.amount, p));
  const out = parts.map(() => zero);
  for (const own of groups(parts, (a, b) => equal(keyOf(a), keyOf(b)))) {
    const amounts = own.map((n) => parts[n]?.amount ?? zero);
    const whole = tax(sum(amounts), entryAt(parts, own[0] ?? 0));
    if (whole === 0) continue;
    const shares = allocate(whole, amounts);
    for (const [i, n] of own.entries()) out[n] = shares[i] ?? zero;
  }
  return out;
}

/** Places of what is alike, each group in the order of its first. */
function groups<T>(all: readonly T[], alike: (a: T, b: T) => boolean): number[][] {
  const out: number[][] = [];
  for (const [n, one] of all.entries()) {
    const own = out.find((g) => alike(entryAt(all, g[0] ?? 0), one));
    if (own) own.push(n);
    else out.push([n]);
  }
  return out;
}

/** Shipping has the rate of a class, or none, or is shared over the goods that are sent. */
function shippingParts(
  rules: TaxRules,
  sorted: readonly { readonly line: BasketLine; readonly amount: Minor }[],
  goods: readonly Part[],
  shipping: Minor,
  place: Place,
): Part[] {
  if (shipping === 0) return [];
  if (rules.shipping === 'none') {
    const category = rules.charged ? 'Z' : 'E';
    return [{ amount: shipping, rate: { percent: 0, category, where: rules.home.country }, home: 0 }];
  }
  if (rules.shipping !== 'proportion') {
    const taxClass = rules.shipping;
    return [
      { amount: shipping, rate: rateFor(rules, taxClass, false, place), home: homeRate(rules, taxClass) },
    ];
  }
  const sent = sorted.flatMap(({ line, amount }, n) => (line.ships ? [{ line, amount, at: n }] : []));
  const shares = allocate(shipping, weightsOf(sent));
  const parts = sent.map(({ at }, n): Part => ({ ...entryAt(goods, at), amount: shares[n] ?? zero }));
  return groups(parts, (a, b) => a.home === b.home && same(a.rate, b.rate))
    .map(
      (own): Part => ({
        ...entryAt(parts, own[0] ?? 0),
        amount: sum(own.map((n) => parts[n]?.amount ?? zero)),
      }),
    )
    .filter((p) => p.amount !== 0);
}

/** What goods carry shipping by: their cost after discounts; where all are free their prices; where those are nought, pieces. */
function weightsOf(sent: readonly { readonly line: BasketLine; readonly amount: Minor }[]): number[] {
  const ways: ((s: { readonly line: BasketLine; readonly amount: Minor }) => number)[] = [
    (s) => s.amount,
    (s) => times(s.line.unit, s.line.quantity),
    (s) => s.line.quantity,
  ];
  return ways.map((of) => sent.map(of)).find((weights) => weights.some((w) => w > 0)) ?? sent.map(() => 1);
}

function rowsOf(parts: readonly TaxedPart[]): TaxRow[] {
  return groups(parts, (a, b) => same(a.rate, b.rate))
    .map((own): TaxRow => {
      const of = own.map((n) => entryAt(parts, n));
      return {
        ...entryAt(of, 0).rate,
        taxable: sum(of.map((p) => p.net)),
        tax: sum(of.map((p) => p.tax)),
      };
    })
    .sort(
      (a, b) =>
        b.percent - a.percent || compareCodes(a.where, b.where) || compareCodes(a.category, b.category),
    );
}
