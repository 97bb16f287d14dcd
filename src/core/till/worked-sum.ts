import type { ShippingKind } from './goes';
import { formatMoney } from '../money/format';
import { add, type Minor, minor, subtract, sum, times, zero } from '../money/minor';
import type { BasketLine, Buyer } from './basket';
import { type Applied, discountWords, type NotApplied, refusal, takeOff } from './discounts';
import { nowhere } from './place';
import { type DiscountRule, noRules, type TillRules } from './rules';
import { expected, type NoWay, type Offered, toSend, waysTo } from './shipping';
import { taxOf, type TaxedPart, type TaxRow } from './tax';

export type { BasketLine, Buyer } from './basket';

export interface WorkedLine extends BasketLine {
  /** Price times pieces. */
  readonly amount: Minor;
  /** What discounts take off it. */
  readonly discount?: Minor;
  readonly tax?: Minor;
  readonly net?: Minor;
  readonly percent?: number;
}

/** One step of the sum: what it is, the rule behind it, and the figure. */
export interface Step {
  readonly what: string;
  readonly rule: string;
  readonly amount: Minor;
  readonly kind?: 'goods' | 'discount' | 'shipping' | 'abroad' | 'tax' | 'included' | 'voucher';
  /** The rule's id, or the code of a voucher. */
  readonly id?: string;
  /** Of tax. */
  readonly percent?: number;
}

export interface WayView {
  readonly id: string;
  readonly name: string;
  readonly kind: ShippingKind;
  readonly region: string;
  /** What it costs this buyer. */
  readonly price: Minor;
  readonly rule: string;
  readonly hint: string;
  readonly days: { readonly from: string; readonly to: string } | null;
  readonly band: number | null;
  readonly measure: number;
  /** What is missing until it costs nothing; null where it never does, or does already. */
  readonly untilFree?: Minor | null;
}

/** Amounts of the document by their terms in EN 16931. */
export interface Totals {
  /** BT-106: lines without tax, after their discounts. */
  readonly lines: Minor;
  /** BT-108: shipping without tax. */
  readonly charges: Minor;
  /** BT-109. */
  readonly withoutTax: Minor;
  /** BT-110. */
  readonly tax: Minor;
  /** BT-112. */
  readonly withTax: Minor;
  /** BT-113: vouchers. */
  readonly paid: Minor;
  /** BT-115. */
  readonly due: Minor;
}

export interface WorkedSum {
  readonly currency: string;
  readonly lines: readonly WorkedLine[];
  readonly steps: readonly Step[];
  /** To pay, after vouchers. */
  readonly total: Minor;
  readonly pieces: number;
  readonly ways?: readonly WayView[];
  /** The way that is counted with; '' where nothing is sent, or nobody has said where to. */
  readonly way?: string;
  /** Why nothing can be sent there. */
  readonly noWay?: NoWay | null;
  readonly codes?: readonly { readonly code: string; readonly status: 'applied' | 'voucher' | NotApplied }[];
  readonly taxes?: readonly TaxRow[];
  /** What shipping costs with its tax, after tax at home was taken off. */
  readonly shippingGross?: Minor;
  readonly totals?: Totals;
  readonly grams?: number;
}

export interface Asked {
  readonly currency: string;
  readonly lines: readonly BasketLine[];
  readonly rules?: TillRules;
  readonly buyer?: Partial<Buyer>;
  /** For amounts inside rules. */
  readonly locale?: string;
}

const nobody: Buyer = {
  place: nowhere,
  way: '',
  codes: [],
  vouchers: [],
  wall: '2000-01-01T00:00',
  uses: {},
};

/**
 * The one worked sum: checkout, cart, order, "Try a cart" and the command line all call this. Line prices, automatic discounts,
 * codes, shipping, tax, vouchers, to pay: each a step with its rule. Exact in minor units; the order of lines changes nothing.
 * @throws AmountError when an amount would no longer be exact.
 */
export function workOut({
  currency,
  lines,
  rules = noRules,
  buyer: given = {},
  locale = 'en',
}: Asked): WorkedSum {
  const buyer = { ...nobody, ...given };
  const money = (amount: Minor) => formatMoney({ amount, currency }, locale);
  const { fitting, codes } = rulesFor(rules, lines, buyer);
  // Those that go together are one choice; each that stands alone is another. The choice that leaves least to pay is taken.
  const finished = (chosen: readonly DiscountRule[], whole: boolean) =>
    finish({
      currency,
      lines,
      rules,
      buyer,
      money,
      whole,
      applied: takeOff(chosen, lines, rules.tax.rounding),
    });
  // Only what makes shipping dearer, tax on it included, can make the whole dearer: mostly nothing has to be weighed.
  const charged = (chosen: readonly DiscountRule[]) => finished(chosen, false).shippingGross ?? 0;
  const mayHarm = (chosen: readonly DiscountRule[]) => chosen.length > 0 && charged(chosen) > charged([]);
  const weigh = (chosen: readonly DiscountRule[]) => beforeVouchers(finished(chosen, false));
  const together = fitting.filter((r) => r.combines);
  const kind = mayHarm(together) ? withoutHarm(together, weigh) : together;
  const choices = [kind, ...fitting.filter((r) => !r.combines).map((r) => [r])];
  const weighed = choices.length > 1 ? choices.map((chosen) => ({ chosen, left: weigh(chosen) })) : [];
  const best = weighed.reduce<(typeof weighed)[number] | undefined>(
    (a, b) => (a && a.left <= b.left ? a : b),
    undefined,
  );
  const sum = finished(best?.chosen ?? choices[0] ?? [], true);
  const taken = new Set(sum.steps.flatMap((s) => (s.kind === 'discount' ? [s.id] : [])));
  const statusOf = (code: string): 'applied' | 'voucher' | NotApplied => {
    const found = codes.find((c) => c.code === code);
    if (!found?.rule) return buyer.vouchers.some((v) => sameCode(v.code, code)) ? 'voucher' : 'unknown';
    if (taken.has(found.rule.id)) return 'applied';
    if (found.refused) return found.refused;
    return together.includes(found.rule) && !kind.includes(found.rule) ? 'dearer' : 'saves-less';
  };
  return { ...sum, codes: buyer.codes.map((code) => ({ code, status: statusOf(code) })) };
}

type Weigh = (chosen: readonly DiscountRule[]) => number;

/** Up to so many discounts every way to leave some of them out is weighed: 256 sums at most. */
const WEIGHED_WHOLE = 8;

/**
 * Discounts that go together, without those that would make the whole dearer: what takes the goods under the line from which shipping
 * is free may cost more than it takes off. The choice that leaves least to pay is taken, of equal ones that with most discounts. Two may
 * do harm together that neither mends by going alone, so all choices are weighed; of very many those that are met by leaving out, or
 * taking in, what helps most first.
 */
function withoutHarm(together: readonly DiscountRule[], weigh: Weigh): readonly DiscountRule[] {
  const choices =
    together.length <= WEIGHED_WHOLE
      ? subsetsOf(together)
      : [...fewerAndFewer(together, weigh), ...moreAndMore(together, weigh)];
  const weighed = choices.map((chosen) => ({ chosen, left: weigh(chosen) }));
  const best = weighed.reduce((a, b) =>
    b.left < a.left || (b.left === a.left && b.chosen.length > a.chosen.length) ? b : a,
  );
  return best.chosen;
}

const subsetsOf = (rules: readonly DiscountRule[]): DiscountRule[][] =>
  Array.from({ length: 2 ** rules.length }, (_, n) => rules.filter((_, i) => n & (1 << i)));

function fewerAndFewer(together: readonly DiscountRule[], weigh: Weigh): (readonly DiscountRule[])[] {
  const met = [together];
  for (let chosen = together; chosen.length > 0; met.push(chosen))
    chosen = lightest(
      chosen.map((r) => chosen.filter((x) => x !== r)),
      weigh,
    );
  return met;
}

function moreAndMore(together: readonly DiscountRule[], weigh: Weigh): (readonly DiscountRule[])[] {
  const met: (readonly DiscountRule[])[] = [];
  for (let chosen: readonly DiscountRule[] = []; chosen.length < together.length; met.push(chosen)) {
    const taken = new Set(chosen);
    chosen = lightest(
      together.filter((r) => !taken.has(r)).map((r) => together.filter((x) => x === r || taken.has(x))),
      weigh,
    );
  }
  return met;
}

const lightest = (choices: readonly (readonly DiscountRule[])[], weigh: Weigh): readonly DiscountRule[] =>
  choices.map((chosen) => ({ chosen, left: weigh(chosen) })).reduce((a, b) => (b.left < a.left ? b : a))
    .chosen;

const beforeVouchers = (s: WorkedSum): number => s.totals?.withTax ?? s.total;
const sameCode = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** Rules that fit, the automatic ones first, then codes as they were typed; and what became of each code. */
function rulesFor(
  rules: TillRules,
  lines: readonly BasketLine[],
  buyer: Buyer,
): {
  fitting: DiscountRule[];
  codes: { code: string; rule: DiscountRule | undefined; refused: NotApplied | undefined }[];
} {
  const active = rules.discounts.filter((d) => d.active);
  const codes = buyer.codes.map((code) => {
    const rule = active.find((d) => d.code && sameCode(d.code, code));
    return { code, rule, refused: rule ? refusal(rule, lines, buyer) : undefined };
  });
  const typed = codes.flatMap((c) => (c.rule && !c.refused ? [c.rule] : []));
  return {
    fitting: [
      ...active.filter((d) => !d.code && !refusal(d, lines, buyer)),
      ...typed.filter((r, n) => typed.indexOf(r) === n),
    ],
    codes,
  };
}

interface Working {
  readonly currency: string;
  readonly lines: readonly BasketLine[];
  readonly rules: TillRules;
  readonly buyer: Buyer;
  readonly money: (amount: Minor) => string;
  readonly applied: readonly Applied[];
  /** With its lines; without, only what choices are weighed by. */
  readonly whole: boolean;
}

function finish(w: Working): WorkedSum {
  const { lines, applied, rules } = w;
  const amounts = lines.map((l) => times(l.unit, l.quantity));
  const discounts = lines.map((_, n) => sum(applied.map((a) => a.shares[n] ?? zero)));
  const after = amounts.map((a, n) => subtract(a, discounts[n] ?? zero));
  const goods = sum(amounts);
  const shipping = shippingOf(w, goods, after);
  const taxed = taxOf(rules.tax, lines, after, shipping.cost, w.buyer.place);
  const withTax = sum([...taxed.lines, ...taxed.shipping].map((p) => p.gross));
  const vouchers = spend(w, withTax);
  const paid = sum(vouchers.map((v) => v.amount));
  const tax = sum(taxed.rows.map((r) => r.tax));
  const net = (parts: readonly TaxedPart[]) => sum(parts.map((p) => p.net));
  const pieces = lines.reduce((n, l) => n + l.quantity, 0);
  const total = subtract(withTax, paid);
  return {
    currency: w.currency,
    pieces,
    total,
    lines: !w.whole
      ? []
      : lines.map(
          (l, n): WorkedLine => ({
            ...l,
            amount: amounts[n] ?? zero,
            discount: discounts[n] ?? zero,
            tax: taxed.lines[n]?.tax ?? zero,
            net: taxed.lines[n]?.net ?? zero,
            percent: taxed.lines[n]?.rate.percent ?? 0,
          }),
        ),
    steps: [
      { kind: 'goods', what: 'Goods', rule: goodsWords(lines, pieces), amount: goods },
      ...applied
        .filter((a) => a.amount > 0 || (a.freeShipping && shipping.freed === a.rule.id))
        .map(
          (a): Step => ({
            kind: 'discount',
            id: a.rule.id,
            what: a.rule.code ? `${a.rule.name} (${a.rule.code})` : a.rule.name,
            rule: discountWords(a.rule, w.money),
            amount: minor(-a.amount),
          }),
        ),
      ...shipping.steps,
      ...(taxed.takenOff > 0
        ? [
            {
              kind: 'abroad' as const,
              what: 'Tax at home, taken off',
              rule: 'No tax is due where it goes',
              amount: minor(-taxed.takenOff),
            },
          ]
        : []),
      ...taxSteps(rules, taxed.rows, w.money),
      ...vouchers.map(
        (v): Step => ({
          kind: 'voucher',
          id: v.code,
          what: `Gift voucher ${v.code}`,
          rule: `${w.money(v.balance)} on it, ${w.money(subtract(v.balance, v.amount))} stay`,
          amount: minor(-v.amount),
        }),
      ),
    ],
    ways: shipping.ways,
    way: shipping.way,
    noWay: shipping.noWay,
    taxes: taxed.rows,
    shippingGross: sum(taxed.shipping.map((p) => p.gross)),
    grams: lines.reduce((n, l) => n + (l.ships ? (l.grams ?? 0) * l.quantity : 0), 0),
    totals: {
      lines: net(taxed.lines),
      charges: net(taxed.shipping),
      withoutTax: add(net(taxed.lines), net(taxed.shipping)),
      tax,
      withTax,
      paid,
      due: total,
    },
  };
}

const goodsWords = (lines: readonly BasketLine[], pieces: number): string =>
  `${lines.length === 1 ? '1 line' : `${lines.length} lines`}, each price times its pieces (${pieces})`;

/** Tax that is added is a step of its own; tax that prices hold is told, and adds nothing. */
function taxSteps(rules: TillRules, rows: readonly TaxRow[], money: (amount: Minor) => string): Step[] {
  return rows
    .filter((r) => r.percent > 0)
    .map((r): Step => {
      const of = rules.tax.included
        ? `within ${money(add(r.taxable, r.tax))}: \u00d7 ${r.percent} \u00f7 ${100 + r.percent}`
        : `on ${money(r.taxable)}`;
      return {
        percent: r.percent,
        kind: rules.tax.included ? 'included' : 'tax',
        what: `Tax ${r.percent} %${rules.tax.included ? ', included' : ''}`,
        rule: `${of}${r.where ? `, ${r.where}` : ''}`,
        amount: r.tax,
      };
    });
}

function shippingOf(
  w: Working,
  goods: Minor,
  after: readonly Minor[],
): { cost: Minor; steps: Step[]; ways: WayView[]; way: string; noWay: NoWay | null; freed: string } {
  const { rules, lines, buyer, applied } = w;
  const none = { cost: zero, steps: [], ways: [], way: '', noWay: null, freed: '' };
  if (toSend(lines).length === 0 || !buyer.place.country || rules.shipping.regions.length === 0) return none;
  const offered = waysTo(
    rules.shipping,
    lines,
    after,
    rules.shipping.freeBy === 'before' ? goods : sum(after),
    buyer.place,
    w,
  );
  if (typeof offered === 'string') return { ...none, noWay: offered };
  // Free shipping by a rule is for what is brought; collecting costs what it costs.
  const freeing = applied.find((a) => a.freeShipping)?.rule;
  const costs = (o: Offered): Minor => (o.free || (freeing && o.way.kind !== 'collect') ? zero : o.price);
  const ways = offered.map(
    (o): WayView => ({
      id: o.way.id,
      name: o.way.name,
      kind: o.way.kind,
      region: o.region.name,
      price: costs(o),
      hint: o.way.hint,
      band: o.band,
      measure: o.measure,
      untilFree: costs(o) > 0 ? o.untilFree : null,
      days: expected(rules.shipping, o.way, buyer.wall.slice(0, 10)) ?? null,
      rule:
        freeing && !o.free && o.way.kind !== 'collect' && o.price > 0
          ? `${o.rule}: ${w.money(o.price)} \u2192 free by ${freeing.name}`
          : o.rule,
    }),
  );
  const chosen = ways.find((x) => x.id === buyer.way) ?? ways[0];
  if (!chosen) return none;
  const before = offered.find((o) => o.way.id === chosen.id);
  return {
    cost: chosen.price,
    ways,
    way: chosen.id,
    noWay: null,
    freed:
      freeing && before && !before.free && before.price > 0 && chosen.kind !== 'collect' ? freeing.id : '',
    steps: [
      {
        kind: 'shipping',
        id: chosen.id,
        what: `Shipping: ${chosen.name}`,
        rule: chosen.rule,
        amount: chosen.price,
      },
    ],
  };
}

/** Vouchers are spent in the order they were typed, each as far as it goes. */
function spend({ buyer }: Working, due: Minor): { code: string; balance: Minor; amount: Minor }[] {
  let left = due;
  return buyer.vouchers.flatMap((v) => {
    const amount = minor(Math.min(v.balance, left));
    if (amount <= 0) return [];
    left = subtract(left, amount);
    return [{ code: v.code, balance: v.balance, amount }];
  });
}

/** Lines that ask for more than there is. */
export const shortLines = (lines: readonly BasketLine[]): BasketLine[] =>
  lines.filter((l) => l.available !== null && l.quantity > l.available);
