import { and, eq, max, sql } from 'drizzle-orm';
import { formatMoney } from '../../core/money/format';
import { type Minor, minor } from '../../core/money/minor';
import { paperWordsIn } from '../../core/languages/languages';
import { payName } from '../../core/till/pay-kinds';
import { fill, stepWordsIn } from '../../core/languages/languages';
import { creditOf, type Heading, invoiceOf } from '../../core/till/invoice';
import type { TillRules } from '../../core/till/rules';
import type { Tx } from '../../data/database';
import { keep, keepInsert } from '../../data/kept-queries';
import { documents, type orders, type refunds } from '../../data/schema';
import type { Ctx } from '../context';
import { newId } from '../ids';
import { addressLines } from '../rules/address';
import { wallClock } from './pricing';
import { type ShopNow, shopNow } from './shop-now';

/**
 * Invoices and credit notes: issued within the transaction that makes them due, frozen as they were, each series numbered
 * without gaps. Orders to try things out have none.
 */
type Order = typeof orders.$inferSelect;

function heading({ rules, now, name, locale }: ShopNow, order: Order): Omit<Heading, 'number'> {
  const day = (at: Date) => wallClock(at, rules.zone).slice(0, 10);
  const { seller } = rules;
  return {
    issued: day(now),
    supplied: day(order.paidAt ?? order.createdAt),
    order: String(order.number ?? ''),
    locale,
    included: rules.tax.included,
    seller: {
      name: seller.name || name,
      lines: seller.address
        .split('\n')
        .map((l) => l.trim())
        .filter(Boolean),
      taxNumber: seller.taxNumber,
      email: seller.email,
    },
    buyer: {
      name: order.buyer.name,
      lines: [
        ...addressLines(order.buyer, rules.tax.home.country, locale).filter((l) => l !== order.buyer.name),
        order.buyer.email,
      ],
    },
    notes: [...(rules.tax.charged ? [] : [rules.tax.exemptWords]), seller.foot].filter(Boolean),
  };
}

const numberOf = (rules: TillRules, series: 'invoice' | 'credit', n: number): string =>
  `${rules.seller.prefix}${series === 'credit' ? 'C' : ''}${n}`;

const invoiceFor = keep({ orderId: documents.orderId }, (q, { orderId }) =>
  q
    .select({ content: documents.content })
    .from(documents)
    .where(and(eq(documents.orderId, orderId), eq(documents.series, 'invoice'))),
);
const lastIn = keep(
  { siteId: documents.siteId, series: documents.series, orderId: documents.orderId },
  (q, { siteId, series, orderId }) =>
    q
      .select({
        n: max(documents.number),
        known: sql<number>`exists (select 1 from documents d where d.order_id = ${orderId} and d.series = ${series})`,
      })
      .from(documents)
      .where(and(eq(documents.siteId, siteId), eq(documents.series, series))),
);
const insertDocument = keepInsert(documents);

/** The next number of a series, and whether the order has one of it. Asked inside the write transaction that keeps it, as for orders: no gaps. */
async function nextIn(
  tx: Tx,
  { siteId, id: orderId }: Order,
  series: 'invoice' | 'credit',
): Promise<{ number: number; known: boolean }> {
  const [last] = await lastIn(tx, { siteId, series, orderId });
  return { number: (last?.n ?? 0) + 1, known: last?.known === 1 };
}

/** How money came in, as it was told. */
export interface Paid {
  /** The provider that took it; '' where the owner took it. */
  readonly provider: string;
  readonly detail: string;
}

/**
 * What an order asks for beside what came by payment and from vouchers: an owner who accepted it so goes
 * without it.
 */
const unpaidOf = ({ worked, total }: Order): Minor =>
  minor(worked.totals ? Math.max(0, worked.totals.due - total) : 0);

/** The invoice of a paid order; once. */
export async function issueInvoice(shop: ShopNow, tx: Tx, order: Order, paid: Paid): Promise<void> {
  if (order.test) return;
  const { number, known } = await nextIn(tx, order, 'invoice');
  if (known) return;
  const head = heading(shop, order);
  const { rules } = shop;
  const money = (amount: number) => formatMoney({ amount, currency: order.currency }, head.locale);
  const vouchers = order.worked.totals?.paid ?? 0;
  // A provider says how it was paid; who marked it as paid by hand is the owner's own business, and no buyer's.
  const way = rules.pay.ways.find((x) => x.id === order.payBy);
  const byHand = way ? payName(way, stepWordsIn(head.locale)) : '';
  const by = paid.provider ? paid.detail : byHand;
  const w = paperWordsIn(head.locale);
  const how =
    vouchers > 0
      ? [fill(w.voucher, { x: money(vouchers) }), order.total > 0 ? `${money(order.total)} ${by}` : '']
          .filter(Boolean)
          .join(', ')
      : by;
  const content = invoiceOf(
    order.worked,
    {
      ...head,
      number: numberOf(rules, 'invoice', number),
      notes: [...(how ? [fill(w.paidBy, { x: how })] : []), ...head.notes],
    },
    fill(w.shipping, { x: order.worked.ways?.find((x) => x.id === order.worked.way)?.name ?? '' }),
    unpaidOf(order),
  );
  await insertDocument(tx, {
    id: newId(),
    siteId: order.siteId,
    series: 'invoice',
    number,
    orderId: order.id,
    issuedAt: shop.now,
    content,
  });
}

export async function issueCredit(
  ctx: Ctx,
  tx: Tx,
  order: Order,
  refund: typeof refunds.$inferSelect,
  lines: readonly { readonly lineId: string; readonly quantity: number; readonly gross: Minor }[],
): Promise<void> {
  const [invoice] = await invoiceFor(tx, { orderId: order.id });
  if (order.test || !invoice) return;
  const shop = await shopNow(ctx, tx, order.siteId);
  const { rules } = shop;
  const head = heading(shop, order);
  const w = paperWordsIn(head.locale);
  const { number } = await nextIn(tx, order, 'credit');
  const content = creditOf(
    order.worked,
    { amount: minor(refund.amount), lines, rest: lines.length ? w.beside : refund.reason || w.given },
    {
      ...head,
      number: numberOf(rules, 'credit', number),
      about: invoice.content.number,
      notes: [...(refund.reason ? [refund.reason] : []), ...head.notes],
    },
  );
  await insertDocument(tx, {
    id: newId(),
    siteId: order.siteId,
    series: 'credit',
    number,
    orderId: order.id,
    refundId: refund.id,
    issuedAt: shop.now,
    content,
  });
}
