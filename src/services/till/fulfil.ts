import { and, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { may, orderActs, type OrderAct } from '../../core/till/order-life';
import { readTracking } from '../../core/till/s10';
import type { Tx } from '../../data/database';
import { letters, orders, payments, subscriptions, voucherUses, discountUses } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, isRefusal, missing } from '../errors';
import { letterOfSending } from '../mail/occasions';
import type { Site } from '../sites/site';
import { factsOf } from './order-facts';
import { closePages, openPages } from './providers';
import { restock, stopVouchers } from './refund-state';
import { givenBack, refundOrder } from './refunds';
import { readRules } from '../rules/rules';
import { accept, event, settle } from './settle';
import { surplusOf } from './short';

const asked = z.object({
  act: z.enum(orderActs),
  carrier: z.string().trim().max(60).default(''),
  tracking: z.string().trim().max(60).default(''),
  /** The owner has looked at a number whose check digit is wrong, and means it. */
  anyway: z.boolean().default(false),
  text: z.string().trim().max(1_000).default(''),
  /** When an order is cancelled: its pieces go back on the shelf, what was paid goes back. */
  restock: z.boolean().default(true),
  refund: z.unknown().optional(),
});
type Asked = z.output<typeof asked>;
/** One act of the owner's, with what it needs. */
export type OrderAsked = z.input<typeof asked>;

/** Which act is asked for; nothing where that cannot be read. */
export function actIn(input: unknown): OrderAct | undefined {
  const read = asked.safeParse(input);
  return read.success ? read.data.act : undefined;
}

/** What the owner does with an order: one act, judged by the rules of its life, kept in its timeline, with the letter that belongs to it. */
export async function actOnOrder(
  ctx: Ctx,
  site: Site,
  orderId: string,
  input: unknown,
  by: string,
): Promise<{ done: true }> {
  const parsed = asked.safeParse(input);
  if (!parsed.success) throw invalid(parsed.error.issues[0]?.message ?? 'This cannot be done with an order.');
  const a = parsed.data;
  if (a.act === 'refund') {
    await refundOrder(ctx, site, orderId, a.refund, by);
    return { done: true };
  }
  const { pay } = await readRules(ctx.store.db, site.row.id);
  const giveBack = await ctx.store.write(async (tx) => {
    const [order] = await tx
      .select()
      .from(orders)
      .where(and(eq(orders.id, orderId), eq(orders.siteId, site.row.id)));
    if (!order) throw missing('This order is not known here.');
    const facts = factsOf(order, pay);
    if (!may(a.act, facts))
      throw conflict(
        'That cannot be done with this order now. It may have been changed in another window; look at it again.',
      );
    await acts[a.act as Exclude<OrderAct, 'refund'>]({ ctx, tx, order, by, ...a });
    return a.act === 'cancel' ? facts.refundable : 0;
  });
  ctx.changed(site.row.id);
  if (a.act === 'mark-paid' || a.act === 'cancel')
    await closePages(ctx, await openPages(ctx.store.db, orderId, ''));
  if (giveBack > 0) {
    await refundOrder(ctx, site, orderId, { amount: giveBack, reason: a.text }, by).catch(
      (error: unknown) => {
        throw isRefusal(error)
          ? conflict(
              `The order is cancelled, but its money is not back: ${error.message.replace(/ Nothing was changed\.$/, '')} Give it back from the order.`,
            )
          : error;
      },
    );
  }
  return { done: true };
}

interface Doing extends Asked {
  readonly ctx: Ctx;
  readonly tx: Tx;
  readonly order: typeof orders.$inferSelect;
  readonly by: string;
}

const set = (d: Doing, values: Partial<typeof orders.$inferInsert>) =>
  d.tx.update(orders).set(values).where(eq(orders.id, d.order.id));

/** The last that was done with an order, and what it is without. */
function lastDone(order: Doing['order']): readonly [string, Partial<typeof orders.$inferInsert>] {
  if (order.sentAt) return ['Sent', { sentAt: null, parcels: order.parcels.slice(0, -1) }];
  return order.collectedAt ? ['Collected', { collectedAt: null }] : ['Packed', { packedAt: null }];
}

const acts: Record<Exclude<OrderAct, 'refund'>, (d: Doing) => Promise<void>> = {
  async 'mark-paid'(d) {
    await d.tx
      .update(payments)
      .set({ state: 'paid', detail: `marked by ${d.by}` })
      .where(and(eq(payments.orderId, d.order.id), eq(payments.provider, ''), eq(payments.state, 'started')));
    await settle(d.ctx, d.tx, d.order, {
      provider: '',
      detail: [`Marked as paid by ${d.by}`, d.text].filter(Boolean).join('; '),
      mandate: '',
    });
  },
  async accept(d) {
    await accept(d.ctx, d.tx, d.order, d.by);
  },
  async pack(d) {
    await set(d, { packedAt: d.ctx.now() });
    await event(d.tx, d.order.id, d.ctx.now(), 'Packed', d.text);
  },
  async send(d) {
    const now = d.ctx.now();
    const tracking = readTracking(d.tracking);
    if (tracking.kind === 'wrong' && !d.anyway)
      throw invalid(
        `${tracking.number} looks like an international tracking number, but its ninth digit should be ${tracking.digit}. Look at the label again.`,
        { field: 'tracking', digit: tracking.digit },
      );
    const number = tracking.kind === 'none' ? '' : tracking.number;
    await set(d, {
      sentAt: now,
      packedAt: d.order.packedAt ?? now,
      parcels: [...d.order.parcels, { carrier: d.carrier, number, at: now.toISOString() }],
    });
    await event(d.tx, d.order.id, now, 'Sent', [d.carrier, number].filter(Boolean).join(', '));
    await letterOfSending(d.ctx, d.tx, d.order);
  },
  async collect(d) {
    await set(d, { collectedAt: d.ctx.now(), packedAt: d.order.packedAt ?? d.ctx.now() });
    await event(d.tx, d.order.id, d.ctx.now(), 'Collected', d.text);
  },
  async cancel(d) {
    const now = d.ctx.now();
    // Pieces that came back before are on the shelf already, or the owner kept them off it.
    const { lines: before } = await givenBack(d.tx, d.order.id);
    const left = d.order.worked.lines.map((l) => ({
      lineId: l.id,
      quantity: l.quantity - before.reduce((n, b) => n + (b.lineId === l.id ? b.quantity : 0), 0),
    }));
    if (d.restock) await restock(d.tx, d.order, left, now);
    const toReturn = await surplusOf(d.tx, d.order.id);
    await set(d, { state: 'cancelled', cancelledAt: now, short: toReturn.length > 0, lacks: null });
    // What was never paid for gives its vouchers and its use of a code back at once; what was paid goes back as a refund.
    if (d.order.paidAt === null) {
      await d.tx
        .update(voucherUses)
        .set({ state: 'released' })
        .where(and(eq(voucherUses.orderId, d.order.id), inArray(voucherUses.state, ['held', 'used'])));
      await d.tx
        .update(discountUses)
        .set({ state: 'released' })
        .where(and(eq(discountUses.orderId, d.order.id), inArray(discountUses.state, ['held', 'used'])));
    }
    await stopVouchers(d.tx, d.order, left, now);
    await d.tx
      .update(subscriptions)
      .set({ state: 'stopped', reason: 'Its order was cancelled' })
      .where(and(eq(subscriptions.orderId, d.order.id), eq(subscriptions.state, 'running')));
    await d.tx
      .update(payments)
      .set({ state: 'declined', detail: 'cancelled' })
      .where(and(eq(payments.orderId, d.order.id), eq(payments.provider, ''), eq(payments.state, 'started')));
    await event(d.tx, d.order.id, now, 'Cancelled', [`By ${d.by}`, d.text].filter(Boolean).join('; '));
  },
  async 'take-back'(d) {
    const { order } = d;
    const [what, undone] = lastDone(order);
    await set(d, undone);
    // A letter that has not gone out yet does not go out.
    const unsent = order.sentAt
      ? await d.tx
          .delete(letters)
          .where(and(eq(letters.orderId, order.id), eq(letters.kind, 'sent'), eq(letters.state, 'waiting')))
          .returning({ id: letters.id })
      : [];
    await event(
      d.tx,
      order.id,
      d.ctx.now(),
      `Taken back: ${what.toLowerCase()}`,
      order.sentAt && unsent.length === 0 ? 'The letter about it had gone out already' : '',
    );
  },
  async note(d) {
    if (!d.text) throw invalid('Write the note first.', { field: 'text' });
    await event(d.tx, d.order.id, d.ctx.now(), `Note by ${d.by}`, d.text);
  },
};
