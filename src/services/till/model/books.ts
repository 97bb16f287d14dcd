import {
  discountUses,
  documents,
  orderEvents,
  orders,
  payments,
  refunds,
  reservations,
  stockMovements,
  variants,
  vouchers,
  voucherUses,
} from '../../../data/schema';
import { readRules } from '../../rules/rules';
import type { Stage } from './stage';

/**
 * What must hold after every step, told from the database and the provider's own ledger alone. Each law is one function that
 * returns what is wrong, in words.
 */
export async function faultsIn(stage: Stage): Promise<string[]> {
  const books = await readBooks(stage);
  return laws.flatMap((law) => law(books, stage));
}

type Rows<T extends { readonly $inferSelect: unknown }> = readonly T['$inferSelect'][];
interface Books {
  readonly orders: Rows<typeof orders>;
  readonly payments: Rows<typeof payments>;
  readonly refunds: Rows<typeof refunds>;
  readonly documents: Rows<typeof documents>;
  readonly vouchers: Rows<typeof vouchers>;
  readonly uses: Rows<typeof voucherUses>;
  readonly codes: Rows<typeof discountUses>;
  readonly holds: Rows<typeof reservations>;
  readonly moved: Rows<typeof stockMovements>;
  readonly variants: Rows<typeof variants>;
  readonly accepted: ReadonlySet<string>;
  readonly limits: ReadonlyMap<string, number>;
  readonly now: number;
}

async function readBooks(stage: Stage): Promise<Books> {
  const { db } = stage.ctx.store;
  const events = await db.select().from(orderEvents);
  const rules = await readRules(db, stage.template.siteId);
  const books: Books = {
    orders: await db.select().from(orders),
    payments: await db.select().from(payments),
    refunds: await db.select().from(refunds),
    documents: await db.select().from(documents),
    vouchers: await db.select().from(vouchers),
    uses: await db.select().from(voucherUses),
    codes: await db.select().from(discountUses),
    holds: await db.select().from(reservations),
    moved: await db.select().from(stockMovements),
    variants: await db.select().from(variants),
    accepted: new Set(events.filter((e) => e.what === 'Accepted').map((e) => e.orderId)),
    limits: new Map(rules.discounts.flatMap((d) => (d.limit === null ? [] : [[d.id, d.limit]]))),
    now: stage.clock.ms,
  };
  if (stage.stockAtFirst.size === 0)
    for (const v of books.variants) {
      const since = sum(books.moved.filter((m) => m.variantId === v.id).map((m) => m.delta));
      if (v.stock !== null) stage.stockAtFirst.set(v.id, v.stock - since);
    }
  return books;
}

const sum = (amounts: readonly number[]): number => amounts.reduce((a, b) => a + b, 0);
const usedOf = (b: Books, orderId: string): number =>
  sum(b.uses.filter((u) => u.orderId === orderId && u.state === 'used').map((u) => u.amount));

type Law = (books: Books, stage: Stage) => string[];

/** Every penny that came, and that the shop was told of, pays for one order or is surplus; none pays twice, none is made up. */
const money: Law = (b, stage) =>
  b.payments.flatMap((p) => {
    if (!p.provider) return [];
    const there = stage.provider.payments.get(p.id);
    const came = ['paid', 'surplus', 'returning', 'returned'].includes(p.state);
    const out: string[] = [];
    if (came && there?.state !== 'approved') out.push(`payment ${p.id} is ${p.state}, and no money came`);
    if (came && there && there.taken !== p.amount)
      out.push(`payment ${p.id}: ${there.taken} came, ${p.amount} is in the books`);
    if (!came && stage.deliveredNotices.has(p.id))
      out.push(`money of payment ${p.id} came and is nowhere (${p.state})`);
    return out;
  });

/** An order is paid by exactly one payment of its total; one that is not paid has none. */
const paidOnce: Law = (b) =>
  b.orders.flatMap((o) => {
    const own = b.payments.filter((p) => p.orderId === o.id && p.state === 'paid');
    if (o.paidAt === null)
      return own.length ? [`order ${o.id} is ${o.state} and has a payment that pays for it`] : [];
    if (own.length !== 1) return [`order ${o.number} is paid by ${own.length} payments`];
    return own[0]?.amount === o.total
      ? []
      : [`order ${o.number} costs ${o.total}, ${own[0]?.amount} paid for it`];
  });

/** Money that nobody wanted, and what lacks something, stands where the owner looks. */
const flagged: Law = (b) =>
  b.orders.flatMap((o) => {
    const surplus = b.payments.some((p) => p.orderId === o.id && p.state === 'surplus');
    if (surplus && !o.short) return [`order ${o.id} has money it did not want, and nobody is told`];
    return o.lacks && !o.short ? [`order ${o.id} lacks something, and nobody is told`] : [];
  });

/** What the shop says that went back went back, and nothing else. */
const refunded: Law = (b, stage) =>
  b.payments.flatMap((p) => {
    const there = stage.provider.payments.get(p.id);
    if (!there) return [];
    const own = b.refunds.filter((r) => r.paymentId === p.id);
    const of = (state: string) =>
      sum(own.filter((r) => r.state === state).map((r) => r.amount - r.toVouchers));
    const whole = p.state === 'returned' ? p.amount : 0;
    const least = of('done') + whole;
    const most = least + of('asked') + (p.state === 'returning' ? p.amount : 0);
    return there.refunded < least || there.refunded > most
      ? [`payment ${p.id}: ${there.refunded} went back, the books say ${least} to ${most}`]
      : [];
  });

/** The provider is asked to refund what it knows. */
const refundsNamed: Law = (_, stage) =>
  [...stage.provider.refunds].flatMap(([reference, { payment }]) =>
    payment ? [] : [`refund ${reference} names no payment that the provider knows`],
  );

/** No more goes back than was paid, and the order knows how much. */
const backWithin: Law = (b) =>
  b.orders.flatMap((o) => {
    const back = sum(
      b.refunds.filter((r) => r.orderId === o.id && r.state !== 'failed').map((r) => r.amount),
    );
    const paid = o.paidAt === null ? 0 : o.total + (o.worked.totals?.paid ?? 0);
    if (back > paid) return [`order ${o.id}: ${paid} was paid and ${back} goes back`];
    return back === o.refunded ? [] : [`order ${o.id}: ${back} goes back, ${o.refunded} is written`];
  });

/** Vouchers: never more spent than they ever held, nor anything spent that was not there at the time. */
const vouchersHold: Law = (b, stage) =>
  b.vouchers.flatMap((v) => {
    const own = b.uses.filter((u) => u.voucherId === v.id);
    const spent = sum(own.filter((u) => u.state === 'used').map((u) => u.amount));
    const held = sum(
      own.filter((u) => u.state === 'held' && u.expiresAt.getTime() > b.now).map((u) => u.amount),
    );
    const first = stage.issued.get(v.id) ?? v.amount;
    stage.issued.set(v.id, first);
    const before = stage.spent.get(v.id) ?? 0;
    stage.spent.set(v.id, spent);
    const out: string[] = [];
    if (spent > first) out.push(`voucher ${v.code}: ${spent} spent of ${first}`);
    if (spent > before && spent > v.amount)
      out.push(`voucher ${v.code}: ${spent} spent, ${v.amount} was on it`);
    if (held > 0 && spent + held > first) out.push(`voucher ${v.code}: ${spent + held} promised of ${first}`);
    return out;
  });

/** What an order took off by vouchers was truly spent. */
const vouchersPaid: Law = (b) =>
  b.orders.flatMap((o) => {
    if (o.paidAt === null) return [];
    const back = sum(
      b.refunds.filter((r) => r.orderId === o.id && r.state === 'done').map((r) => r.toVouchers),
    );
    const spent = usedOf(b, o.id) + back;
    const recorded = o.worked.totals?.paid ?? 0;
    return spent === recorded ? [] : [`order ${o.number}: ${recorded} by voucher, ${spent} was spent`];
  });

const totalOf = (o: Books['orders'][number]): number => o.worked.totals?.withTax ?? o.total;

/** Nothing of worth is handed out for what was not paid, unless the owner accepted it so. */
const handedOut: Law = (b, stage) =>
  b.orders.flatMap((o) => {
    const gifts = b.vouchers.filter((v) => v.orderId === o.id);
    const worth = sum(gifts.map((v) => stage.issued.get(v.id) ?? v.amount));
    const bought = sum(o.worked.lines.filter((l) => l.voucher).map((l) => l.amount));
    const [first, ...more] = b.documents.filter((d) => d.orderId === o.id && d.series === 'invoice');
    const open = o.lacks || o.paidAt === null;
    return [
      ...when(more.length > 0, `order ${o.id} has more than one invoice`),
      ...when(
        open && (first !== undefined || gifts.length > 0),
        `order ${o.id} has papers or vouchers before it is paid or accepted`,
      ),
      ...when(o.state === 'paid' && !o.lacks && !first, `order ${o.number} has no invoice`),
      ...(first ? invoiceFaults(b, o, first.content.totals.due ?? 0) : []),
      ...when(gifts.length > 0 && worth !== bought, `order ${o.number}: vouchers of ${worth} for ${bought}`),
    ];
  });

const when = (broken: boolean, fault: string): string[] => (broken ? [fault] : []);

/** @param due what the invoice says is still to be paid. */
function invoiceFaults(b: Books, o: Books['orders'][number], due: number): string[] {
  const covered = o.total + (o.worked.totals?.paid ?? 0);
  const missing = totalOf(o) - covered;
  return [
    ...when(
      missing > 0 && !b.accepted.has(o.id),
      `order ${o.number} was handed out for ${covered} of ${totalOf(o)}`,
    ),
    ...when(due !== missing, `the invoice of ${o.number} says ${due} is due, ${missing} did not come`),
  ];
}

/** A voucher whose money went back is worth as much less. */
const giftsShrink: Law = (b) =>
  b.orders.flatMap((o) => {
    const live = b.vouchers.filter(
      (v) => v.orderId === o.id && (v.expiresAt === null || v.expiresAt.getTime() > b.now),
    );
    const back = sum(b.refunds.filter((r) => r.orderId === o.id && r.state === 'done').map((r) => r.amount));
    const worth = sum(live.map((v) => v.amount));
    return worth > 0 && worth > totalOf(o) - back
      ? [`order ${o.number}: ${back} of ${totalOf(o)} went back, its vouchers still hold ${worth}`]
      : [];
  });

/** Codes with a limit: never used more often, and whoever was beyond it is told. */
const codesHold: Law = (b) => [
  ...[...b.limits].flatMap(([rule, limit]) => {
    const own = b.codes.filter((c) => c.ruleId === rule);
    const used = own.filter((c) => c.state === 'used').length;
    const held = own.filter((c) => c.state === 'held' && c.expiresAt.getTime() > b.now).length;
    return used > limit || (held > 0 && used + held > limit)
      ? [`code ${rule}: used ${used}, held ${held}, limit ${limit}`]
      : [];
  }),
  ...b.orders.flatMap((o) => {
    if (o.state !== 'paid' || o.lacks || b.accepted.has(o.id)) return [];
    return o.worked.steps.flatMap((s) =>
      s.kind === 'discount' &&
      !b.codes.some((c) => c.orderId === o.id && c.ruleId === s.id && c.state === 'used')
        ? [`order ${o.number} has ${s.id} taken off, and no use of it is counted`]
        : [],
    );
  }),
];

/** Each buyer uses "once each" once. */
const eachOnce: Law = (b) => {
  const used = b.codes.filter((c) => c.ruleId === 'each' && c.state === 'used').map((c) => c.email);
  return used.length === new Set(used).size ? [] : ['"once each" was used twice by one buyer'];
};

/** Counts are what was there at first and what moved since; never below nought; nobody is promised more than there is. */
const pieces: Law = (b, stage) =>
  b.variants.flatMap((v) => {
    if (v.stock === null) return [];
    const own = b.moved.filter((m) => m.variantId === v.id);
    const reckoned = (stage.stockAtFirst.get(v.id) ?? 0) + sum(own.map((m) => m.delta));
    const holds = b.holds.filter((h) => h.variantId === v.id);
    const sold = sum(holds.filter((h) => h.state === 'sold').map((h) => h.quantity));
    const moved = -sum(own.filter((m) => m.reason === 'sold').map((m) => m.delta));
    const held = sum(
      holds.filter((h) => h.state === 'held' && h.expiresAt.getTime() > b.now).map((h) => h.quantity),
    );
    const out: string[] = [];
    if (v.stock < 0) out.push(`${v.stock} pieces on the shelf`);
    if (v.stock !== reckoned) out.push(`${v.stock} pieces on the shelf, the ledger says ${reckoned}`);
    if (sold !== moved) out.push(`${sold} pieces sold, ${moved} left the shelf`);
    if (held > v.stock) out.push(`${held} pieces promised, ${v.stock} there`);
    return out;
  });

/** An order that is paid has its pieces, or its owner is told; what comes back is not more than went. */
const piecesOfOrders: Law = (b) =>
  b.orders.flatMap((o) => {
    const counted = new Set(b.variants.filter((v) => v.stock !== null).map((v) => v.id));
    const moved = b.moved.filter((m) => m.ref === o.id);
    const gone = -sum(moved.filter((m) => m.reason === 'sold').map((m) => m.delta));
    const back = sum(moved.filter((m) => m.reason === 'returned').map((m) => m.delta));
    if (back > gone) return [`order ${o.number}: ${back} pieces came back of ${gone}`];
    if (o.state !== 'paid' || o.short || o.refunded > 0 || b.accepted.has(o.id)) return [];
    const bought = sum(o.worked.lines.filter((l) => counted.has(l.variantId)).map((l) => l.quantity));
    return gone === bought ? [] : [`order ${o.number}: ${bought} pieces bought, ${gone} left the shelf`];
  });

/** Numbers of orders, invoices and credit notes have no gaps and no doubles. */
const numbers: Law = (b) => {
  const gaps = (what: string, all: readonly number[], first: number) => {
    const sorted = [...all].sort((x, y) => x - y);
    return sorted.every((n, at) => n === first + at) ? [] : [`numbers of ${what}: ${sorted.join(', ')}`];
  };
  const series = (name: string) => b.documents.filter((d) => d.series === name).map((d) => d.number);
  return [
    ...gaps(
      'orders',
      b.orders.flatMap((o) => o.number ?? []),
      1001,
    ),
    ...gaps('invoices', series('invoice'), 1),
    ...gaps('credit notes', series('credit'), 1),
  ];
};

const laws: readonly Law[] = [
  money,
  paidOnce,
  flagged,
  refunded,
  refundsNamed,
  backWithin,
  vouchersHold,
  vouchersPaid,
  handedOut,
  giftsShrink,
  codesHold,
  eachOnce,
  pieces,
  piecesOfOrders,
  numbers,
];
