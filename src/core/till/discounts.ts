import { isIn } from '../goods/category';
import { allocate, type Minor, minor, subtract, sum, times, zero } from '../money/minor';
import { type BasketLine, type Buyer, inOrderOfIds } from './basket';
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

/** Gift vouchers are money: only a rule that names the product makes them cheaper. */
const inScope = (l: BasketLine, { scope }: DiscountRule): boolean => {
  if (scope.notOnOffer && l.onOffer) return false;
  if (scope.to === 'goods') return scope.goods.includes(l.goodsId);
  if (l.voucher) return false;
  return scope.to === 'all' || scope.categories.some((c) => isIn({ categories: l.categories ?? [] }, c));
};

/** Why a rule does not fit a basket, whatever others do; nothing when it does. */
export function refusal(
  rule: DiscountRule,
  lines: readonly BasketLine[],
  buyer: Buyer,
): NotApplied | undefined {
  return refusalNow(rule, buyer) ?? refusalOf(rule, lines);
}

/** By its days and by how often it was used. */
function refusalNow(rule: DiscountRule, buyer: Buyer): NotApplied | undefined {
  if (rule.from && buyer.wall < rule.from) return 'not-yet';
  if (rule.until && buyer.wall >= rule.until) return 'over';
  const uses = buyer.uses[rule.id] ?? { all: 0, own: 0 };
  if (rule.limit !== null && uses.all >= rule.limit) return 'used-up';
  return rule.limitEach !== null && uses.own >= rule.limitEach ? 'used-by-you' : undefined;
}

/** By what is in the basket. */
function refusalOf(rule: DiscountRule, lines: readonly BasketLine[]): NotApplied | undefined {
  const own = lines.filter((l) => inScope(l, rule));
  if (own.length === 0) return 'nothing-fits';
  if (rule.leastAmount !== null && sum(own.map((l) => times(l.unit, l.quantity))) < rule.leastAmount)
    return 'least-amount';
  const pieces = own.reduce((n, l) => n + l.quantity, 0);
  const least = rule.kind === 'buy-get' ? rule.buy + rule.get : 0;
  return pieces < Math.max(rule.leastPieces ?? 0, least) ? 'least-pieces' : undefined;
}

/** Pieces of one line that still cost the same, each as much as the others. */
interface Pieces {
  readonly quantity: number;
  /** What all of them still cost. */
  readonly left: Minor;
  /** Got by "buy N, get M": not counted again, not given again. */
  readonly got: boolean;
}
type Stacks = readonly (readonly Pieces[])[];

/**
 * Takes rules off one after another, each from what those before it left; never more than a line still costs. Set prices come
 * last, so that they are the price. Parts of a minor unit are shared by largest remainder over lines in the order of their ids.
 * The rules by number: docs/pricing.md, 2.
 * @returns what each rule takes, in the order in which it was taken.
 */
export function takeOff(
  rules: readonly DiscountRule[],
  lines: readonly BasketLine[],
  mode: RoundingMode,
): Applied[] {
  let stacks: Stacks = lines.map((l) => [
    { quantity: l.quantity, left: times(l.unit, l.quantity), got: false },
  ]);
  const order = inOrderOfIds(lines);
  return [...rules.filter((r) => r.kind !== 'price'), ...rules.filter((r) => r.kind === 'price')].map(
    (rule) => {
      const before = stacks;
      stacks = takeOne({ rule, lines, stacks, order, mode });
      const shares = before.map((own, n) => subtract(leftOf(own), leftOf(stacks[n] ?? [])));
      return { rule, shares, amount: sum(shares), freeShipping: rule.kind === 'shipping' };
    },
  );
}

const leftOf = (own: readonly Pieces[]): Minor => sum(own.map((p) => p.left));

interface Taking {
  readonly rule: DiscountRule;
  readonly lines: readonly BasketLine[];
  readonly stacks: Stacks;
  readonly order: readonly number[];
  readonly mode: RoundingMode;
}

function takeOne(t: Taking): Stacks {
  switch (t.rule.kind) {
    case 'shipping':
      return t.stacks;
    case 'price':
      return lowered(t);
    case 'buy-get':
      return cheapestGot(t);
    case 'percent':
    case 'amount':
      return shared(t);
  }
}

const scopeOf = ({ rule, lines }: Taking): ReadonlySet<number> =>
  new Set(lines.flatMap((l, n) => (inScope(l, rule) ? [n] : [])));

/** No piece costs more than the set price from here on. */
function lowered(t: Taking): Stacks {
  const scoped = scopeOf(t);
  const lower = (p: Pieces): Pieces => ({
    ...p,
    left: minor(Math.min(p.left, times(t.rule.amount, p.quantity))),
  });
  return t.stacks.map((own, n) => (scoped.has(n) ? own.map(lower) : own));
}

/** One amount, shared over the lines by what each still costs, and within a line over its pieces. */
function shared(t: Taking): Stacks {
  const scoped = scopeOf(t);
  const weights = t.order.map((n) => (scoped.has(n) ? leftOf(t.stacks[n] ?? []) : zero));
  const all = sum(weights);
  const { rule } = t;
  const off =
    rule.kind === 'percent' ? percentOf(all, rule.percent, t.mode) : minor(Math.min(rule.amount, all));
  if (off === 0) return t.stacks;
  const parts = allocate(off, weights);
  const shareOf = new Map(t.order.map((n, at) => [n, parts[at] ?? zero]));
  return t.stacks.map((own, n) => less(own, shareOf.get(n) ?? zero));
}

function less(own: readonly Pieces[], off: Minor): readonly Pieces[] {
  if (off === 0) return own;
  const parts = allocate(
    off,
    own.map((p) => p.left),
  );
  return own.map((p, n) => ({ ...p, left: subtract(p.left, parts[n] ?? zero) }));
}

/**
 * Of all pieces that fit and were not got yet, those with the lowest price are got: `get` for each `buy` and `get` together,
 * lines of one price in the order of their ids. What is given is taken off what they still cost.
 */
function cheapestGot(t: Taking): Stacks {
  const { rule, lines } = t;
  const scoped = scopeOf(t);
  const own = t.order.filter((n) => scoped.has(n));
  const free = (n: number) => (t.stacks[n] ?? []).reduce((q, p) => q + (p.got ? 0 : p.quantity), 0);
  let wanted = Math.floor(own.reduce((n, at) => n + free(at), 0) / (rule.buy + rule.get)) * rule.get;
  const out = [...t.stacks];
  for (const at of own.toSorted((a, b) => (lines[a]?.unit ?? 0) - (lines[b]?.unit ?? 0))) {
    if (wanted === 0) break;
    const here = Math.min(wanted, free(at));
    out[at] = giveFrom(t.stacks[at] ?? [], here, (cost) => percentOf(cost, rule.off, t.mode));
    wanted -= here;
  }
  return out;
}

function giveFrom(own: readonly Pieces[], count: number, off: (cost: Minor) => Minor): readonly Pieces[] {
  let wanted = count;
  return own.flatMap((p): Pieces[] => {
    const here = p.got ? 0 : Math.min(wanted, p.quantity);
    if (here === 0) return [p];
    wanted -= here;
    const kept = p.quantity - here;
    const [stays = zero, given = zero] = allocate(p.left, [kept, here]);
    const got: Pieces = { quantity: here, left: subtract(given, off(given)), got: true };
    return kept > 0 ? [{ quantity: kept, left: stays, got: false }, got] : [got];
  });
}

function scopeWords(scope: DiscountRule['scope']): string {
  if (scope.to === 'all') return 'everything';
  if (scope.to === 'categories') return scope.categories.join(', ');
  return scope.goods.length === 1 ? 'one product' : `${scope.goods.length} products`;
}

/** What a rule gives, in words for whoever looks at the sum. */
export function discountWords(rule: DiscountRule, money: (amount: Minor) => string): string {
  const what = scopeWords(rule.scope);
  const but = rule.scope.notOnOffer ? ', but what is on offer' : '';
  const least = rule.leastAmount !== null ? ` from ${money(rule.leastAmount)}` : '';
  const pieces = rule.leastPieces !== null ? ` from ${piecesText(rule.leastPieces)}` : '';
  const gives = {
    percent: `${rule.percent} % off ${what}`,
    amount: `${money(rule.amount)} off ${what}`,
    shipping: 'free shipping',
    price: `${what} at ${money(rule.amount)} each`,
    'buy-get': `buy ${rule.buy}, get ${rule.get} ${rule.off === 100 ? 'free' : `at ${rule.off} % off`}, the cheapest, of ${what}`,
  }[rule.kind];
  return `${gives}${but}${least}${pieces}`;
}

const piecesText = (n: number): string => (n === 1 ? '1 piece' : `${n} pieces`);
