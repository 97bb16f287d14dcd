import { isIn } from '../goods/category';
import { allocate, type Minor, minor, subtract, sum, times, zero } from '../money/minor';
import type { BasketLine, Buyer } from './basket';
import { percentOf, type RoundingMode } from '../money/round';
import type { DiscountRule } from './rules';

/** What a rule takes off, line by line in the basket's order. */
export interface Applied {
  readonly rule: DiscountRule;
  readonly shares: readonly Minor[];
  readonly amount: Minor;
  readonly freeShipping: boolean;
}

export type NotApplied =
  | 'unknown'
  | 'not-yet'
  | 'over'
  | 'used-up'
  | 'used-by-you'
  | 'least-amount'
  | 'least-pieces'
  | 'nothing-fits'
  | 'saves-less'
  | 'dearer';

const inScope = (l: BasketLine, { scope }: DiscountRule): boolean => {
  if (scope.notOnOffer && l.onOffer) return false;
  if (scope.to === 'goods') return scope.goods.includes(l.goodsId);
  return scope.to === 'all' || scope.categories.some((c) => isIn({ categories: l.categories ?? [] }, c));
};

/** Why a rule does not fit a basket, whatever others do; nothing when it does. */
export function refusal(
  rule: DiscountRule,
  lines: readonly BasketLine[],
  buyer: Buyer,
): NotApplied | undefined {
  if (rule.from && buyer.wall < rule.from) return 'not-yet';
  if (rule.until && buyer.wall >= rule.until) return 'over';
  const uses = buyer.uses[rule.id] ?? { all: 0, own: 0 };
  if (rule.limit !== null && uses.all >= rule.limit) return 'used-up';
  if (rule.limitEach !== null && uses.own >= rule.limitEach) return 'used-by-you';
  const own = lines.filter((l) => inScope(l, rule));
  if (own.length === 0) return 'nothing-fits';
  if (rule.leastAmount !== null && sum(own.map((l) => times(l.unit, l.quantity))) < rule.leastAmount)
    return 'least-amount';
  const pieces = own.reduce((n, l) => n + l.quantity, 0);
  if (rule.leastPieces !== null && pieces < rule.leastPieces) return 'least-pieces';
  if (rule.kind === 'buy-get' && pieces < rule.buy + rule.get) return 'least-pieces';
  return undefined;
}

/**
 * Takes rules off one after another, each from what those before it left; never more than a line costs. Parts of a minor
 * unit are shared by largest remainder, ties by the id of the line, so that the order of lines changes nothing.
 */
export function takeOff(
  rules: readonly DiscountRule[],
  lines: readonly BasketLine[],
  mode: RoundingMode,
): Applied[] {
  const order = lines.map((_, n) => n).sort((a, b) => ((lines[a]?.id ?? '') < (lines[b]?.id ?? '') ? -1 : 1));
  const left = lines.map((l) => times(l.unit, l.quantity));
  return rules.map((rule) => {
    const wanted =
      rule.kind === 'shipping' ? lines.map(() => zero) : sharesOf(rule, lines, left, order, mode);
    const shares = wanted.map((s, n) => minor(Math.min(s, left[n] ?? 0)));
    for (const [n, s] of shares.entries()) left[n] = subtract(left[n] ?? zero, s);
    return { rule, shares, amount: sum(shares), freeShipping: rule.kind === 'shipping' };
  });
}

function sharesOf(
  rule: DiscountRule,
  lines: readonly BasketLine[],
  left: readonly Minor[],
  order: readonly number[],
  mode: RoundingMode,
): Minor[] {
  const scoped = new Set(lines.flatMap((l, n) => (inScope(l, rule) ? [n] : [])));
  const weight = (n: number): Minor => (scoped.has(n) ? (left[n] ?? zero) : zero);
  if (rule.kind === 'price')
    return lines.map((l, n) =>
      scoped.has(n) ? times(minor(Math.max(0, l.unit - rule.amount)), l.quantity) : zero,
    );
  if (rule.kind === 'buy-get') return cheapest(rule, lines, scoped, order, mode);
  const all = sum(lines.map((_, n) => weight(n)));
  const off =
    rule.kind === 'percent' ? percentOf(all, rule.percent, mode) : minor(Math.min(rule.amount, all));
  if (off === 0 || all === 0) return lines.map(() => zero);
  const parts = allocate(off, order.map(weight));
  const out = lines.map(() => zero);
  for (const [n, at] of order.entries()) out[at] = parts[n] ?? zero;
  return out;
}

/** Of all pieces that fit, the cheapest ones are got: `get` for each `buy` and `get` together. */
function cheapest(
  rule: DiscountRule,
  lines: readonly BasketLine[],
  scoped: ReadonlySet<number>,
  order: readonly number[],
  mode: RoundingMode,
): Minor[] {
  const out = lines.map(() => zero);
  const own = order.filter((n) => scoped.has(n));
  const pieces = own.reduce((n, at) => n + (lines[at]?.quantity ?? 0), 0);
  let got = Math.floor(pieces / (rule.buy + rule.get)) * rule.get;
  for (const at of [...own].sort((a, b) => (lines[a]?.unit ?? 0) - (lines[b]?.unit ?? 0))) {
    const line = lines[at];
    if (!line || got === 0) break;
    const here = Math.min(got, line.quantity);
    out[at] = times(percentOf(line.unit, rule.off, mode), here);
    got -= here;
  }
  return out;
}

/** What a rule gives, in words for whoever looks at the sum. */
export function discountWords(rule: DiscountRule, money: (amount: Minor) => string): string {
  const what =
    rule.scope.to === 'all'
      ? 'everything'
      : rule.scope.to === 'categories'
        ? rule.scope.categories.join(', ')
        : rule.scope.goods.length === 1
          ? 'one product'
          : `${rule.scope.goods.length} products`;
  const but = rule.scope.notOnOffer ? ', but what is on offer' : '';
  const least = rule.leastAmount !== null ? ` from ${money(rule.leastAmount)}` : '';
  const gives = {
    percent: `${rule.percent} % off ${what}`,
    amount: `${money(rule.amount)} off ${what}`,
    shipping: 'free shipping',
    price: `${what} at ${money(rule.amount)} each`,
    'buy-get': `buy ${rule.buy}, get ${rule.get} ${rule.off === 100 ? 'free' : `at ${rule.off} % off`}, the cheapest, of ${what}`,
  }[rule.kind];
  return `${gives}${but}${least}`;
}
