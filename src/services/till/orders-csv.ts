import { and, desc, eq, inArray } from 'drizzle-orm';
import Papa from 'papaparse';
import { decimalText } from '../../core/money/format';
import { defused } from '../../core/goods/csv';
import { documents, orders } from '../../data/schema';
import type { Ctx } from '../context';
import type { Site } from '../sites/site';
import { conditions, readAsked } from './order-list';

/** Orders of one file. */
const MOST = 50_000;

const columns = [
  'number',
  'invoice',
  'ordered',
  'paid',
  'state',
  'test',
  'name',
  'company',
  'email',
  'phone',
  'street',
  'town',
  'postcode',
  'state_or_region',
  'country',
  'goods',
  'pieces',
  'currency',
  'goods_amount',
  'discounts',
  'shipping',
  'tax',
  'vouchers',
  'total',
  'refunded',
  'paid_by',
  'sent',
  'tracking',
  'note',
] as const;

/** Orders as a table (RFC 4180), one row to each; amounts in plain decimals, moments in ISO 8601. Cells that a spreadsheet would run as a formula are defused. */
export async function ordersCsv(ctx: Ctx, site: Site, input: unknown): Promise<string> {
  const asked = readAsked(input);
  const rows = await ctx.store.db
    .select()
    .from(orders)
    .where(and(...conditions(site.row.id, asked)))
    .orderBy(desc(orders.createdAt))
    .limit(MOST);
  const invoices = new Map(
    (rows.length
      ? await ctx.store.db
          .select({ orderId: documents.orderId, content: documents.content })
          .from(documents)
          .where(
            and(
              eq(documents.siteId, site.row.id),
              eq(documents.series, 'invoice'),
              inArray(
                documents.orderId,
                rows.length < 900
                  ? rows.map((r) => r.id)
                  : ctx.store.db.select({ id: orders.id }).from(orders).where(eq(orders.siteId, site.row.id)),
              ),
            ),
          )
      : []
    ).map((d) => [d.orderId, d.content.number]),
  );
  const body = rows.map((o) => {
    const money = (amount: number): string => decimalText(amount, o.currency);
    const of = (...kinds: string[]): string =>
      money(o.worked.steps.filter((s) => kinds.includes(s.kind ?? '')).reduce((n, s) => n + s.amount, 0));
    const row: Record<(typeof columns)[number], string> = {
      number: String(o.number ?? ''),
      invoice: invoices.get(o.id) ?? '',
      ordered: o.createdAt.toISOString(),
      paid: o.paidAt?.toISOString() ?? '',
      state: o.state,
      test: o.test ? 'yes' : '',
      name: o.buyer.name,
      company: o.buyer.company ?? '',
      email: o.buyer.email,
      phone: o.buyer.phone ?? '',
      street: o.buyer.street,
      town: o.buyer.town,
      postcode: o.buyer.postcode,
      state_or_region: o.buyer.state ?? '',
      country: o.buyer.country,
      goods: o.worked.lines
        .map(
          (l) => `${l.quantity} x ${l.name}${l.particulars.length ? ` (${l.particulars.join('; ')})` : ''}`,
        )
        .join(', '),
      pieces: String(o.worked.pieces),
      currency: o.currency,
      goods_amount: of('goods'),
      discounts: of('discount'),
      shipping: of('shipping'),
      tax: money(o.worked.totals?.tax ?? 0),
      vouchers: of('voucher'),
      total: money(o.total),
      refunded: money(o.refunded),
      paid_by: o.payBy,
      sent: o.sentAt?.toISOString() ?? '',
      tracking: o.parcels
        .map((p) => p.number)
        .filter(Boolean)
        .join(' '),
      note: o.note,
    };
    return columns.map((c) => defused(row[c]));
  });
  // The mark tells spreadsheet programs that it is UTF-8.
  return `\uFEFF${Papa.unparse({ fields: [...columns], data: body }, { newline: '\r\n' })}\r\n`;
}
