import { and, eq, gte, inArray, isNotNull, lt, sql } from 'drizzle-orm';
import Papa from 'papaparse';
import { z } from 'zod';
import { defused } from '../../core/goods/csv';
import { decimalText } from '../../core/money/format';
import { lineGross, shippingGross } from '../../core/till/refund';
import {
  daysBetween,
  type Share,
  type SoldOrder,
  type Takings,
  takings,
  takingsBy,
} from '../../core/till/takings';
import { orderLines, orders, placementNames, refunds } from '../../data/schema';
import type { Ctx } from '../context';
import { BeyondLimit, invalid } from '../errors';
import { limits, limitText } from '../../core/limits';
import type { Site } from '../sites/site';
import { pageOf } from './read-order';
import { wallClock } from './pricing';
import { readRules } from '../rules/rules';

/** Addresses of plain product pages begin so; which product it was is told beside. */
const PLAIN = '/goods/';
const DAY_MS = 86_400_000;

const asked = z.object({
  from: z.union([z.literal(''), z.iso.date()]).default(''),
  to: z.union([z.literal(''), z.iso.date()]).default(''),
  by: z.enum(['days', ...takingsBy]).default('days'),
});

export type TakingsAsked = z.input<typeof asked>;

export interface TakingsView extends Takings {
  readonly from: string;
  readonly to: string;
  readonly currency: string;
}

/** What came in between two days of the shop's own calendar; the last thirty where none are named. Orders to try things out do not count. */
export async function takingsOf(ctx: Ctx, site: Site, input: unknown): Promise<TakingsView> {
  const parsed = asked.safeParse(input);
  if (!parsed.success) throw invalid('Enter days like 2026-11-26.');
  const { zone } = await readRules(ctx.store.db, site.row.id);
  const today = wallClock(ctx.now(), zone).slice(0, 10);
  const to = parsed.data.to || today;
  const from =
    parsed.data.from || new Date(Date.parse(`${to}T12:00:00Z`) - 29 * DAY_MS).toISOString().slice(0, 10);
  if (from > to) throw invalid('The first day lies after the last.');
  const days = daysBetween(from, to);
  if (days.length > limits.takingsDays.most)
    throw new BeyondLimit('takingsDays', `At most ${limitText('takingsDays')} are looked at in one go.`);
  // A day wider on both sides: the shop's days are not those of UTC.
  const [since, until] = [
    new Date(Date.parse(`${from}T00:00:00Z`) - DAY_MS),
    new Date(Date.parse(`${to}T00:00:00Z`) + 2 * DAY_MS),
  ];
  const { db } = ctx.store;
  const mine = and(
    eq(orders.siteId, site.row.id),
    eq(orders.test, false),
    eq(orders.currency, site.row.currency),
  );
  const [paid, back, names] = await Promise.all([
    db
      .select()
      .from(orders)
      .where(and(mine, isNotNull(orders.paidAt), gte(orders.paidAt, since), lt(orders.paidAt, until))),
    db
      .select({ at: refunds.createdAt, amount: refunds.amount })
      .from(refunds)
      .innerJoin(orders, eq(orders.id, refunds.orderId))
      .where(
        and(mine, eq(refunds.state, 'done'), gte(refunds.createdAt, since), lt(refunds.createdAt, until)),
      ),
    db.select().from(placementNames).where(eq(placementNames.siteId, site.row.id)),
  ]);
  const lines = new Map<string, (typeof orderLines.$inferSelect)[]>();
  for (let n = 0; n < paid.length; n += 500) {
    for (const l of await db
      .select()
      .from(orderLines)
      .where(
        inArray(
          orderLines.orderId,
          paid.slice(n, n + 500).map((o) => o.id),
        ),
      )
      .orderBy(sql`rowid`))
      lines.set(l.orderId, [...(lines.get(l.orderId) ?? []), l]);
  }
  const day = (at: Date) => wallClock(at, zone).slice(0, 10);
  const sold = paid.map(
    (o): SoldOrder => ({
      id: o.id,
      day: day(o.paidAt ?? o.createdAt),
      shipping: shippingGross(o.worked),
      tax: o.worked.totals?.tax ?? 0,
      lines: o.worked.lines.map((l, n) => {
        const from = lines.get(o.id)?.[n];
        return {
          goodsId: l.goodsId,
          name: l.name,
          pieces: l.quantity,
          amount: lineGross(l),
          categories: l.categories ?? [],
          placementId: from?.placementId ?? null,
          page: from?.page?.startsWith(PLAIN) ? PLAIN : (from?.page ?? null),
        };
      }),
    }),
  );
  const made = takings(
    sold,
    back.map((b) => ({ day: day(b.at), amount: b.amount })),
    days,
  );
  const nameOf = new Map(names.map((n) => [n.placementId, n.name]));
  const named = (s: Share, of: (key: string) => string): Share => ({ ...s, name: of(s.key) });
  const page = (key: string) => (key ? pageOf(site, key) : 'Not known');
  const placeOf = (key: string) => {
    if (key.startsWith('page ')) return page(key.slice(5));
    return key ? 'A widget that is gone' : 'Not known';
  };
  return {
    ...made,
    from,
    to,
    currency: site.row.currency,
    categories: made.categories.map((s) => named(s, (key) => key || 'In no category')),
    pages: made.pages.map((s) => named(s, page)),
    placements: made.placements.map((s) => named(s, (key) => nameOf.get(key) ?? placeOf(key))),
  };
}

/** Takings as a table, by day or by one of the things they came through (RFC 4180). */
export async function takingsCsv(ctx: Ctx, site: Site, input: unknown): Promise<string> {
  const by = asked.safeParse(input).data?.by ?? 'days';
  const t = await takingsOf(ctx, site, input);
  const money = (amount: number): string => decimalText(amount, t.currency);
  const table =
    by === 'days'
      ? {
          fields: ['day', 'orders', 'pieces', 'goods', 'shipping', 'tax', 'refunded', 'total', 'currency'],
          data: t.days.map((d) => [
            d.day,
            d.orders,
            d.pieces,
            money(d.goods),
            money(d.shipping),
            money(d.tax),
            money(d.refunded),
            money(d.total),
            t.currency,
          ]),
        }
      : {
          fields: [by.replace(/ies$/, 'y').replace(/s$/, ''), 'orders', 'pieces', 'amount', 'currency'],
          data: t[by].map((s) => [defused(s.name), s.orders, s.pieces, money(s.amount), t.currency]),
        };
  return `\uFEFF${Papa.unparse(table, { newline: '\r\n' })}\r\n`;
}
