import { and, asc, eq, lte, sql } from 'drizzle-orm';
import { z } from 'zod';
import { nextTurn } from '../../core/till/subscription';
import type { TillRules } from '../../core/till/rules';
import { orderEvents, orderLines, orders, payments, sites, subscriptions } from '../../data/schema';
import type { Ctx } from '../context';
import { missing } from '../errors';
import { buyable, partsIn, piecesIn } from '../goods/available';
import { newId, newToken } from '../ids';
import type { Site } from '../sites/site';
import { goesBy } from './order-facts';
import { act } from './payment';
import { askProvider, noticeUrl } from './providers';
import { chargedAgain } from './pricing';
import { hold } from './reserve';
import { readRules } from '../rules/rules';
import { shopNow } from './shop-now';

/**
 * What is charged again. A charge is an order of its own, made first and then sent to the provider under a reference that
 * names subscription, turn and try: when the machine stops in between, the next round sends the same one again, and the
 * provider charges once.
 */
type Subscription = typeof subscriptions.$inferSelect;

const chargeAnswer = z.object({
  id: z.string(),
  state: z.enum(['open', 'approved', 'declined']),
  detail: z.string().max(200).default(''),
});

/** Subscriptions charged in one round; the rest wait for the next. And how long a sold-out one waits, in milliseconds. */
const AT_ONCE = 50;
const WAIT_MS = 86_400_000;

/** Charges what is due. Runs in the background. @returns how many were sent to the provider. */
export async function chargeDue(ctx: Ctx): Promise<number> {
  const due = await ctx.store.db
    .select()
    .from(subscriptions)
    .where(and(eq(subscriptions.state, 'running'), lte(subscriptions.nextAt, ctx.now())))
    .orderBy(asc(subscriptions.nextAt))
    .limit(AT_ONCE);
  let sent = 0;
  for (const s of due)
    if (
      await charge(ctx, s.id).catch(
        (error: unknown) =>
          void ctx.log.error({ subscription: s.id, error: String(error) }, 'charging again failed'),
      )
    )
      sent++;
  return sent;
}

async function charge(ctx: Ctx, id: string): Promise<boolean> {
  const made = await ctx.store.write(async (tx) => {
    // Read again inside: it may have been stopped, or charged by another process.
    const [s] = await tx
      .select()
      .from(subscriptions)
      .where(
        and(
          eq(subscriptions.id, id),
          eq(subscriptions.state, 'running'),
          lte(subscriptions.nextAt, ctx.now()),
        ),
      );
    if (!s) return undefined;
    const [site] = await tx.select().from(sites).where(eq(sites.id, s.siteId));
    if (!site) return undefined;
    const reference = `${s.id}-${s.turn}-${s.declined + 1}`;
    const [sent] = s.pending
      ? await tx.select({ amount: payments.amount }).from(payments).where(eq(payments.id, reference))
      : [];
    if (sent) return { s, reference, payee: site.name, amount: sent.amount };
    const now = ctx.now();
    const shop = await shopNow(ctx, tx, s.siteId);
    const pieces = piecesIn([s.line], partsIn(shop.goods));
    const free = await buyable(shop, pieces);
    if (pieces.some((p) => (free.get(p.variantId) ?? p.quantity) < p.quantity)) {
      await tx
        .update(subscriptions)
        .set({ nextAt: new Date(now.getTime() + WAIT_MS) })
        .where(eq(subscriptions.id, s.id));
      await tx.insert(orderEvents).values({
        orderId: s.orderId,
        at: now,
        what: 'Not charged: there is none left',
        detail: 'Looked at again in a day',
      });
      return undefined;
    }
    const worked = chargedAgain(
      shop.rules,
      { currency: s.currency, locale: site.locale },
      s.line,
      placeOf(s),
    );
    const orderId = newId();
    await tx.insert(orders).values({
      id: orderId,
      token: newToken(),
      siteId: s.siteId,
      cart: '',
      state: 'waiting',
      buyer: s.buyer,
      worked,
      total: worked.total,
      currency: s.currency,
      way: 'ordinary',
      createdAt: now,
      subscriptionId: s.id,
      goes: goesBy({ worked }) ?? ('' as const),
    });
    const [line] = worked.lines;
    if (line)
      await tx.insert(orderLines).values({
        id: newId(),
        orderId,
        goodsId: line.goodsId,
        variantId: line.variantId,
        name: line.name,
        particulars: [...line.particulars],
        unit: line.unit,
        quantity: line.quantity,
        amount: line.amount,
      });
    await hold(tx, orderId, pieces, now);
    await tx.insert(payments).values({
      id: reference,
      orderId,
      amount: worked.total,
      currency: s.currency,
      state: 'started',
      createdAt: now,
    });
    await tx.insert(orderEvents).values({
      orderId,
      at: now,
      what: `Charged again: ${s.line.name}`,
      detail: s.declined
        ? `Tried again, ${s.declined} declined before`
        : `The ${s.charges + 2}. payment of this subscription`,
    });
    await tx.update(subscriptions).set({ pending: orderId }).where(eq(subscriptions.id, s.id));
    return { s: { ...s, pending: orderId }, reference, payee: site.name, amount: worked.total };
  });
  if (!made) return false;
  ctx.changed(made.s.siteId);
  await ask(ctx, made);
  return true;
}

/** Sends a charge. An answer that says how it went is acted on like a notice; otherwise the notice tells. */
async function ask(
  ctx: Ctx,
  { s, reference, payee, amount }: { s: Subscription; reference: string; payee: string; amount: number },
): Promise<void> {
  const body = {
    mandate: s.mandate,
    reference,
    amount,
    currency: s.currency,
    payee,
    description: `${s.line.quantity} x ${s.line.name}`.slice(0, 200),
    noticeUrl: noticeUrl(ctx, 'card'),
  };
  const answer = chargeAnswer.safeParse(
    await askProvider(ctx, 'card', '/charges', {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'idempotency-key': reference },
    }),
  );
  if (!answer.success)
    throw new Error('the provider answered in a form that is not in the payment interface');
  const { id, state, detail } = answer.data;
  const siteId = await ctx.store.write(async (tx) => {
    await tx.update(payments).set({ providerRef: id }).where(eq(payments.id, reference));
    if (state === 'open') return undefined;
    return act(
      ctx,
      tx,
      {
        type: state === 'approved' ? 'payment.approved' : 'payment.declined',
        data: { id, reference, amount, currency: s.currency, detail, mandate: '' },
      },
      'card',
    );
  });
  if (siteId) ctx.changed(siteId);
}

export interface SubscriptionView {
  readonly id: string;
  readonly name: string;
  readonly amount: number;
  readonly currency: string;
  readonly every: NonNullable<Subscription['line']['every']>;
  readonly running: boolean;
  readonly nextAt: string;
  readonly charges: number;
  readonly reason: string;
  readonly orderId: string;
}

const placeOf = (s: Subscription) => ({ country: s.buyer.country, state: '', postcode: s.buyer.postcode });

const viewOf = (s: Subscription, rules: TillRules): SubscriptionView => ({
  id: s.id,
  name: s.line.name,
  amount: chargedAgain(rules, s, s.line, placeOf(s)).total,
  currency: s.currency,
  every: s.line.every ?? { count: 1, unit: 'month' },
  running: s.state === 'running',
  nextAt: s.nextAt.toISOString(),
  charges: s.charges,
  reason: s.reason,
  orderId: s.orderId,
});

/** Subscriptions of a shopper, by the mail address they ordered with; those that run first. */
export async function subscriptionsOf(ctx: Ctx, siteId: string, email: string): Promise<SubscriptionView[]> {
  const rules = await readRules(ctx.store.db, siteId);
  return (
    await ctx.store.db
      .select()
      .from(subscriptions)
      .where(
        and(
          eq(subscriptions.siteId, siteId),
          sql`lower(json_extract(buyer, '$.email')) = ${email.toLowerCase()}`,
        ),
      )
      .orderBy(asc(subscriptions.state), asc(subscriptions.nextAt))
  ).map((s) => viewOf(s, rules));
}

export async function subscriptionsOfSite(ctx: Ctx, siteId: string): Promise<SubscriptionView[]> {
  const rules = await readRules(ctx.store.db, siteId);
  return (await ctx.store.db.select().from(subscriptions).where(eq(subscriptions.siteId, siteId))).map((s) =>
    viewOf(s, rules),
  );
}

/** Stops a subscription: nothing is charged any more. @param email of the shopper who stops it; nothing for the owner. */
export async function stopSubscription(
  ctx: Ctx,
  site: Site,
  id: string,
  by: string,
  email?: string,
): Promise<void> {
  await ctx.store.write(async (tx) => {
    const [s] = await tx
      .select()
      .from(subscriptions)
      .where(and(eq(subscriptions.id, id), eq(subscriptions.siteId, site.row.id)));
    if (!s || (email !== undefined && s.buyer.email.toLowerCase() !== email.toLowerCase()))
      throw missing('This subscription is not known here.');
    if (s.state === 'stopped') return;
    const now = ctx.now();
    await tx
      .update(subscriptions)
      .set({ state: 'stopped', reason: `Stopped by ${by}` })
      .where(eq(subscriptions.id, id));
    await tx.insert(orderEvents).values({
      orderId: s.orderId,
      at: now,
      what: `Subscription stopped: ${s.line.name}`,
      detail: `By ${by}`,
    });
  });
}

/** Lets a stopped subscription run again, from its next turn on; turns that passed meanwhile are not charged. */
export async function resumeSubscription(ctx: Ctx, site: Site, id: string): Promise<void> {
  await ctx.store.write(async (tx) => {
    const [s] = await tx
      .select()
      .from(subscriptions)
      .where(and(eq(subscriptions.id, id), eq(subscriptions.siteId, site.row.id)));
    if (!s) throw missing('This subscription is not known here.');
    const now = ctx.now();
    const { turn, at: nextAt } = nextTurn(
      s.startedAt,
      s.line.every ?? { count: 1, unit: 'month' },
      s.turn - 1,
      now,
    );
    await tx
      .update(subscriptions)
      .set({ state: 'running', reason: '', declined: 0, pending: null, turn, nextAt })
      .where(eq(subscriptions.id, id));
    await tx.insert(orderEvents).values({
      orderId: s.orderId,
      at: now,
      what: `Subscription runs again: ${s.line.name}`,
      detail: `Charged again on ${nextAt.toISOString().slice(0, 10)}`,
    });
  });
}
