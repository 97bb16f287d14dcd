import { and, eq, lt } from 'drizzle-orm';
import { z } from 'zod';
import type { Tx } from '../../data/database';
import { keep } from '../../data/kept-queries';
import { orders, payments } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing } from '../errors';
import type { Site } from '../sites/site';
import { moneyIn } from './order-money';
import { askRefund } from './providers';
import { event } from './settle';
import { isShort } from './short';

/**
 * Money that came and no order wanted: a second payment of the same order, one of an order that was cancelled, another amount
 * than was asked for. It is kept apart from what pays for orders (no invoice, no takings, no refund of goods counts it), and goes
 * back whole in one press: surplus, then returning while the provider has not answered, then returned.
 */
type Payment = typeof payments.$inferSelect;
type Order = typeof orders.$inferSelect;

/** How the reference of such a refund begins; no refund's own id does. */
const REFERENCE = 'surplus-';

export const isReturn = (reference: string): boolean => reference.startsWith(REFERENCE);

/** What the provider knows a try by: the same while it is asked again, another for another try after it failed. */
const referenceOf = ({ id, returningAt }: Pick<Payment, 'id' | 'returningAt'>): string =>
  `${REFERENCE}${id}-${returningAt?.getTime() ?? 0}`;

/** Notes money that no order wanted, as loudly as anything else that the owner has to look into. @param taken minor units. */
export async function keepSurplus(
  ctx: Ctx,
  tx: Tx,
  { payment, order }: { readonly payment: Payment; readonly order: Order },
  taken: { readonly amount: number; readonly detail: string },
): Promise<void> {
  await tx
    .update(payments)
    .set({ state: 'surplus', amount: taken.amount, detail: taken.detail })
    .where(eq(payments.id, payment.id));
  await tx.update(orders).set({ short: true }).where(eq(orders.id, order.id));
  const money = await moneyIn(tx, order);
  const [what, detail] = surplusWords(order.state, money(taken.amount), money(payment.amount));
  await event(tx, order.id, ctx.now(), what, detail);
}

function surplusWords(state: Order['state'], taken: string, asked: string): readonly [string, string] {
  if (taken !== asked)
    return [
      'The provider took another amount',
      `${taken} instead of ${asked}. The order is not paid by it: refund it, and ask the buyer.`,
    ];
  if (state === 'cancelled') return ['Paid after it was cancelled', `Refund the ${taken}.`];
  return ['Paid a second time', `Refund one of the two, ${taken}.`];
}

const surplusAsked = z.object({ payment: z.string().max(80) });
export type SurplusAsked = z.input<typeof surplusAsked>;

/**
 * Sends a payment back that no order wanted. Kept first, then asked of the provider under a reference of its own: cut off in
 * between, the next round asks again, and it goes back once.
 */
export async function returnSurplus(
  ctx: Ctx,
  site: Site,
  orderId: string,
  asked: unknown,
  by: string,
): Promise<{ state: 'returning' | 'returned' }> {
  const parsed = surplusAsked.safeParse(asked);
  if (!parsed.success) throw invalid('Say which payment is to be refunded.');
  const paymentId = parsed.data.payment;
  await ctx.store.write(async (tx) => {
    const [found] = await tx
      .select({ payment: payments, order: orders })
      .from(payments)
      .innerJoin(orders, eq(orders.id, payments.orderId))
      .where(and(eq(payments.id, paymentId), eq(orders.id, orderId), eq(orders.siteId, site.row.id)));
    if (!found) throw missing('This payment is not known here.');
    if (found.payment.state !== 'surplus')
      throw conflict('This payment is on its way back already, or it pays for the order.');
    await tx
      .update(payments)
      .set({ state: 'returning', returningAt: ctx.now() })
      .where(eq(payments.id, paymentId));
    const money = await moneyIn(tx, found.order);
    await event(tx, orderId, ctx.now(), `Refunding ${money(found.payment.amount)}`, `Asked by ${by}`);
  });
  ctx.changed(site.row.id);
  await sendReturn(ctx, paymentId).catch((error: unknown) =>
    ctx.log.warn({ payment: paymentId, error: String(error) }, 'a refund waits for its provider'),
  );
  const [now] = await ctx.store.db.select().from(payments).where(eq(payments.id, paymentId));
  if (now?.state === 'surplus')
    throw conflict(`The money could not be refunded: ${now.detail || 'the provider refused it'}.`);
  return { state: now?.state === 'returned' ? 'returned' : 'returning' };
}

async function sendReturn(ctx: Ctx, paymentId: string): Promise<void> {
  const [payment] = await ctx.store.db
    .select()
    .from(payments)
    .where(and(eq(payments.id, paymentId), eq(payments.state, 'returning')));
  if (!payment) return;
  const reference = referenceOf(payment);
  const answer = await askRefund(ctx, payment, reference, payment.amount);
  if (answer.state === 'open') return;
  const siteId = await ctx.store.write((tx) =>
    actOnReturn(ctx, tx, reference, answer.state === 'done', answer.detail, payment.provider),
  );
  if (siteId) ctx.changed(siteId);
}

const returningOf = keep({ id: payments.id, provider: payments.provider }, (q, { id, provider }) =>
  q
    .select({ payment: payments, order: orders })
    .from(payments)
    .innerJoin(orders, eq(orders.id, payments.orderId))
    .where(and(eq(payments.id, id), eq(payments.provider, provider), eq(payments.state, 'returning'))),
);

/** What the provider says of a payment that goes back, once. @returns the site it is about. */
export async function actOnReturn(
  ctx: Ctx,
  tx: Tx,
  reference: string,
  done: boolean,
  detail: string,
  provider: string,
): Promise<string | undefined> {
  const [, id = ''] = new RegExp(`^${REFERENCE}(.+)-\\d+$`).exec(reference) ?? [];
  const [found] = await returningOf(tx, { id, provider });
  // What is told of an earlier try says nothing of this one.
  if (!found || referenceOf(found.payment) !== reference) return undefined;
  const { payment, order } = found;
  await tx
    .update(payments)
    .set({ state: done ? 'returned' : 'surplus', detail: detail || payment.detail })
    .where(eq(payments.id, payment.id));
  const money = await moneyIn(tx, order);
  if (done) {
    await event(tx, order.id, ctx.now(), `Refunded ${money(payment.amount)}`, detail);
    await tx
      .update(orders)
      .set({ short: await isShort(tx, order) })
      .where(eq(orders.id, order.id));
  } else
    await event(
      tx,
      order.id,
      ctx.now(),
      'The refund did not go through',
      `${detail || 'The provider refused it'}. Try again, or give the ${money(payment.amount)} back by hand.`,
    );
  return order.siteId;
}

/** Asks again about payments that are on their way back and of which nothing was heard. Runs in the background. */
export async function resendReturns(ctx: Ctx): Promise<number> {
  const late = await ctx.store.db
    .select({ id: payments.id })
    .from(payments)
    .where(
      and(eq(payments.state, 'returning'), lt(payments.returningAt, new Date(ctx.now().getTime() - 60_000))),
    )
    .limit(20);
  for (const { id } of late)
    await sendReturn(ctx, id).catch((error: unknown) =>
      ctx.log.warn({ payment: id, error: String(error) }, 'a refund waits for its provider'),
    );
  return late.length;
}
