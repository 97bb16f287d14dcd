import { and, eq, isNotNull, ne } from 'drizzle-orm';
import { z } from 'zod';
import { stepWordsIn } from '../../core/languages/languages';
import { isProvider, type ProviderName, providerNames } from '../../core/till/pay-kinds';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { Db, Tx } from '../../data/database';
import { keep } from '../../data/kept-queries';
import { payments } from '../../data/schema';
import type { Ctx, PaymentProvider } from '../context';
import { unreachable } from '../errors';
import { partAddress, shopUrl } from '../sites/addresses';
import type { Site } from '../sites/site';
import { type Asked, askJson } from './ask-json';
import { decline } from './settle';

/** Talks to payment providers: the one place that sends them anything (docs/payment-provider.md). */

const providerAnswer = z.object({ id: z.string(), url: z.url({ protocol: /^https?$/ }) });
export const providerState = z.object({
  id: z.string(),
  reference: z.string(),
  state: z.enum(['open', 'approved', 'declined']),
  /** What was taken, in minor units; a provider that does not say took what it was asked for. */
  amount: z.number().int().optional(),
  currency: z.string().length(3).optional(),
  detail: z.string().default(''),
  mandate: z.string().max(200).default(''),
});

/** How long a provider may take to answer, in milliseconds. */
const PATIENCE_MS = 10_000;

export const connected = (ctx: Ctx): ProviderName[] => providerNames.filter((name) => ctx.providers[name]);

/** A provider that is set up, by the name that a payment or a notice gives it. */
export const knownProvider = (ctx: Ctx, name: string): PaymentProvider | undefined =>
  isProvider(name) ? ctx.providers[name] : undefined;

/** @throws when no such provider is set up: the way should not have been offered. */
export function providerOf(ctx: Ctx, name: string): PaymentProvider {
  const found = knownProvider(ctx, name);
  if (!found) throw unreachable('This way to pay is not set up any more.');
  return found;
}

export async function askProvider(ctx: Ctx, name: string, path: string, asked: Asked): Promise<unknown> {
  const provider = providerOf(ctx, name);
  return askJson(
    `${provider.api}${path}`,
    { ...asked, headers: { authorization: `Bearer ${provider.key}`, ...asked.headers } },
    PATIENCE_MS,
  );
}

const nameAtProvider = keep(
  { id: payments.id, provider: payments.provider, ref: payments.providerRef },
  (q, { id, provider, ref }) =>
    q
      .update(payments)
      .set({ providerRef: ref })
      .where(and(eq(payments.id, id), eq(payments.provider, provider))),
);

export interface Start {
  readonly orderId: string;
  readonly token: string;
  readonly paymentId: string;
  readonly provider: string;
  readonly worked: WorkedSum;
  readonly way: 'site' | 'ordinary';
  readonly test: boolean;
}

/** Asks the provider for a payment page. When it does not answer, what was held is given back at once. */
export async function startPayment(ctx: Ctx, site: Site, s: Start): Promise<string> {
  const body = {
    reference: s.paymentId,
    amount: s.worked.total,
    currency: s.worked.currency,
    payee: site.row.name,
    description: s.worked.lines
      .map((l) => `${l.quantity} x ${l.name}`)
      .join(', ')
      .slice(0, 200),
    approvedUrl: backTo(ctx, site, s.way, 'thanks', s.token),
    declinedUrl: backTo(ctx, site, s.way, 'failed', s.token),
    noticeUrl: noticeUrl(ctx, s.provider),
    // Asked for only where something is charged again: a card is not kept for nothing.
    ...(s.worked.lines.some((l) => l.every) && { again: true }),
    ...(s.test && { test: true }),
  };
  const answer = await askProvider(ctx, s.provider, '/payments', {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'idempotency-key': s.paymentId },
  }).catch(() => undefined);
  const parsed = providerAnswer.safeParse(answer);
  if (!parsed.success) {
    await ctx.store.write(async (tx) => {
      await decline(tx, s.orderId, s.paymentId, 'The provider did not answer', ctx.now());
    });
    ctx.changed(site.row.id);
    throw unreachable(stepWordsIn(site.row.locale).cardsSilent);
  }
  await ctx.store.writeTogether((tx) =>
    nameAtProvider(tx, { id: s.paymentId, provider: s.provider, ref: parsed.data.id }),
  );
  return parsed.data.url;
}

const refundAnswer = z.object({
  state: z.enum(['open', 'done', 'failed']),
  detail: z.string().max(200).default(''),
});

/**
 * Asks a provider to give money back. The same reference is the same refund there, done or failed: whoever tries again after a
 * failure takes another. @param amount minor units. @throws when it does not answer: nothing is known then.
 */
export async function askRefund(
  ctx: Ctx,
  {
    provider,
    providerRef,
    currency,
  }: Pick<typeof payments.$inferSelect, 'provider' | 'providerRef' | 'currency'>,
  reference: string,
  amount: number,
): Promise<z.output<typeof refundAnswer>> {
  const body = { payment: providerRef, reference, amount, currency, noticeUrl: noticeUrl(ctx, provider) };
  return refundAnswer.parse(
    await askProvider(ctx, provider, '/refunds', {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'idempotency-key': reference },
    }),
  );
}

/** Payments whose pages a shopper may still have open. */
export type OpenPage = Pick<typeof payments.$inferSelect, 'id' | 'provider' | 'providerRef'>;

/** Payment pages of an order that its buyer may still have open, but the one that is used now. */
export const openPages = (db: Db | Tx, orderId: string, but: string): Promise<OpenPage[]> =>
  db
    .select({ id: payments.id, provider: payments.provider, providerRef: payments.providerRef })
    .from(payments)
    .where(
      and(
        eq(payments.orderId, orderId),
        eq(payments.state, 'started'),
        isNotNull(payments.providerRef),
        ne(payments.id, but),
      ),
    );

/**
 * Takes payment pages back that belong to a basket nobody wants any more. A provider that cannot, or does
 * not answer, changes nothing: whatever is
 * paid there all the same is judged when it is told.
 */
export async function closePages(ctx: Ctx, pages: readonly OpenPage[]): Promise<void> {
  await Promise.all(
    pages.map(async ({ id, provider, providerRef }) => {
      if (!providerRef || !knownProvider(ctx, provider)) return;
      const path = `/payments/${encodeURIComponent(providerRef)}/close`;
      const answer = await askProvider(ctx, provider, path, { method: 'POST', body: '{}' }).catch(
        () => undefined,
      );
      const parsed = providerState.safeParse(answer);
      if (!parsed.success || parsed.data.state !== 'declined' || parsed.data.reference !== id) return;
      await ctx.store.write((tx) =>
        tx
          .update(payments)
          .set({ state: 'declined', detail: 'Closed: nothing is to be paid there any more' })
          .where(and(eq(payments.id, id), eq(payments.state, 'started'))),
      );
    }),
  );
}

export const noticeUrl = (ctx: Ctx, provider: string): string =>
  `${ctx.addresses.shop}/v1/notices/${provider}`;

/** Every way out of paying leads back to the site; without script, to the shop's ordinary pages. */
export function backTo(
  ctx: Ctx,
  site: Site,
  way: 'site' | 'ordinary',
  part: 'thanks' | 'failed',
  token: string,
): string {
  const own = way === 'site' ? partAddress(site, part) : undefined;
  if (own === undefined) return `${shopUrl(ctx, site)}/${part}/${token}`;
  const back = new URL(own);
  back.searchParams.set('order', token);
  return back.href;
}
