import { and, desc, eq, isNotNull, isNull, lt } from 'drizzle-orm';
import { Webhook } from 'standardwebhooks';
import { z } from 'zod';
import type { Tx } from '../../data/database';
import { keep } from '../../data/kept-queries';
import { notices, orders, payments } from '../../data/schema';
import type { Ctx } from '../context';
import { invalid, Refusal } from '../errors';
import { knownProvider, askProvider, providerState } from './providers';
import { actOnRefund } from './refund-state';
import { decline, event, settle } from './settle';
import { chargeDeclined } from './subscription-state';
import { actOnReturn, isReturn, keepSurplus } from './surplus';

const firstTold = keep({ id: notices.id, at: notices.receivedAt }, (q, { id, at }) =>
  q.insert(notices).values({ id, receivedAt: at }).onConflictDoNothing(),
);
const paymentOf = keep({ id: payments.id, provider: payments.provider }, (q, { id, provider }) =>
  q
    .select({ payment: payments, order: orders })
    .from(payments)
    .innerJoin(orders, eq(orders.id, payments.orderId))
    .where(and(eq(payments.id, id), eq(payments.provider, provider))),
);
const approve = keep({ id: payments.id, detail: payments.detail }, (q, { id, detail }) =>
  q.update(payments).set({ state: 'paid', detail }).where(eq(payments.id, id)),
);
/** The provider's own name of a payment, where the machine stopped before it was kept: a refund goes by it. */
const nameIfNone = keep({ id: payments.id, ref: payments.providerRef }, (q, { id, ref }) =>
  q
    .update(payments)
    .set({ providerRef: ref })
    .where(and(eq(payments.id, id), isNull(payments.providerRef))),
);

/** A notice of the payment interface (docs/payment-provider.md). */
export const noticeBody = z.object({
  type: z.enum(['payment.pending', 'payment.approved', 'payment.declined', 'refund.done', 'refund.failed']),
  data: z.object({
    id: z.string(),
    reference: z.string(),
    amount: z.number().int(),
    currency: z.string().length(3),
    detail: z.string().max(200).default(''),
    mandate: z.string().max(200).default(''),
  }),
});
type Notice = z.infer<typeof noticeBody>;

/** A body as data; undefined for what is no JSON: the form it should have is asked next. */
function jsonOf(raw: string): unknown {
  try {
    return JSON.parse(raw);
  } catch {
    return undefined;
  }
}

/**
 * Takes a signed notice. Verified before it is parsed (Standard Webhooks: HMAC-SHA256 over id, time and body, five
 * minutes of tolerance), acted on once by its id, in any order and however late.
 * @param provider whose secret it is signed with: it can speak of that provider's payments alone.
 */
export async function takeNotice(
  ctx: Ctx,
  provider: string,
  headers: Record<string, string>,
  raw: string,
): Promise<void> {
  const secret = knownProvider(ctx, provider)?.noticeSecret;
  try {
    if (!secret) throw new Error('no such provider');
    new Webhook(secret).verify(raw, headers);
  } catch {
    throw new Refusal('denied', 'The signature of this notice does not hold.');
  }
  const parsed = noticeBody.safeParse(jsonOf(raw));
  if (!parsed.success) throw invalid('This notice has a form that is not in the payment interface.');
  const siteId = await ctx.store.writeTogether(async (tx) => {
    const { rowsAffected: first } = await firstTold(tx, {
      id: `${provider} ${headers['webhook-id'] ?? ''}`,
      at: ctx.now(),
    });
    return first ? act(ctx, tx, parsed.data, provider) : undefined;
  });
  if (siteId) ctx.changed(siteId);
}

/** Asks the provider how a payment stands: for the shopper who is back before the notice, and for notices that never come. */
export async function reconcile(ctx: Ctx, orderToken: string): Promise<void> {
  const [open] = await ctx.store.db
    .select({ payment: payments })
    .from(payments)
    .innerJoin(orders, eq(orders.id, payments.orderId))
    .where(and(eq(orders.token, orderToken), eq(orders.state, 'waiting'), eq(payments.state, 'started')))
    .orderBy(desc(payments.createdAt))
    .limit(1);
  if (open) await reconcileOne(ctx, open.payment);
}

async function reconcileOne(ctx: Ctx, payment: typeof payments.$inferSelect): Promise<void> {
  const ref = payment.providerRef;
  if (!ref) return;
  const parsed = providerState.safeParse(
    await askProvider(ctx, payment.provider, `/payments/${encodeURIComponent(ref)}`, {}).catch(
      () => undefined,
    ),
  );
  if (!parsed.success || parsed.data.state === 'open' || parsed.data.reference !== payment.id) return;
  const { amount = payment.amount, currency = payment.currency } = parsed.data;
  const notice: Notice = {
    type: parsed.data.state === 'approved' ? 'payment.approved' : 'payment.declined',
    data: {
      id: ref,
      reference: payment.id,
      amount,
      currency,
      detail: parsed.data.detail,
      mandate: parsed.data.mandate,
    },
  };
  const siteId = await ctx.store.write((tx) => act(ctx, tx, notice, payment.provider));
  if (siteId) ctx.changed(siteId);
}

/** After this long without a notice the provider is asked, in milliseconds; and how many are asked about in one round. */
const SILENT_MS = 60_000;
const AT_ONCE = 30;
/** How long a payment is asked about: a page that was left open does not come back after days. */
const GIVEN_UP_MS = 24 * 3_600_000;

/** Asks about payments of which nothing was heard: their notice may never come. Runs in the background. */
export async function reconcileSilent(ctx: Ctx): Promise<number> {
  const now = ctx.now().getTime();
  const silent = await ctx.store.db
    .select()
    .from(payments)
    .where(
      and(
        eq(payments.state, 'started'),
        isNotNull(payments.providerRef),
        lt(payments.createdAt, new Date(now - SILENT_MS)),
      ),
    )
    .orderBy(desc(payments.createdAt))
    .limit(AT_ONCE);
  const asked = silent.filter((p) => p.createdAt.getTime() > now - GIVEN_UP_MS);
  await Promise.all(asked.map((p) => reconcileOne(ctx, p)));
  return asked.length;
}

/** Does what a notice says, once, in any order: an approval that came wins over everything else that is told of the same payment. */
export async function act(
  ctx: Ctx,
  tx: Tx,
  { type, data }: Notice,
  provider: string,
): Promise<string | undefined> {
  switch (type) {
    case 'refund.done':
    case 'refund.failed':
      return actOnMoneyBack(ctx, tx, data, type === 'refund.done', provider);
    // The provider has begun with it; what comes of it is told by another notice.
    case 'payment.pending':
      return undefined;
    default:
      return actOnPayment(ctx, tx, { type, data }, provider);
  }
}

async function actOnMoneyBack(
  ctx: Ctx,
  tx: Tx,
  { reference, detail }: Notice['data'],
  done: boolean,
  provider: string,
): Promise<string | undefined> {
  if (isReturn(reference)) return actOnReturn(ctx, tx, reference, done, detail, provider);
  return actOnRefund(ctx, tx, reference, done ? 'done' : 'failed', detail, provider);
}

async function actOnPayment(
  ctx: Ctx,
  tx: Tx,
  { type, data }: Notice,
  provider: string,
): Promise<string | undefined> {
  const [found] = await paymentOf(tx, { id: data.reference, provider });
  if (!found) {
    ctx.log.warn({ reference: data.reference }, 'a notice for a payment that is not ours');
    return undefined;
  }
  const { payment, order } = found;
  if (type === 'payment.declined') {
    if (payment.state !== 'started') return order.siteId;
    const why = data.detail || 'Declined';
    await decline(tx, order.id, payment.id, why, ctx.now());
    await chargeDeclined(tx, order, why, ctx.now());
    return order.siteId;
  }
  // What came for a payment is told once; a decline before it counts for nothing.
  if (payment.state !== 'started' && payment.state !== 'declined') return undefined;
  if (!payment.providerRef && data.id) await nameIfNone(tx, { id: payment.id, ref: data.id });
  await actOnApproval(ctx, tx, found, data, provider);
  return order.siteId;
}

/** Money came: for this order as it was asked for, else it is a surplus; another currency is told. */
async function actOnApproval(
  ctx: Ctx,
  tx: Tx,
  found: { readonly payment: typeof payments.$inferSelect; readonly order: typeof orders.$inferSelect },
  data: Notice['data'],
  provider: string,
): Promise<void> {
  const { payment, order } = found;
  if (payment.currency !== data.currency) {
    // Nobody can reckon with it here: it is told, and given back where it was taken.
    const taken = `${data.amount} of the smallest coin of ${data.currency}`;
    await event(tx, order.id, ctx.now(), 'The provider took another currency', `${taken}; look into it`);
    await tx.update(orders).set({ short: true }).where(eq(orders.id, order.id));
    return;
  }
  const unwanted = order.state === 'paid' || order.state === 'cancelled';
  if (unwanted || payment.amount !== data.amount) return keepSurplus(ctx, tx, found, data);
  await approve(tx, { id: payment.id, detail: data.detail });
  await settle(ctx, tx, order, { ...data, provider });
}
