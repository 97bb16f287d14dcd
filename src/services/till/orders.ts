import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import { goods, orderEvents, orderLines, orders, payments, placementNames } from '../../data/schema';
import type { Buyer, OrderState } from '../../data/schema/till';
import type { Step } from '../../core/till/worked-sum';
import type { Ctx } from '../context';
import { missing } from '../errors';
import { pageName } from '../sites/names';
import type { Site } from '../sites/site';
import { subscriptionsOfSite, type SubscriptionView } from './subscriptions';

export interface OrderView {
  readonly id: string;
  readonly number: number | null;
  readonly state: OrderState;
  readonly short: boolean;
  readonly buyer: Buyer;
  readonly total: number;
  readonly currency: string;
  readonly steps: readonly Step[];
  readonly createdAt: string;
  /** Paid, and something in it is downloaded. */
  readonly files: boolean;
  /** What of it is charged again; or the subscription that it is a charge of. */
  readonly subscriptions: readonly SubscriptionView[];
  readonly lines: readonly {
    readonly name: string; readonly quantity: number; readonly unit: number; readonly amount: number;
    readonly picture: string | null; readonly page: string | null; readonly placementId: string | null;
    /** "Home, buy button after …": the placement the sale came through. */
    readonly through: string | null;
  }[];
  readonly payments: readonly { readonly state: string; readonly detail: string; readonly at: string; readonly ref: string }[];
  readonly events: readonly { readonly at: string; readonly what: string; readonly detail: string }[];
}

/** Orders of a site, newest first, each with all that the office shows of it. */
export async function listOrders(ctx: Ctx, site: Site, limit = 100): Promise<OrderView[]> {
  const rows = await ctx.store.db.select().from(orders).where(eq(orders.siteId, site.row.id)).orderBy(desc(orders.createdAt)).limit(limit);
  const ids = rows.map((r) => r.id);
  if (ids.length === 0) return [];
  const [lines, paid, events, names, pictures, running] = await Promise.all([
    ctx.store.db.select().from(orderLines).where(inArray(orderLines.orderId, ids)),
    ctx.store.db.select().from(payments).where(inArray(payments.orderId, ids)).orderBy(asc(payments.createdAt)),
    ctx.store.db.select().from(orderEvents).where(inArray(orderEvents.orderId, ids)).orderBy(asc(orderEvents.id)),
    ctx.store.db.select().from(placementNames).where(eq(placementNames.siteId, site.row.id)),
    ctx.store.db.select({ id: goods.id, details: goods.details }).from(goods).where(eq(goods.siteId, site.row.id)),
    subscriptionsOfSite(ctx, site.row.id),
  ]);
  const nameOf = new Map(names.map((n) => [n.placementId, n.name]));
  const pictureOf = new Map(pictures.map((p) => [p.id, p.details.pictures?.[0]?.hash ?? null]));
  const kindOf = new Map(pictures.map((p) => [p.id, p.details]));
  const isFiles = (id: string): boolean => kindOf.get(id)?.kind === 'download' || (kindOf.get(id)?.bundle ?? []).some((b) => kindOf.get(b.goodsId)?.kind === 'download');
  const through = (placementId: string | null, page: string | null) => (placementId && nameOf.get(placementId)) || (page ? pageOf(site, page) : null);
  return rows.map((o) => ({
    id: o.id, number: o.number, state: o.state, short: o.short, buyer: o.buyer, total: o.total, currency: o.currency, steps: o.worked.steps, createdAt: o.createdAt.toISOString(), subscriptions: running.filter((x) => x.orderId === o.id || x.id === o.subscriptionId), files: o.state === 'paid' && o.worked.lines.some((l) => isFiles(l.goodsId)),
    lines: lines.filter((l) => l.orderId === o.id).map((l) => ({
      name: l.particulars.length ? `${l.name} (${l.particulars.join('; ')})` : l.name, quantity: l.quantity, unit: l.unit, amount: l.amount, page: l.page, placementId: l.placementId, picture: pictureOf.get(l.goodsId) ?? null, through: through(l.placementId, l.page),
    })),
    payments: paid.filter((p) => p.orderId === o.id).map((p) => ({ state: p.state, detail: p.detail ?? '', at: p.createdAt.toISOString(), ref: p.providerRef ?? '' })),
    events: events.filter((e) => e.orderId === o.id).map((e) => ({ at: e.at.toISOString(), what: e.what, detail: e.detail })),
  }));
}

function pageOf(site: Site, address: string): string {
  const page = site.reading.pages.find((p) => p.address === address);
  if (page) return pageName(site, page.path);
  return address.startsWith('/goods/') ? 'Plain product page' : address;
}

export async function orderByToken(ctx: Ctx, siteId: string, token: string): Promise<typeof orders.$inferSelect> {
  const [row] = await ctx.store.db.select().from(orders).where(eq(orders.token, token));
  if (!row || row.siteId !== siteId) throw missing('This order is not known here.');
  return row;
}

/** An order for whoever knows its number and the address it was ordered with; small and capital letters are the same. */
export async function lookUpOrder(ctx: Ctx, siteId: string, number: string, email: string): Promise<typeof orders.$inferSelect | undefined> {
  const wanted = Number(number.replace(/\D/g, ''));
  if (!Number.isSafeInteger(wanted) || wanted <= 0) return undefined;
  const [found] = await ctx.store.db.select().from(orders).where(and(eq(orders.siteId, siteId), eq(orders.number, wanted)));
  return found && found.buyer.email.toLowerCase() === email.trim().toLowerCase() ? found : undefined;
}
