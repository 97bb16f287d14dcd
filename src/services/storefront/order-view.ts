import { dateFormat } from '../../core/intl';
import { and, asc, desc, eq } from 'drizzle-orm';
import type { OrderPageView } from '../../core/storefront/views';
import { fill, stepWordsIn } from '../../core/languages/languages';
import { payKindOf } from '../../core/till/pay-kinds';
import type { TillRules } from '../../core/till/rules';
import { documents, type orders, payments } from '../../data/schema';
import type { Ctx } from '../context';
import type { Site } from '../sites/site';
import { readableCode, vouchersOf } from '../till/codes';
import { instructionOf } from '../till/instruction';
import { orderByToken } from '../till/orders';
import { readRules } from '../rules/rules';
import { backToSite, shopUrl } from '../sites/addresses';
import { filesHref } from './after';
import { money, nameWith, stepName } from './views';

/** An order as its buyer sees it: where paying ends, and how far it has come since. */

export async function orderPageView(
  ctx: Ctx,
  site: Site,
  token: string,
  ways: { back: string; retry: (cart: string) => string },
): Promise<OrderPageView> {
  const order = await orderByToken(ctx, site.row.id, token);
  const rules = await readRules(ctx.store.db, site.row.id);
  const w = stepWordsIn(site.row.locale);
  const [last] = await ctx.store.db
    .select()
    .from(payments)
    .where(and(eq(payments.orderId, order.id), eq(payments.state, 'declined')))
    .orderBy(desc(payments.createdAt))
    .limit(1);
  return {
    state: order.state,
    held: order.state === 'paid' && order.lacks !== null,
    test: order.test,
    words:
      order.state === 'failed' || order.state === 'waiting' ? rules.checkout.failed : rules.checkout.thanks,
    todo: todoOf(site, rules, order),
    progress: progressOf(site, order),
    papers: await papersOf(ctx, site, order),
    number: String(order.number ?? ''),
    email: order.buyer.email,
    total: money(site, order.total, order.currency),
    lines: order.worked.lines.map((l) => ({
      name: nameWith(l),
      quantity: l.quantity,
      amount: money(site, l.amount, order.currency),
    })),
    steps: order.worked.steps
      .filter((s) => s.kind && s.kind !== 'goods' && s.kind !== 'included')
      .map((s) => ({
        what: stepName(s, order.worked, w, site.row.locale),
        amount: money(site, s.amount, order.currency),
      })),
    back: ways.back,
    retry: ways.retry(order.cart),
    files: await filesHref(ctx, site, order, false),
    vouchers:
      order.state === 'paid'
        ? (await vouchersOf(ctx.store.db, order.id)).map((v) => ({
            code: readableCode(v.code),
            text: voucherWords(site, v),
          }))
        : [],
    reason: order.state === 'failed' ? (last?.detail ?? '') : '',
  };
}

/** What is left to do until the money is there. */
function todoOf(site: Site, rules: TillRules, order: typeof orders.$inferSelect): OrderPageView['todo'] {
  const w = stepWordsIn(site.row.locale);
  const instruction = instructionOf(rules, order, w);
  if (!instruction) return null;
  const { lead } = payKindOf(instruction.kind);
  return {
    lead: lead ? w[lead] : '',
    words: instruction.words,
    rows: [{ label: w.toPay, value: money(site, order.total, order.currency) }, ...instruction.rows],
  };
}

/** How far an order has come, in the buyer's words. */
export function progressOf(site: Site, order: typeof orders.$inferSelect): string[] {
  const w = stepWordsIn(site.row.locale);
  const day = (at: Date) => dateFormat(site.row.locale, { dateStyle: 'long' }).format(at);
  const parcels = order.parcels.flatMap((p) =>
    p.number ? [fill(w.trackingIs, { x: [p.carrier, p.number].filter(Boolean).join(', ') })] : [],
  );
  const came = (): string[] => {
    if (order.sentAt) return [`${w.sentState}: ${day(order.sentAt)}`, ...parcels];
    if (order.collectedAt) return [`${w.collectedState}: ${day(order.collectedAt)}`];
    return order.packedAt ? [`${w.packedState}: ${day(order.packedAt)}`] : [];
  };
  return [
    ...came(),
    ...(order.refunded > 0 ? [fill(w.givenBack, { x: money(site, order.refunded, order.currency) })] : []),
  ];
}

/** Invoice and credit notes of an order, each to read, print and keep. */
async function papersOf(
  ctx: Ctx,
  site: Site,
  order: typeof orders.$inferSelect,
): Promise<OrderPageView['papers']> {
  const w = stepWordsIn(site.row.locale);
  const papers = await ctx.store.db
    .select()
    .from(documents)
    .where(eq(documents.orderId, order.id))
    .orderBy(asc(documents.issuedAt));
  return papers.map((p) => {
    const href = `${shopUrl(ctx, site)}/papers/${order.token}/${p.id}`;
    return {
      name: `${p.series === 'invoice' ? w.invoice : w.creditNote} ${p.content.number}`,
      href,
      pdf: `${href}/pdf`,
    };
  });
}

function voucherWords(
  site: Site,
  v: { readonly amount: number; readonly currency: string; readonly expiresAt: Date | null },
): string {
  const w = stepWordsIn(site.row.locale);
  const x = money(site, v.amount, v.currency);
  return v.expiresAt
    ? fill(w.voucherUntil, {
        x,
        n: dateFormat(site.row.locale, { dateStyle: 'long', timeZone: 'UTC' }).format(v.expiresAt),
      })
    : fill(w.voucherEver, { x });
}

export const ordinaryOrderWays = (ctx: Ctx, site: Site) => ({
  back: backToSite(ctx, site),
  retry: (cart: string) => `${shopUrl(ctx, site)}/checkout/${cart}`,
});
