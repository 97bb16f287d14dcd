import { and, eq } from 'drizzle-orm';
import { formatMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import { paperWordsIn } from '../../core/papers/words';
import { fill, payName, stepWordsIn } from '../../core/storefront/words';
import { creditOf, type Heading, invoiceOf } from '../../core/till/invoice';
import type { TillRules } from '../../core/till/rules';
import type { Tx } from '../../data/database';
import { documents, type orders, payments, type refunds, sites } from '../../data/schema';
import type { Ctx } from '../context';
import { newId } from '../ids';
import { addressLines } from './address';
import { nextDocumentNumber } from './numbers';
import { wallClock } from './pricing';
import { readRules } from './rules';

/**
 * Invoices and credit notes: issued within the transaction that makes them due, frozen as they were, each series numbered
 * without gaps. Orders to try things out have none.
 */
type Order = typeof orders.$inferSelect;

async function heading(ctx: Ctx, tx: Tx, order: Order): Promise<{ head: Omit<Heading, 'number'>; rules: TillRules }> {
  const rules = await readRules(tx, order.siteId);
  const [site] = await tx.select({ name: sites.name, locale: sites.locale }).from(sites).where(eq(sites.id, order.siteId));
  const day = (at: Date) => wallClock(at, rules.zone).slice(0, 10);
  const { seller } = rules;
  return {
    rules,
    head: {
      issued: day(ctx.now()), supplied: day(order.paidAt ?? order.createdAt), order: String(order.number ?? ''), locale: site?.locale ?? 'en', included: rules.tax.included,
      seller: { name: seller.name || (site?.name ?? ''), lines: seller.address.split('\n').map((l) => l.trim()).filter(Boolean), taxNumber: seller.taxNumber, email: seller.email },
      buyer: { name: order.buyer.name, lines: [...addressLines(order.buyer, rules.tax.home.country, site?.locale ?? 'en').filter((l) => l !== order.buyer.name), order.buyer.email] },
      notes: [...(rules.tax.charged ? [] : [rules.tax.exemptWords]), seller.foot].filter(Boolean),
    },
  };
}

const numberOf = (rules: TillRules, series: 'invoice' | 'credit', n: number): string => `${rules.seller.prefix}${series === 'credit' ? 'C' : ''}${n}`;

/** The invoice of a paid order; once. */
export async function issueInvoice(ctx: Ctx, tx: Tx, order: Order): Promise<void> {
  if (order.test) return;
  const [known] = await tx.select({ id: documents.id }).from(documents).where(and(eq(documents.orderId, order.id), eq(documents.series, 'invoice')));
  if (known) return;
  const { head, rules } = await heading(ctx, tx, order);
  const [paid] = await tx.select({ detail: payments.detail, provider: payments.provider }).from(payments).where(and(eq(payments.orderId, order.id), eq(payments.state, 'paid')));
  const money = (amount: number) => formatMoney({ amount: amount as Minor, currency: order.currency }, head.locale);
  const vouchers = order.worked.totals?.paid ?? 0;
  // A provider says how it was paid; who marked it as paid by hand is the owner's own business, and no buyer's.
  const way = rules.pay.ways.find((x) => x.id === order.payBy);
  const by = paid?.provider ? (paid.detail ?? '') : way ? payName(way, stepWordsIn(head.locale)) : '';
  const w = paperWordsIn(head.locale);
  const how = vouchers > 0 ? [fill(w.voucher, { x: money(vouchers) }), order.total > 0 ? `${money(order.total)} ${by}` : ''].filter(Boolean).join(', ') : by;
  const number = await nextDocumentNumber(tx, order.siteId, 'invoice');
  const content = invoiceOf(order.worked, { ...head, number: numberOf(rules, 'invoice', number), notes: [...(how ? [fill(w.paidBy, { x: how })] : []), ...head.notes] }, fill(w.shipping, { x: order.worked.ways?.find((x) => x.id === order.worked.way)?.name ?? '' }));
  await tx.insert(documents).values({ id: newId(), siteId: order.siteId, series: 'invoice', number, orderId: order.id, issuedAt: ctx.now(), content });
}

export async function issueCredit(ctx: Ctx, tx: Tx, order: Order, refund: typeof refunds.$inferSelect, lines: readonly { readonly lineId: string; readonly quantity: number; readonly gross: Minor }[]): Promise<void> {
  const [invoice] = await tx.select().from(documents).where(and(eq(documents.orderId, order.id), eq(documents.series, 'invoice')));
  if (order.test || !invoice) return;
  const { head, rules } = await heading(ctx, tx, order);
  const w = paperWordsIn(head.locale);
  const number = await nextDocumentNumber(tx, order.siteId, 'credit');
  const content = creditOf(order.worked, { amount: refund.amount as Minor, lines, rest: lines.length ? w.beside : refund.reason || w.given }, { ...head, number: numberOf(rules, 'credit', number), about: invoice.content.number, notes: [...(refund.reason ? [refund.reason] : []), ...head.notes] });
  await tx.insert(documents).values({ id: newId(), siteId: order.siteId, series: 'credit', number, orderId: order.id, refundId: refund.id, issuedAt: ctx.now(), content });
}
