import { and, asc, desc, eq, inArray, isNull, lt, ne, not, or, type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Shelf, shelfOf } from '../../core/till/order-life';
import { goods, orderLines, orders } from '../../data/schema';
import type { OrderState } from '../../data/schema/till';
import type { Ctx } from '../context';
import { invalid, missing } from '../errors';
import type { Site } from '../sites/site';
import { factsOf } from './order-facts';
import { readRules } from '../rules/rules';

type Order = typeof orders.$inferSelect;

/** An order in the list. */
export interface OrderRow {
  readonly id: string;
  readonly number: number | null;
  readonly name: string;
  readonly total: number;
  readonly currency: string;
  readonly shelf: Shelf;
  readonly state: OrderState;
  readonly test: boolean;
  readonly pieces: number;
  readonly goes: Order['goes'];
  readonly pictures: readonly string[];
  readonly createdAt: string;
  /** When the last thing was done with it. */
  readonly doneAt: string | null;
}

export interface OrderList {
  readonly rows: readonly OrderRow[];
  /** There are older ones than those shown. */
  readonly more: boolean;
  /** Orders to try things out, not among the rows unless they are asked for. */
  readonly tests: number;
}

export const listAsked = z.object({
  find: z.string().trim().max(100).default(''),
  /** Days, "2026-11-01", both among it. */
  from: z.union([z.literal(''), z.iso.date()]).default(''),
  to: z.union([z.literal(''), z.iso.date()]).default(''),
  state: z.enum(['', 'open', 'paid', 'placed', 'cancelled', 'refunded', 'unpaid']).default(''),
  test: z.enum(['', '1']).default(''),
  /** Finished orders before this moment, ISO 8601. */
  before: z.union([z.literal(''), z.iso.datetime()]).default(''),
});
export type ListAsked = z.output<typeof listAsked>;

/** Finished orders shown at once; open ones are all shown, up to a number nobody works through on one screen. */
const FINISHED = 60;
const OPEN = 500;

const isOpen = or(
  inArray(orders.state, ['waiting', 'placed']),
  eq(orders.short, true),
  and(eq(orders.state, 'paid'), ne(orders.goes, ''), isNull(orders.sentAt), isNull(orders.collectedAt)),
);

/** What a filter means, as conditions. */
export function conditions(siteId: string, a: ListAsked): SQL[] {
  const like = `%${a.find.toLowerCase().replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
  const has = (text: SQL): SQL => sql`lower(${text}) LIKE ${like} ESCAPE '\\'`;
  const states: Record<ListAsked['state'], SQL | undefined> = {
    '': undefined,
    open: isOpen,
    paid: eq(orders.state, 'paid'),
    placed: eq(orders.state, 'placed'),
    cancelled: eq(orders.state, 'cancelled'),
    refunded: sql`${orders.refunded} > 0`,
    unpaid: inArray(orders.state, ['failed', 'waiting']),
  };
  const found: (SQL | undefined)[] = [
    eq(orders.siteId, siteId),
    eq(orders.test, a.test === '1'),
    states[a.state],
    a.from ? sql`${orders.createdAt} >= ${Date.parse(`${a.from}T00:00:00Z`)}` : undefined,
    a.to ? sql`${orders.createdAt} < ${Date.parse(`${a.to}T00:00:00Z`) + 86_400_000}` : undefined,
    a.find
      ? or(
          /^#?\d+$/.test(a.find) ? eq(orders.number, Number(a.find.replace('#', ''))) : undefined,
          has(sql`json_extract(${orders.buyer}, '$.name')`),
          has(sql`json_extract(${orders.buyer}, '$.email')`),
          has(sql`json_extract(${orders.buyer}, '$.postcode')`),
          has(sql`json_extract(${orders.buyer}, '$.town')`),
          has(sql`${orders.parcels}`),
          sql`EXISTS (SELECT 1 FROM ${orderLines} WHERE ${orderLines.orderId} = ${orders.id} AND ${has(sql`${orderLines.name}`)})`,
        )
      : undefined,
  ];
  return found.filter((c): c is SQL => c !== undefined);
}

/** Orders of a site: all that are open, and the newest that are finished; or whatever a search finds. */
export async function listOrders(ctx: Ctx, site: Site, input: unknown = {}): Promise<OrderList> {
  const parsed = listAsked.safeParse(input);
  if (!parsed.success) throw invalid('This search is not understood.');
  const asked = parsed.data;
  const where = conditions(site.row.id, asked);
  const { db } = ctx.store;
  const open = asked.before
    ? []
    : await db
        .select()
        .from(orders)
        .where(and(...where, isOpen))
        .orderBy(desc(orders.createdAt))
        .limit(OPEN);
  const finished = await db
    .select()
    .from(orders)
    .where(
      and(
        ...where,
        ...(isOpen ? [not(isOpen)] : []),
        asked.before ? lt(orders.createdAt, new Date(asked.before)) : undefined,
      ),
    )
    .orderBy(desc(orders.createdAt))
    .limit(FINISHED + 1);
  const rows = [...open, ...finished.slice(0, FINISHED)];
  const [{ pay }, pictures, [tests]] = await Promise.all([
    readRules(db, site.row.id),
    picturesOf(
      ctx,
      rows.flatMap((o) => o.worked.lines.map((l) => l.goodsId)),
    ),
    db
      .select({ n: sql<number>`count(*)` })
      .from(orders)
      .where(and(eq(orders.siteId, site.row.id), eq(orders.test, true))),
  ]);
  return {
    more: finished.length > FINISHED,
    tests: tests?.n ?? 0,
    rows: rows.map((o) => ({
      id: o.id,
      number: o.number,
      name: o.buyer.name,
      total: o.total,
      currency: o.currency,
      shelf: shelfOf(factsOf(o, pay)),
      state: o.state,
      test: o.test,
      pieces: o.worked.pieces,
      goes: o.goes,
      pictures: [...new Set(o.worked.lines.flatMap((l) => pictures.get(l.goodsId) ?? []))].slice(0, 2),
      createdAt: o.createdAt.toISOString(),
      doneAt: (o.collectedAt ?? o.sentAt ?? o.packedAt)?.toISOString() ?? null,
    })),
  };
}

async function picturesOf(ctx: Ctx, ids: readonly string[]): Promise<Map<string, string>> {
  const wanted = [...new Set(ids)];
  if (wanted.length === 0) return new Map();
  const rows = await ctx.store.db
    .select({ id: goods.id, details: goods.details })
    .from(goods)
    .where(inArray(goods.id, wanted));
  return new Map(
    rows.flatMap((p) => (p.details.pictures?.[0] ? [[p.id, p.details.pictures[0].hash] as const] : [])),
  );
}

export async function orderByToken(ctx: Ctx, siteId: string, token: string): Promise<Order> {
  const [row] = await ctx.store.db.select().from(orders).where(eq(orders.token, token));
  if (!row || row.siteId !== siteId) throw missing('This order is not known here.');
  return row;
}

/** An order for whoever knows its number and the address it was ordered with; small and capital letters are the same. */
export async function lookUpOrder(
  ctx: Ctx,
  siteId: string,
  number: string,
  email: string,
): Promise<Order | undefined> {
  const wanted = Number(number.replace(/\D/g, ''));
  // Whoever had their data erased has no address any more: nobody is let in by saying nothing.
  if (!Number.isSafeInteger(wanted) || wanted <= 0 || email.trim() === '') return undefined;
  const found = await ctx.store.db
    .select()
    .from(orders)
    .where(and(eq(orders.siteId, siteId), eq(orders.number, wanted)))
    .orderBy(asc(orders.test));
  return found.find((o) => o.buyer.email.toLowerCase() === email.trim().toLowerCase());
}
