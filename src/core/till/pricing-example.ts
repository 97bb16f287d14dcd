import { type Minor, minor } from '../money/minor';
import type { BasketLine } from './basket';
import { taxClasses } from '../goods/choices';
import { tillRules } from './rules';
import type { Asked } from './worked-sum';

/**
 * Reads the examples of docs/pricing.md: "2 at 9.00, class zero; tax included: GB 20; to GB → pay 18.00". Only tests use it. It is
 * strict: a clause that it does not know is an error, so that no example says more than is worked out.
 */
export interface Example {
  readonly clauses: readonly string[];
  readonly results: readonly string[];
}

export function splitExample(text: string): Example {
  const [left, right, ...more] = text.split('→').map((part) => part.trim());
  if (!left || !right || more.length > 0) throw new Error(`an example has one arrow: ${text}`);
  return { clauses: left.split(';').map((c) => c.trim()), results: right.split(', ').map((r) => r.trim()) };
}

/** "9.99" as minor units of a currency with two digits. */
export function cents(text: string): Minor {
  const m = /^(-?)(\d+)\.(\d\d)$/.exec(text);
  if (!m) throw new Error(`not an amount: ${text}`);
  return minor(Number(`${m[1]}${m[2]}${m[3]}`));
}

type Loose = Record<string, unknown>;
interface Draft {
  readonly lines: BasketLine[];
  readonly tax: Loose;
  readonly regions: Loose[];
  readonly shipping: Loose;
  readonly discounts: Loose[];
  readonly place: { country: string; state: string; postcode: string };
  readonly codes: string[];
  readonly vouchers: { code: string; balance: Minor }[];
  readonly uses: Record<string, { all: number; own: number }>;
  way: string;
  wall: string;
  again: boolean;
}

/** The basket, the rules and the buyer that clauses describe. */
export function basketOfExample(clauses: readonly string[]): Asked {
  const draft: Draft = {
    lines: [],
    tax: { charged: false },
    regions: [],
    shipping: {},
    discounts: [],
    place: { country: '', state: '', postcode: '' },
    codes: [],
    vouchers: [],
    uses: {},
    way: '',
    wall: '2026-01-01T00:00',
    again: false,
  };
  for (const clause of clauses) readClause(draft, clause);
  const { lines, tax, regions, shipping, discounts, again, ...buyer } = draft;
  return {
    currency: 'EUR',
    lines,
    buyer: { ...buyer, codes: [...buyer.codes] },
    rules: tillRules.parse({
      tax,
      shipping: { ...shipping, regions },
      discounts: again ? [] : discounts,
    }),
  };
}

/** A form of clause, and what it puts into the draft. */
type Clause = readonly [
  form: RegExp,
  read: (draft: Draft, m: readonly string[], more: readonly string[]) => void,
];

const clauseForms: readonly Clause[] = [
  [
    /^(\d+) at (\S+)$/,
    (d, [, n, price], more) => d.lines.push(lineOf(d, Number(n), cents(price ?? ''), more)),
  ],
  [
    /^tax (included|added): (.+)$/,
    (d, [, how, first], more) => readTax(d, how === 'included', [first ?? '', ...more]),
  ],
  [
    /^(goods|downloads) taxed at (buyer|seller)$/,
    (d, [, what, at]) => {
      d.tax[what === 'goods' ? 'goodsBy' : 'digitalBy'] = at;
    },
  ],
  [
    /^tax off abroad$/,
    (d) => {
      d.tax.abroad = 'net';
    },
  ],
  [
    /^shipping tax: (\w+)$/,
    (d, [, how]) => {
      d.tax.shipping = how;
    },
  ],
  [
    /^round (half-up|half-even|down)$/,
    (d, [, mode]) => {
      d.tax.rounding = mode;
    },
  ],
  [
    /^round by line$/,
    (d) => {
      d.tax.roundAt = 'line';
    },
  ],
  [
    /^free line before discounts$/,
    (d) => {
      d.shipping.freeBy = 'before';
    },
  ],
  [
    /^(ship to|bring to|collect in) (\S+?)(?: (\S+?))?(?: by (weight|value|pieces))?: (.+)$/,
    (d, m, more) => readShipping(d, m, more),
  ],
  [/^(discount|set price|buy|free shipping)\b ?(.*)$/, (d, m, more) => readDiscount(d, m, more)],
  [
    /^to ([A-Z]{2})(?:-(\w+))?(?: (\S+))?$/,
    (d, [, country, state, postcode]) => {
      Object.assign(d.place, { country, state: state ?? '', postcode: postcode ?? '' });
    },
  ],
  [/^typed (\S+)$/, (d, [, code]) => d.codes.push(code ?? '')],
  [
    /^voucher (\S+) (\S+)$/,
    (d, [, code, amount]) => d.vouchers.push({ code: code ?? '', balance: cents(amount ?? '') }),
  ],
  [
    /^(used|own use) (\S+) (\d+)$/,
    (d, [, whose, code, n]) => {
      const id = idOf(d, code ?? '');
      d.uses[id] = { all: Number(n), own: whose === 'own use' ? Number(n) : 0 };
    },
  ],
  [
    /^way (\d+)$/,
    (d, [, n]) => {
      d.way = `way-${n}`;
    },
  ],
  [
    /^clock (\S+)$/,
    (d, [, wall]) => {
      d.wall = wall ?? '';
    },
  ],
  [
    /^again$/,
    (d) => {
      d.again = true;
    },
  ],
];

function readClause(draft: Draft, clause: string): void {
  const [head = '', ...more] = clause.split(', ');
  for (const [form, read] of clauseForms) {
    const m = form.exec(head);
    if (m) return void read(draft, m, more);
  }
  throw new Error(`no such clause: ${clause}`);
}

function lineOf(d: Draft, quantity: number, unit: Minor, words: readonly string[]): BasketLine {
  const base: BasketLine = {
    id: `line-${String(d.lines.length + 1).padStart(3, '0')}`,
    goodsId: '',
    variantId: '',
    slug: '',
    name: 'Thing',
    particulars: [],
    available: null,
    ships: true,
    unit,
    quantity,
  };
  return Object.assign(base, ...words.map(lineWord));
}

function lineWord(word: string): Partial<BasketLine> {
  if (word === 'download') return { ships: false, digital: true };
  if (word === 'service') return { ships: false };
  if (word === 'gift voucher') return { ships: false, taxClass: 'zero', voucher: { months: null } };
  if (word === 'on offer') return { onOffer: true };
  const [, what, value = ''] = /^(class|is|in) (.+)$/.exec(word) ?? [];
  if (what === 'is') return { goodsId: value };
  if (what === 'in') return { categories: [value] };
  const taxClass = what === 'class' ? taxClasses.find((c) => c === value) : undefined;
  if (taxClass) return { taxClass };
  const grams = /^(\d+) g$/.exec(word)?.[1];
  if (grams) return { grams: Number(grams) };
  throw new Error(`no such word of a line: ${word}`);
}

function readTax(d: Draft, included: boolean, rates: readonly string[]): void {
  const read = rates.map((text) => {
    const m = /^([A-Z]{2}|\*)(?:-(\w+))?(?: ([a-z]+))? ([\d.]+)$/.exec(text);
    if (!m) throw new Error(`no rate: ${text}`);
    return { country: m[1] ?? '', state: m[2] ?? '', class: m[3] ?? 'standard', percent: Number(m[4]) };
  });
  Object.assign(d.tax, { charged: true, included, rates: read, home: { country: read[0]?.country } });
}

const kindsOfWay: Readonly<Record<string, string>> = {
  'ship to': 'post',
  'bring to': 'local',
  'collect in': 'collect',
};

function readShipping(d: Draft, m: readonly string[], more: readonly string[]): void {
  const [, how = '', country, postcode, by = 'flat', first = ''] = m;
  const n = d.regions.length + 1;
  const way: Loose = { id: `way-${n}`, name: `Way ${n}`, kind: kindsOfWay[how], by };
  const parts = [first, ...more].map((word) => shippingWord(word, by));
  const bands = parts.flatMap((p) => p.band ?? []);
  const own = parts.flatMap((p) => p.own ?? []);
  Object.assign(way, ...parts.map((p) => p.way));
  d.regions.push({
    id: `region-${n}`,
    name: `Region ${n}`,
    areas: [{ country, postcodes: postcode ? [postcode] : [] }],
    ways: [{ ...way, bands, own }],
  });
}

/** One word of a shipping method: a price, a band of a table, or a product with a price of its own. */
function shippingWord(word: string, by: string): { way?: Loose; band?: Loose; own?: Loose } {
  if (/^[\d.]+$/.test(word)) return { way: { base: cents(word) } };
  const [, each] = /^(\S+) a piece$/.exec(word) ?? [];
  if (each) return { way: { each: cents(each) } };
  const [, bandPrice, end] = /^(\d\S*) (?:to (\S+)|beyond)$/.exec(word) ?? [];
  if (bandPrice) {
    const measure = by === 'value' ? cents : Number;
    return { band: { price: cents(bandPrice), upTo: end === undefined ? null : measure(end) } };
  }
  const [, name, price = ''] = /^(free from|base|[a-z]+) (\S+)$/.exec(word) ?? [];
  if (!name) throw new Error(`no such word of shipping: ${word}`);
  if (name === 'free from') return { way: { freeFrom: cents(price) } };
  return name === 'base' ? { way: { base: cents(price) } } : { own: { goodsId: name, each: cents(price) } };
}

function readDiscount(d: Draft, [, kind = '', rest = '']: readonly string[], more: readonly string[]): void {
  const rule: Loose = {
    id: `discount-${d.discounts.length + 1}`,
    name: 'Discount',
    scope: {},
    ...given(kind, rest),
  };
  for (const word of more) Object.assign(rule, discountWord(word, rule.scope as Loose));
  d.discounts.push(rule);
}

function given(kind: string, rest: string): Loose {
  if (kind === 'free shipping' && rest === '') return { kind: 'shipping' };
  if (kind === 'set price') return { kind: 'price', amount: cents(rest) };
  const percent = /^([\d.]+) %$/.exec(rest)?.[1];
  if (kind === 'discount' && percent) return { kind: 'percent', percent: Number(percent) };
  if (kind === 'discount') return { kind: 'amount', amount: cents(rest) };
  const m = /^(\d+) get (\d+)(?: at ([\d.]+) %)?$/.exec(rest);
  if (kind !== 'buy' || !m) throw new Error(`no such discount: ${kind} ${rest}`);
  return { kind: 'buy-get', buy: Number(m[1]), get: Number(m[2]), off: Number(m[3] ?? 100) };
}

function discountWord(word: string, scope: Loose): Loose {
  if (word === 'alone') return { combines: false };
  if (word === 'not on offer') return { scope: { ...scope, notOnOffer: true } };
  const pieces = /^from (\d+) pieces?$/.exec(word)?.[1];
  if (pieces) return { leastPieces: Number(pieces) };
  const each = /^limit (\d+) each$/.exec(word)?.[1];
  if (each) return { limitEach: Number(each) };
  const [, what, value = ''] = /^(code|for|in|from|since|until|limit) (.+)$/.exec(word) ?? [];
  switch (what) {
    case 'code':
      return { code: value };
    case 'for':
      return { scope: { ...scope, to: 'goods', goods: [value] } };
    case 'in':
      return { scope: { ...scope, to: 'categories', categories: [value] } };
    case 'from':
      return { leastAmount: cents(value) };
    case 'since':
      return { from: value };
    case 'until':
      return { until: value };
    case 'limit':
      return { limit: Number(value) };
    default:
      throw new Error(`no such word of a discount: ${word}`);
  }
}

function idOf(d: Draft, code: string): string {
  const found = d.discounts.find((x) => x.code === code);
  if (!found) throw new Error(`no discount has the code ${code}`);
  return String(found.id);
}
