import { and, asc, desc, eq, gt, inArray, isNull, lt, ne, or, type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { isWaiting, type Shelf, shelves } from '../../core/till/order-life';
import { paysLater } from '../../core/till/pay-kinds';
import type { PayRules } from '../../core/till/paying';
import { goods, orderLines, orders } from '../../data/schema';
import type { OrderState } from '../../data/schema/till';
import type { Ctx } from '../context';
import { invalid } from '../errors';
import type { Site } from '../sites/site';
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

/** Orders that wait for the same, or for nothing more. */
export interface OrderShelf {
  readonly shelf: Shelf;
  /** How many there are in all, shown or not. */
  readonly count: number;
  /** What waits: the longest waiting first. What is over: the newest first. */
  readonly rows: readonly OrderRow[];
  /** From where the next ones are asked for (`after`); null where these are all. */
  readonly next: string | null;
}

export interface OrderList {
  /** Those that hold anything, in their order of need. */
  readonly shelves: readonly OrderShelf[];
  /** Orders to try things out, not among the rows unless they are asked for. */
  readonly tests: number;
}

/** Rows of a shelf shown at first, and the most that one answer brings. */
const FIRST = 60;
const MOST = 50_000;

export const listAsked = z.object({
  find: z.string().trim().max(100).default(''),
  /** Days, "2026-11-01", both among it. */
  from: z.union([z.literal(''), z.iso.date()]).default(''),
  to: z.union([z.literal(''), z.iso.date()]).default(''),
  state: z.enum(['', 'open', 'paid', 'placed', 'cancelled', 'refunded', 'unpaid']).default(''),
  test: z.enum(['', '1']).default(''),
  /** Of one shelf alone. */
  shelf: z.enum(['', ...shelves]).default(''),
  /** Those after an order of the shelf, as `next` named it; none of them is read twice or passed over. */
  after: z.union([z.literal(''), z.string().regex(/^\d{1,15}\.[\w-]{1,64}$/)]).default(''),
  take: z.coerce.number().int().min(1).max(MOST).default(FIRST),
});
export type ListAsked = z.output<typeof listAsked>;

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

/**
 * On which shelf an order stands, asked of the database: `shelfOf` of core/till/order-life.ts said in SQL. A test holds
 * them against each other.
 */
export function shelfIn(pay: PayRules): SQL<Shelf> {
  const later = pay.ways.filter((w) => paysLater(w.kind)).map((w) => w.id);
  const isLater = later.length > 0 ? inArray(orders.payBy, later) : sql`0`;
  const over = sql`CASE WHEN ${orders.state} = 'paid' THEN 'done' ELSE 'money' END`;
  return sql<Shelf>`CASE
    WHEN ${orders.short} THEN 'look-into'
    WHEN ${orders.state} IN ('failed', 'cancelled') THEN 'nothing'
    WHEN ${orders.state} = 'waiting' THEN 'paying'
    WHEN ${orders.state} = 'placed' AND NOT ${isLater} THEN 'money'
    WHEN ${orders.goes} = '' THEN ${over}
    WHEN ${orders.sentAt} IS NOT NULL OR ${orders.collectedAt} IS NOT NULL THEN ${over}
    WHEN ${orders.packedAt} IS NULL THEN 'to-pack'
    WHEN ${orders.goes} = 'collect' THEN 'to-collect'
    ELSE 'to-send' END`;
}

/** @throws Refusal where the search is not understood. */
export function readAsked(input: unknown): ListAsked {
  const parsed = listAsked.safeParse(input);
  if (!parsed.success) throw invalid('This search is not understood.');
  return parsed.data;
}

/** Orders of a site by what they wait for: of each shelf the first, and how many there are; or the next ones of one shelf. */
export async function listOrders(ctx: Ctx, site: Site, input: unknown = {}): Promise<OrderList> {
  const asked = readAsked(input);
  const { db } = ctx.store;
  const { pay } = await readRules(db, site.row.id);
  const at = shelfIn(pay);
  const where = conditions(site.row.id, asked);
  const [counted, [tests]] = await Promise.all([
    db
      .select({ shelf: at, n: sql<number>`count(*)` })
      .from(orders)
      .where(and(...where, asked.shelf ? sql`${at} = ${asked.shelf}` : undefined))
      .groupBy(at),
    db
      .select({ n: sql<number>`count(*)` })
      .from(orders)
      .where(and(eq(orders.siteId, site.row.id), eq(orders.test, true))),
  ]);
  const counts = new Map(counted.map(({ shelf, n }) => [shelf, n]));
  const pages = await Promise.all(
    shelves
      .filter((shelf) => counts.has(shelf))
      .map(async (shelf) => ({
        shelf,
        found: await pageOf(ctx, shelf, [...where, sql`${at} = ${shelf}`], asked),
      })),
  );
  const pictures = await picturesOf(
    ctx,
    pages.flatMap(({ found }) => found.flatMap((o) => o.worked.lines.map((l) => l.goodsId))),
  );
  return {
    tests: tests?.n ?? 0,
    shelves: pages.map(({ shelf, found }) => {
      const rows = found.slice(0, asked.take);
      const last = rows.at(-1);
      return {
        shelf,
        count: counts.get(shelf) ?? 0,
        rows: rows.map((o) => rowOf(o, shelf, pictures)),
        next: found.length > rows.length && last ? `${last.createdAt.getTime()}.${last.id}` : null,
      };
    }),
  };
}

/** One row more than was asked for: whether there is one is all that is asked of it. */
function pageOf(ctx: Ctx, shelf: Shelf, where: readonly SQL[], { after, take }: ListAsked): Promise<Order[]> {
  const [way, beyond] = isWaiting(shelf) ? ([asc, gt] as const) : ([desc, lt] as const);
  const [time = '', id = ''] = after.split(/\.(.*)/s);
  const then = new Date(Number(time));
  return ctx.store.db
    .select()
    .from(orders)
    .where(
      and(
        ...where,
        after
          ? or(beyond(orders.createdAt, then), and(eq(orders.createdAt, then), beyond(orders.id, id)))
          : undefined,
      ),
    )
    .orderBy(way(orders.createdAt), way(orders.id))
    .limit(take + 1);
}

/**
 * Ids of all that a search finds on one shelf, the longest waiting first: for what is done with all of them at once.
 * @throws Refusal where no shelf was named
 */
export async function foundOnShelf(ctx: Ctx, site: Site, input: unknown): Promise<string[]> {
  const asked = readAsked(input);
  if (!asked.shelf) throw invalid('Say which orders: the ones to pack, for example.');
  const { pay } = await readRules(ctx.store.db, site.row.id);
  const found = await ctx.store.db
    .select({ id: orders.id })
    .from(orders)
    .where(and(...conditions(site.row.id, asked), sql`${shelfIn(pay)} = ${asked.shelf}`))
    .orderBy(asc(orders.createdAt), asc(orders.id));
  return found.map((o) => o.id);
}

const rowOf = (o: Order, shelf: Shelf, pictures: ReadonlyMap<string, string>): OrderRow => ({
  id: o.id,
  number: o.number,
  name: o.buyer.name,
  total: o.total,
  currency: o.currency,
  shelf,
  state: o.state,
  test: o.test,
  pieces: o.worked.pieces,
  goes: o.goes,
  pictures: [...new Set(o.worked.lines.flatMap((l) => pictures.get(l.goodsId) ?? []))].slice(0, 2),
  createdAt: o.createdAt.toISOString(),
  doneAt: (o.collectedAt ?? o.sentAt ?? o.packedAt)?.toISOString() ?? null,
});

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
