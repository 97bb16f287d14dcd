/** What came in, by day and by what it came through. Amounts in minor units, with tax and after discounts. */
export interface SoldLine {
  readonly goodsId: string;
  readonly name: string;
  readonly pieces: number;
  readonly amount: number;
  readonly categories: readonly string[];
  readonly placementId: string | null;
  readonly page: string | null;
}

export interface SoldOrder {
  readonly id: string;
  /** In the shop's time zone, "2026-11-26". */
  readonly day: string;
  readonly lines: readonly SoldLine[];
  readonly shipping: number;
  readonly tax: number;
}

export interface GivenBack {
  readonly day: string;
  readonly amount: number;
}

export interface DayTakings {
  readonly day: string;
  readonly orders: number;
  readonly pieces: number;
  readonly goods: number;
  readonly shipping: number;
  readonly tax: number;
  readonly refunded: number;
  /** Goods and shipping, less what was given back. */
  readonly total: number;
}

export interface Share {
  readonly key: string;
  readonly name: string;
  readonly orders: number;
  readonly pieces: number;
  readonly amount: number;
}

export const takingsBy = ['products', 'categories', 'pages', 'placements'] as const;
export type TakingsBy = (typeof takingsBy)[number];

export interface Takings extends Readonly<Record<TakingsBy, readonly Share[]>> {
  readonly days: readonly DayTakings[];
  readonly all: Omit<DayTakings, 'day'>;
}

/** Days from one to another, both among them. */
export function daysBetween(from: string, to: string): string[] {
  const out: string[] = [];
  for (
    let at = Date.parse(`${from}T12:00:00Z`);
    at <= Date.parse(`${to}T12:00:00Z`) && out.length < 3_700;
    at += 86_400_000
  )
    out.push(new Date(at).toISOString().slice(0, 10));
  return out;
}

/** Goods without a category, or sold before a widget was told apart, are gathered under ''. */
const keysOf: Readonly<Record<TakingsBy, (l: SoldLine) => { readonly key: string; readonly name: string }>> =
  {
    products: (l) => ({ key: l.goodsId, name: l.name }),
    // A product in several categories counts in its first, so that the parts come to the whole.
    categories: (l) => ({ key: l.categories[0] ?? '', name: l.categories[0] ?? '' }),
    pages: (l) => ({ key: l.page ?? '', name: l.page ?? '' }),
    placements: (l) => ({ key: l.placementId ?? (l.page ? `page ${l.page}` : ''), name: '' }),
  };

/** Adds up what was sold. Every day of the time has a row, also those on which nothing came in; parts always come to the whole. */
export function takings(
  orders: readonly SoldOrder[],
  given: readonly GivenBack[],
  days: readonly string[],
): Takings {
  const byDay = new Map(
    days.map((day) => [
      day,
      { day, orders: 0, pieces: 0, goods: 0, shipping: 0, tax: 0, refunded: 0, total: 0 },
    ]),
  );
  for (const o of orders) {
    const d = byDay.get(o.day);
    if (!d) continue;
    const goods = o.lines.reduce((n, l) => n + l.amount, 0);
    Object.assign(d, {
      orders: d.orders + 1,
      pieces: d.pieces + o.lines.reduce((n, l) => n + l.pieces, 0),
      goods: d.goods + goods,
      shipping: d.shipping + o.shipping,
      tax: d.tax + o.tax,
      total: d.total + goods + o.shipping,
    });
  }
  for (const g of given) {
    const d = byDay.get(g.day);
    if (d) Object.assign(d, { refunded: d.refunded + g.amount, total: d.total - g.amount });
  }
  const rows = [...byDay.values()];
  const counted = orders.filter((o) => byDay.has(o.day));
  const all = rows.reduce(
    (a, d) => ({
      orders: a.orders + d.orders,
      pieces: a.pieces + d.pieces,
      goods: a.goods + d.goods,
      shipping: a.shipping + d.shipping,
      tax: a.tax + d.tax,
      refunded: a.refunded + d.refunded,
      total: a.total + d.total,
    }),
    { orders: 0, pieces: 0, goods: 0, shipping: 0, tax: 0, refunded: 0, total: 0 },
  );
  return {
    days: rows,
    all,
    products: shares(counted, keysOf.products),
    categories: shares(counted, keysOf.categories),
    pages: shares(counted, keysOf.pages),
    placements: shares(counted, keysOf.placements),
  };
}

function shares(
  orders: readonly SoldOrder[],
  of: (l: SoldLine) => { readonly key: string; readonly name: string },
): Share[] {
  const out = new Map<
    string,
    { key: string; name: string; orders: Set<string>; pieces: number; amount: number }
  >();
  for (const o of orders) {
    for (const l of o.lines) {
      const { key, name } = of(l);
      const share = out.get(key) ?? { key, name, orders: new Set<string>(), pieces: 0, amount: 0 };
      share.orders.add(o.id);
      share.pieces += l.pieces;
      share.amount += l.amount;
      out.set(key, share);
    }
  }
  return [...out.values()]
    .map((s) => ({ ...s, orders: s.orders.size }))
    .sort((a, b) => b.amount - a.amount || a.key.localeCompare(b.key));
}
