import { and, desc, eq, max } from 'drizzle-orm';
import { Webhook } from 'standardwebhooks';
import { z } from 'zod';
import { formatMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import { stepWordsIn } from '../../core/storefront/words';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { Tx } from '../../data/database';
import { cartLines, notices, orderEvents, orders, payments, sites } from '../../data/schema';
import type { Ctx } from '../context';
import { invalid, Refusal, unreachable } from '../errors';
import { shopPagesOf } from '../sites/shop-pages';
import type { Site } from '../sites/site';
import { issueVouchers, spendUses } from './codes';
import { release, sell } from './reserve';
import { beginSubscriptions, chargeDeclined, chargePaid } from './subscription-state';

const providerAnswer = z.object({ id: z.string(), url: z.url() });
const providerState = z.object({ id: z.string(), reference: z.string(), state: z.enum(['open', 'approved', 'declined']), detail: z.string().default(''), mandate: z.string().max(200).default('') });

/** A notice of the payment interface (docs/payment-provider.md). */
export const noticeBody = z.object({
  type: z.enum(['payment.approved', 'payment.declined']),
  data: z.object({ id: z.string(), reference: z.string(), amount: z.number().int(), currency: z.string().length(3), detail: z.string().max(200).default(''), mandate: z.string().max(200).default('') }),
});
type Notice = z.infer<typeof noticeBody>;

/** How long the provider may take to answer, in milliseconds. */
const PATIENCE_MS = 10_000;

interface Start {
  readonly orderId: string;
  readonly token: string;
  readonly paymentId: string;
  readonly worked: WorkedSum;
  readonly way: 'site' | 'ordinary';
}

/** Asks the provider for a payment page. When it does not answer, what was held is given back at once. */
export async function startPayment(ctx: Ctx, site: Site, s: Start): Promise<string> {
  const body = {
    reference: s.paymentId, amount: s.worked.total, currency: s.worked.currency, payee: site.row.name,
    description: s.worked.lines.map((l) => `${l.quantity} x ${l.name}`).join(', ').slice(0, 200),
    approvedUrl: backTo(ctx, site, s.way, 'thanks', s.token), declinedUrl: backTo(ctx, site, s.way, 'failed', s.token),
    noticeUrl: `${ctx.addresses.shop}/v1/notices/cards`,
    // Asked for only where something is charged again: a card is not kept for nothing.
    ...(s.worked.lines.some((l) => l.every) && { again: true }),
  };
  const answer = await askProvider(ctx, '/payments', { method: 'POST', body: JSON.stringify(body), headers: { 'idempotency-key': s.paymentId } }).catch(() => undefined);
  const parsed = providerAnswer.safeParse(answer);
  if (!parsed.success) {
    await ctx.store.write(async (tx) => {
      await decline(tx, s.orderId, s.paymentId, 'The provider did not answer', ctx.now());
    });
    ctx.changed(site.row.id);
    throw unreachable(stepWordsIn(site.row.locale).cardsSilent);
  }
  await ctx.store.write((tx) => tx.update(payments).set({ providerRef: parsed.data.id }).where(eq(payments.id, s.paymentId)));
  return parsed.data.url;
}

/** An order of which nothing is left to pay: vouchers or discounts cover it. Within the transaction that worked it out. */
export async function settleFree(ctx: Ctx, tx: Tx, orderId: string, paymentId: string): Promise<void> {
  const [order] = await tx.select().from(orders).where(eq(orders.id, orderId));
  if (order?.total !== 0) throw new Error('an order that costs something is not settled for nothing');
  await tx.update(payments).set({ state: 'paid', detail: 'nothing was left to pay' }).where(eq(payments.id, paymentId));
  await settle(ctx, tx, order, { detail: 'nothing was left to pay', mandate: '' });
}

/** Every way out of paying leads back to the site; without script, to the shop's ordinary pages. */
export function backTo(ctx: Ctx, site: Site, way: 'site' | 'ordinary', part: 'thanks' | 'failed', token: string): string {
  if (way === 'ordinary') return `${ctx.addresses.shop}/${site.row.slug}/${part}/${token}`;
  const page = shopPagesOf(site, null).find((p) => p.part === part);
  return new URL(`${page?.address.slice(1) ?? ''}?order=${token}`, site.row.liveUrl).href;
}

export async function askProvider(ctx: Ctx, path: string, init: RequestInit): Promise<unknown> {
  const answer = await fetch(`${ctx.cards.api}${path}`, {
    ...init, headers: { 'content-type': 'application/json', authorization: `Bearer ${ctx.cards.key}`, ...init.headers }, signal: AbortSignal.timeout(PATIENCE_MS),
  });
  if (!answer.ok) throw new Error(`the provider answered ${answer.status}`);
  return answer.json();
}

/**
 * Takes a signed notice. Verified before it is parsed (Standard Webhooks: HMAC-SHA256 over id, time and body, five
 * minutes of tolerance), acted on once by its id, in any order and however late.
 */
export async function takeNotice(ctx: Ctx, headers: Record<string, string>, raw: string): Promise<void> {
  try {
    new Webhook(ctx.cards.noticeSecret).verify(raw, headers);
  } catch {
    throw new Refusal('denied', 'The signature of this notice does not hold.');
  }
  const parsed = noticeBody.safeParse(JSON.parse(raw));
  if (!parsed.success) throw invalid('This notice has a form that is not in the payment interface.');
  const siteId = await ctx.store.write(async (tx) => {
    const first = await tx.insert(notices).values({ id: headers['webhook-id'] ?? '', receivedAt: ctx.now() }).onConflictDoNothing().returning();
    return first.length ? act(ctx, tx, parsed.data) : undefined;
  });
  if (siteId) ctx.changed(siteId);
}

/** Asks the provider how a payment stands: for the shopper who is back before the notice, and for notices that never come. */
export async function reconcile(ctx: Ctx, orderToken: string): Promise<void> {
  const [open] = await ctx.store.db.select({ payment: payments }).from(payments).innerJoin(orders, eq(orders.id, payments.orderId))
    .where(and(eq(orders.token, orderToken), eq(orders.state, 'waiting'), eq(payments.state, 'started'))).orderBy(desc(payments.createdAt)).limit(1);
  const ref = open?.payment.providerRef;
  if (!ref) return;
  const parsed = providerState.safeParse(await askProvider(ctx, `/payments/${encodeURIComponent(ref)}`, {}).catch(() => undefined));
  if (!parsed.success || parsed.data.state === 'open' || parsed.data.reference !== open.payment.id) return;
  const { amount, currency } = open.payment;
  const notice: Notice = { type: parsed.data.state === 'approved' ? 'payment.approved' : 'payment.declined', data: { id: ref, reference: open.payment.id, amount, currency, detail: parsed.data.detail, mandate: parsed.data.mandate } };
  const siteId = await ctx.store.write((tx) => act(ctx, tx, notice));
  if (siteId) ctx.changed(siteId);
}

export async function act(ctx: Ctx, tx: Tx, { type, data }: Notice): Promise<string | undefined> {
  const [found] = await tx.select({ payment: payments, order: orders }).from(payments).innerJoin(orders, eq(orders.id, payments.orderId)).where(eq(payments.id, data.reference));
  if (!found) {
    ctx.log.warn({ reference: data.reference }, 'a notice for a payment that is not ours');
    return undefined;
  }
  const { payment, order } = found;
  if (type === 'payment.declined') {
    if (payment.state === 'started') {
      await decline(tx, order.id, payment.id, data.detail || 'Declined', ctx.now());
      await chargeDeclined(tx, order, data.detail || 'Declined', ctx.now());
    }
    return order.siteId;
  }
  if (payment.state === 'paid') return undefined;
  if (payment.amount !== data.amount || payment.currency !== data.currency) {
    await event(tx, order.id, ctx.now(), 'The provider took another amount', `${data.amount} ${data.currency}; look into it`);
    return order.siteId;
  }
  await tx.update(payments).set({ state: 'paid', detail: data.detail }).where(eq(payments.id, payment.id));
  if (order.state === 'paid') await event(tx, order.id, ctx.now(), 'Paid a second time', 'Refund one of the two');
  else await settle(ctx, tx, order, data);
  return order.siteId;
}

async function settle(ctx: Ctx, tx: Tx, order: typeof orders.$inferSelect, { detail, mandate }: Pick<Notice['data'], 'detail' | 'mandate'>): Promise<void> {
  const now = ctx.now();
  const gone = await sell(tx, order.id, now);
  const [last] = await tx.select({ n: max(orders.number) }).from(orders).where(eq(orders.siteId, order.siteId));
  const number = Math.max(last?.n ?? 0, FIRST_NUMBER - 1) + 1;
  await tx.update(orders).set({ state: 'paid', number, paidAt: now, short: gone.length > 0 }).where(eq(orders.id, order.id));
  const missing = await spendUses(tx, order.id, now);
  await issueVouchers(tx, order, now);
  await emptyCart(tx, order);
  await (order.subscriptionId ? chargePaid(tx, order.subscriptionId, now) : beginSubscriptions(tx, order, mandate, now));
  const [site] = await tx.select({ locale: sites.locale }).from(sites).where(eq(sites.id, order.siteId));
  await event(tx, order.id, now, `Paid ${formatMoney({ amount: order.total as Minor, currency: order.currency }, site?.locale ?? 'en')}`, detail);
  if (missing > 0) await event(tx, order.id, now, 'A voucher had less on it', `${formatMoney({ amount: missing as Minor, currency: order.currency }, site?.locale ?? 'en')} were spent by somebody else before this was paid. Ask for the rest, or let it be.`);
  if (gone.length) await event(tx, order.id, now, 'Paid too late', 'The pieces had gone to others. Make more, or give the money back.');
}

/** Takes out of the cart what was bought; what was put in while paying stays. */
async function emptyCart(tx: Tx, order: typeof orders.$inferSelect): Promise<void> {
  for (const line of order.worked.lines) {
    const [inCart] = await tx.select().from(cartLines).where(eq(cartLines.id, line.id));
    if (!inCart) continue;
    if (inCart.quantity <= line.quantity) await tx.delete(cartLines).where(eq(cartLines.id, line.id));
    else await tx.update(cartLines).set({ quantity: inCart.quantity - line.quantity }).where(eq(cartLines.id, line.id));
  }
}

/** Order numbers start here, so that the first buyer does not feel like the first. */
const FIRST_NUMBER = 1001;

async function decline(tx: Tx, orderId: string, paymentId: string, detail: string, now: Date): Promise<void> {
  await tx.update(payments).set({ state: 'declined', detail }).where(eq(payments.id, paymentId));
  const changed = await tx.update(orders).set({ state: 'failed' }).where(and(eq(orders.id, orderId), eq(orders.state, 'waiting'))).returning({ id: orders.id });
  if (changed.length === 0) return;
  await release(tx, orderId);
  await event(tx, orderId, now, 'Payment declined', detail);
}

const event = (tx: Tx, orderId: string, at: Date, what: string, detail = '') => tx.insert(orderEvents).values({ orderId, at, what, detail });
