import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { isLetterKind } from '../../core/letters/kinds';
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
import { missing } from '../errors';
import { shopPagesOf } from '../sites/shop-places';
import { pageName } from '../sites/names';
import { draftPlacements, type Site } from '../sites/site';
import { addressLines } from '../rules/address';
import { factsOf } from './order-facts';
import { givenBack } from './refunds';
import { readRules } from '../rules/rules';
import { subscriptionsOfSite, type SubscriptionView } from './subscriptions';

type Order = typeof orders.$inferSelect;

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
    name: l.particulars.length ? `${l.name} (${l.particulars.join('; ')})` : l.name,
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
  if (!isLetterKind(kind)) return false;
  return letterOf(kind, rules.letters, site.row.locale).on && (kind !== 'files' || files);
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
