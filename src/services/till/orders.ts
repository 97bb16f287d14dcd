import { and, asc, desc, eq, inArray, isNull, lt, ne, not, or, type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { LetterKind } from '../../core/letters/kinds';
import { letterOf } from '../../core/letters/render';
import { nextActs, type OrderAct, type Shelf, shelfOf } from '../../core/till/order-life';
import { lineGross, shippingGross } from '../../core/till/refund';
import type { Step } from '../../core/till/worked-sum';
import {
  documents,
  goods,
  letters,
  orderEvents,
  orderLines,
  orders,
  payments,
  placementNames,
  refunds,
  vouchers,
  voucherUses,
} from '../../data/schema';
import type { Db } from '../../data/database';
import type { Agreed, Buyer, Lacks, OrderState, Parcel } from '../../data/schema/till';
import type { Ctx } from '../context';
import { invalid, missing } from '../errors';
import { shopPagesOf } from '../sites/shop-places';
import { pageName } from '../sites/names';
import { draftPlacements, type Site } from '../sites/site';
import { addressLines } from '../rules/address';
import { factsOf } from './order-facts';
import { givenBack } from './refunds';
import { readRules } from '../rules/rules';
import { subscriptionsOfSite, type SubscriptionView } from './subscriptions';

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

export interface OrderView {
  readonly id: string;
  readonly number: number | null;
  readonly state: OrderState;
  readonly shelf: Shelf;
  readonly short: boolean;
  /** What was spent already of the gift vouchers that were bought with it: a refund does not get it back. */
  readonly giftsSpent: number;
  /** Money that came and it did not want: it goes back in one press. */
  readonly surplus: readonly {
    readonly payment: string;
    readonly amount: number;
    readonly provider: string;
    readonly returning: boolean;
  }[];
  /** What it was promised and had gone when it was paid: nothing is handed out before the owner has decided. */
  readonly lacks: Pick<Lacks, 'missing' | 'over'> | null;
  readonly test: boolean;
  readonly buyer: Buyer;
  /** As its country writes it. */
  readonly address: readonly string[];
  readonly total: number;
  readonly currency: string;
  /** How it is paid: the kind of the way, and its name. */
  readonly pay: { readonly kind: string; readonly name: string };
  readonly goes: Order['goes'];
  readonly steps: readonly Step[];
  readonly note: string;
  readonly createdAt: string;
  readonly acts: {
    readonly now: OrderAct | null;
    readonly later: readonly OrderAct[];
    readonly or: readonly OrderAct[];
  };
  readonly refundable: number;
  readonly refunded: number;
  /** What shipping cost, with tax; nothing once it was given back. */
  readonly shipping: number;
  readonly parcels: readonly Parcel[];
  readonly policies: readonly (Agreed & { readonly text: boolean })[];
  /** Paid, and something in it is downloaded. */
  readonly files: boolean;
  /** What of it is charged again; or the subscription that it is a charge of. */
  readonly subscriptions: readonly SubscriptionView[];
  readonly lines: readonly {
    readonly id: string;
    readonly name: string;
    readonly quantity: number;
    readonly returned: number;
    readonly unit: number;
    readonly amount: number /** With tax, after discounts. */;
    readonly paid: number;
    readonly picture: string | null;
    readonly page: string | null;
    readonly placementId: string | null;
    /** "Home, buy button after …": the placement the sale came through. */
    readonly through: string | null;
    /** The sign of that widget, while it stands in the draft; and whether the page can be shown as it is there. */
    readonly kind: string | null;
    readonly shown: boolean;
    /** When it was put into the cart. */
    readonly at: string;
  }[];
  readonly payments: readonly {
    readonly state: string;
    readonly detail: string;
    readonly at: string;
    readonly ref: string;
    readonly provider: string;
  }[];
  readonly refunds: readonly {
    readonly amount: number;
    readonly state: string;
    readonly reason: string;
    readonly at: string;
  }[];
  readonly papers: readonly {
    readonly id: string;
    readonly series: 'invoice' | 'credit';
    readonly number: string;
  }[];
  readonly letters: readonly {
    readonly kind: string;
    readonly subject: string;
    readonly state: string;
    readonly at: string;
  }[];
  readonly events: readonly { readonly at: string; readonly what: string; readonly detail: string }[];
  /** Where it was paid for on the site itself; nothing for the plain pages. */
  readonly checkoutPage: string | null;
}

/** What other orders spent of the gift vouchers that were bought with an order. */
async function giftsSpent(db: Db, orderId: string): Promise<number> {
  const [row] = await db
    .select({ sum: sql<number>`coalesce(sum(${voucherUses.amount}), 0)` })
    .from(voucherUses)
    .innerJoin(vouchers, eq(vouchers.id, voucherUses.voucherId))
    .where(and(eq(vouchers.orderId, orderId), eq(voucherUses.state, 'used')));
  return row?.sum ?? 0;
}

/** One order with all that the office shows of it. */
export async function readOrder(ctx: Ctx, site: Site, id: string): Promise<OrderView> {
  const k = await keptOf(ctx, site, id);
  const { order: o, rules } = k;
  const facts = factsOf(o, rules.pay);
  const way = rules.pay.ways.find((w) => w.id === o.payBy);
  const texts = new Set(rules.checkout.policies.filter((p) => !p.page).map((p) => p.name));
  const built = shopPagesOf(site, site.row.shop);
  const files = hasFiles(k);
  return {
    id: o.id,
    number: o.number,
    state: o.state,
    shelf: shelfOf(facts),
    short: o.short,
    giftsSpent: await giftsSpent(ctx.store.db, id),
    surplus: surplusOf(k),
    lacks: o.lacks && { missing: o.lacks.missing, over: o.lacks.over },
    test: o.test,
    buyer: o.buyer,
    address: addressLines(o.buyer, '', 'en'),
    total: o.total,
    currency: o.currency,
    pay: { kind: way?.kind ?? o.payBy, name: way?.name ?? '' },
    goes: o.goes,
    steps: o.worked.steps,
    note: o.note,
    createdAt: o.createdAt.toISOString(),
    acts: nextActs(facts),
    refundable: facts.refundable,
    refunded: o.refunded,
    shipping: k.back.shipping ? 0 : shippingGross(o.worked),
    parcels: o.parcels,
    policies: o.policies.map((p) => ({ ...p, text: texts.has(p.name) })),
    subscriptions: k.running.filter((x) => x.orderId === o.id || x.id === o.subscriptionId),
    files,
    lines: o.worked.lines.map((l, n) => lineOf(k, site, l, k.lines[n])),
    payments: k.paid.map((p) => ({
      state: p.state,
      detail: p.detail ?? '',
      at: p.createdAt.toISOString(),
      ref: p.providerRef ?? '',
      provider: p.provider,
    })),
    refunds: k.given.map((r) => ({
      amount: r.amount,
      state: r.state,
      reason: r.reason,
      at: r.createdAt.toISOString(),
    })),
    papers: k.papers.map((p) => ({ id: p.id, series: p.series, number: p.content.number })),
    letters: k.post.filter((l) => isNews(l, k, site, files)).map(letterLine),
    events: k.events.map((e) => ({ at: e.at.toISOString(), what: e.what, detail: e.detail })),
    checkoutPage: o.way === 'site' ? (built.find((p) => p.part === 'checkout')?.address ?? null) : null,
  };
}

type Kept = Awaited<ReturnType<typeof keptOf>>;

/** All that is kept of one order. @throws Refusal where it is not this site's. */
async function keptOf(ctx: Ctx, site: Site, id: string) {
  const { db } = ctx.store;
  const [order] = await db
    .select()
    .from(orders)
    .where(and(eq(orders.siteId, site.row.id), eq(orders.id, id)));
  if (!order) throw missing('This order is not known here.');
  const ofGoods = order.worked.lines.map((l) => l.goodsId);
  const [lines, paid, events, names, details, running, rules, back, given, papers, post, drafted] =
    await Promise.all([
      // As they were written: in the order of the sum's lines.
      db.select().from(orderLines).where(eq(orderLines.orderId, id)).orderBy(sql`rowid`),
      db.select().from(payments).where(eq(payments.orderId, id)).orderBy(asc(payments.createdAt)),
      db.select().from(orderEvents).where(eq(orderEvents.orderId, id)).orderBy(asc(orderEvents.id)),
      db.select().from(placementNames).where(eq(placementNames.siteId, site.row.id)),
      db.select({ id: goods.id, details: goods.details }).from(goods).where(inArray(goods.id, ofGoods)),
      subscriptionsOfSite(ctx, site.row.id),
      readRules(db, site.row.id),
      givenBack(db, id),
      db.select().from(refunds).where(eq(refunds.orderId, id)).orderBy(asc(refunds.createdAt)),
      db.select().from(documents).where(eq(documents.orderId, id)).orderBy(asc(documents.issuedAt)),
      db.select().from(letters).where(eq(letters.orderId, id)).orderBy(asc(letters.notBefore)),
      draftPlacements(ctx, site.row.id),
    ]);
  const detailsOf = new Map(details.map((p) => [p.id, p.details]));
  const nameOf = new Map(names.map((n) => [n.placementId, n.name]));
  return {
    order,
    lines,
    paid,
    events,
    running,
    rules,
    back,
    given,
    papers,
    post,
    drafted,
    detailsOf,
    nameOf,
  };
}

/** Something that was bought is fetched as files, by itself or in a bundle; given out once it is paid. */
const hasFiles = ({ order, detailsOf }: Kept): boolean =>
  order.state === 'paid' &&
  order.worked.lines.some(({ goodsId }) => {
    const details = detailsOf.get(goodsId);
    return details?.kind === 'download' || (details?.bundle?.length ?? 0) > 0;
  });

const surplusOf = ({ paid }: Kept): OrderView['surplus'] =>
  paid.flatMap((p) =>
    p.state === 'surplus' || p.state === 'returning'
      ? [{ payment: p.id, amount: p.amount, provider: p.provider, returning: p.state === 'returning' }]
      : [],
  );

function lineOf(
  k: Kept,
  site: Site,
  l: Kept['order']['worked']['lines'][number],
  line: Kept['lines'][number] | undefined,
): OrderView['lines'][number] {
  const { order, back } = k;
  const placementId = line?.placementId ?? null;
  const page = line?.page ?? null;
  return {
    id: l.id,
    name: l.particulars?.length ? `${l.name} (${l.particulars.join('; ')})` : l.name,
    quantity: l.quantity,
    returned: back.lines.filter((b) => b.lineId === l.id).reduce((sum, b) => sum + b.quantity, 0),
    unit: l.unit,
    amount: l.amount,
    paid: lineGross(l),
    page,
    placementId,
    picture: k.detailsOf.get(l.goodsId)?.pictures?.[0]?.hash ?? null,
    through: (placementId && k.nameOf.get(placementId)) || (page ? pageOf(site, page) : null),
    kind: k.drafted.find((p) => p.id === placementId)?.kind ?? null,
    shown: page !== null && isShown(site, page),
    at: (line?.addedAt ?? order.createdAt).toISOString(),
  };
}

/** Whether a page is there that can be shown small. */
const isShown = (site: Site, address: string): boolean =>
  [...site.reading.pages, ...shopPagesOf(site, site.row.shop)].some((p) => p.address === address);

type LetterRow = Kept['post'][number];

/** Letters that will be looked at and left out are no news. */
function isNews({ state, kind }: LetterRow, { rules }: Kept, site: Site, files: boolean): boolean {
  if (state !== 'waiting') return true;
  return letterOf(kind as LetterKind, rules.letters, site.row.locale).on && (kind !== 'files' || files);
}

const letterLine = (l: LetterRow): OrderView['letters'][number] => ({
  kind: l.kind,
  subject: l.subject,
  state: l.state,
  at: (l.sentAt ?? l.notBefore).toISOString(),
});

export function pageOf(site: Site, address: string): string {
  const page = site.reading.pages.find((p) => p.address === address);
  if (page) return pageName(site, page.path);
  const ours = shopPagesOf(site, site.row.shop).find((p) => p.address === address);
  if (ours) return site.row.shop?.name ?? 'Shop';
  return address.startsWith('/goods/') ? 'Plain product page' : address;
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
