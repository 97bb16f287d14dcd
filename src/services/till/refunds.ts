import { and, asc, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { formatMoney } from '../../core/money/format';
import { type Before, planRefund, type RefundPlan } from '../../core/till/refund';
import type { Db, Tx } from '../../data/database';
import { orders, payments, refunds } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing } from '../errors';
import { newId } from '../ids';
import type { Site } from '../sites/site';
import { act } from './payment';
import { askRefund } from './providers';
import { finishRefund } from './refund-state';
import { isShort } from './short';

export const refundInput = z.object({
  lines: z
    .array(z.object({ lineId: z.string().max(40), quantity: z.number().int().min(0).max(9_999) }))
    .max(100)
    .default([]),
  shipping: z.boolean().default(false),
  /** Minor units; null for what pieces and shipping come to. */
  amount: z
    .number()
    .int()
    .positive('An amount is more than nought.')
    .max(1_000_000_000_000)
    .nullable()
    .default(null),
  restock: z.boolean().default(false),
  reason: z.string().trim().max(300).default(''),
});
export type RefundInput = z.input<typeof refundInput>;

/** Marks a refund that gave the shipping back, among its lines. */
const SHIPPING = 'shipping';

/** What was given back of an order, or is being given back: both count. */
export async function givenBack(db: Db | Tx, orderId: string): Promise<Before> {
  const rows = (await db.select().from(refunds).where(eq(refunds.orderId, orderId))).filter(
    (r) => r.state !== 'failed',
  );
  const lines = rows.flatMap((r) => r.lines);
  return {
    amount: rows.reduce((n, r) => n + r.amount, 0),
    toVouchers: rows.reduce((n, r) => n + r.toVouchers, 0),
    lines,
    shipping: lines.some((l) => l.lineId === SHIPPING),
  };
}

const why: Record<Extract<RefundPlan, { ok: false }>['why'], (most: string) => string> = {
  nothing: () => 'Choose what comes back, or write an amount.',
  'too-much': (most) => `At most ${most} can still be given back.`,
  'too-many-pieces': () => 'More pieces would come back than were bought. Look at what came back before.',
  'unknown-line': () => 'That is not part of this order.',
};

/**
 * Gives money back: planned and kept first, then sent to the provider under the refund's own id. When the machine stops in
 * between, the next round sends the same one again, and the provider gives it back once.
 */
export async function refundOrder(
  ctx: Ctx,
  site: Site,
  orderId: string,
  asked: unknown,
  by: string,
): Promise<{ id: string; state: 'asked' | 'done' | 'failed' }> {
  const parsed = refundInput.safeParse(asked);
  if (!parsed.success) throw invalid(parsed.error.issues[0]?.message ?? 'This refund cannot be worked out.');
  const made = await ctx.store.write((tx) => keepRefund(ctx, tx, site, orderId, parsed.data, by));
  ctx.changed(site.row.id);
  if (made.viaProvider)
    await sendRefund(ctx, made.id).catch((error: unknown) =>
      ctx.log.warn({ refund: made.id, error: String(error) }, 'a refund waits for its provider'),
    );
  const [now] = await ctx.store.db
    .select({ state: refunds.state, detail: refunds.detail })
    .from(refunds)
    .where(eq(refunds.id, made.id));
  if (now?.state === 'failed')
    throw conflict(
      `The money could not be given back: ${now.detail || 'the provider refused it'}. Nothing was changed.`,
    );
  return { id: made.id, state: now?.state ?? 'asked' };
}

type Order = typeof orders.$inferSelect;

/** The order, while money of it can be given back. @throws Refusal where it cannot, with what to do. */
async function refundable(tx: Tx, site: Site, orderId: string): Promise<Order> {
  const [order] = await tx
    .select()
    .from(orders)
    .where(and(eq(orders.id, orderId), eq(orders.siteId, site.row.id)));
  if (!order) throw missing('This order is not known here.');
  if (order.paidAt === null) throw conflict('Nothing was paid for this order, so nothing can be given back.');
  if (order.lacks)
    throw conflict(
      'This order waits for you. Accept it first, or cancel it: that refunds all that was paid.',
    );
  return order;
}

/** Plans a refund and keeps it; what no provider has a part in is finished at once. */
async function keepRefund(
  ctx: Ctx,
  tx: Tx,
  site: Site,
  orderId: string,
  input: z.output<typeof refundInput>,
  by: string,
): Promise<{ readonly id: string; readonly viaProvider: boolean }> {
  const order = await refundable(tx, site, orderId);
  const plan = planRefund(order.worked, input, await givenBack(tx, order.id));
  if (!plan.ok) {
    const most = formatMoney({ amount: plan.most, currency: order.currency }, site.row.locale);
    throw invalid(why[plan.why](most), { most: plan.most });
  }
  const [paid] = await tx
    .select()
    .from(payments)
    .where(and(eq(payments.orderId, order.id), eq(payments.state, 'paid')))
    .orderBy(asc(payments.createdAt))
    .limit(1);
  const viaProvider = plan.toMoney > 0 && paid?.provider ? paid : undefined;
  const refund = {
    id: newId(),
    orderId: order.id,
    paymentId: viaProvider?.id ?? null,
    amount: plan.amount,
    toVouchers: plan.toVouchers,
    restock: input.restock,
    reason: input.reason,
    state: 'asked' as const,
    detail: '',
    createdAt: ctx.now(),
    lines: [
      ...input.lines.filter((l) => l.quantity > 0),
      ...(input.shipping ? [{ lineId: SHIPPING, quantity: 1 }] : []),
    ],
  };
  await tx.insert(refunds).values(refund);
  const refunded = order.refunded + plan.amount;
  const after = { ...order, refunded };
  await tx
    .update(orders)
    .set({ refunded, short: await isShort(tx, after) })
    .where(eq(orders.id, order.id));
  const how = plan.toMoney > 0 ? `by hand, by ${by}` : 'onto the voucher';
  if (!viaProvider) await finishRefund(ctx, tx, refund, after, how);
  return { id: refund.id, viaProvider: viaProvider !== undefined };
}

async function sendRefund(ctx: Ctx, id: string): Promise<void> {
  const [found] = await ctx.store.db
    .select({ refund: refunds, payment: payments, order: orders })
    .from(refunds)
    .innerJoin(payments, eq(payments.id, refunds.paymentId))
    .innerJoin(orders, eq(orders.id, refunds.orderId))
    .where(and(eq(refunds.id, id), eq(refunds.state, 'asked')));
  if (!found) return;
  const { refund, payment, order } = found;
  const amount = refund.amount - refund.toVouchers;
  const answer = await askRefund(ctx, payment, refund.id, amount);
  if (answer.state === 'open') return;
  await ctx.store.write((tx) =>
    act(
      ctx,
      tx,
      {
        type: answer.state === 'done' ? 'refund.done' : 'refund.failed',
        data: {
          id: '',
          reference: refund.id,
          amount,
          currency: order.currency,
          detail: answer.detail || (payment.detail ?? ''),
          mandate: '',
        },
      },
      payment.provider,
    ),
  );
  ctx.changed(order.siteId);
}

/** Sends refunds again of which nothing was heard. Runs in the background. */
export async function resendRefunds(ctx: Ctx): Promise<number> {
  const late = await ctx.store.db
    .select({ id: refunds.id })
    .from(refunds)
    .where(and(eq(refunds.state, 'asked'), sql`${refunds.createdAt} < ${ctx.now().getTime() - 60_000}`))
    .limit(20);
  for (const { id } of late)
    await sendRefund(ctx, id).catch((error: unknown) =>
      ctx.log.warn({ refund: id, error: String(error) }, 'a refund waits for its provider'),
    );
  return late.length;
}
