import { and, count, eq } from 'drizzle-orm';
import { orders } from '../../data/schema';
import { viaProvider } from '../../core/till/pay-kinds';
import { whyNot } from '../../core/till/paying';
import type { TillRules } from '../../core/till/rules';
import type { Ctx } from '../context';
import { lettersWaiting } from '../mail/letters-waiting';
import type { Site } from '../sites/site';
import { connected } from './providers';
import { readRules } from '../rules/rules';

/** What the owner has to know wherever they are in the office. */
export interface TillStatus {
  /** Shoppers cannot pay at all; and why, in words. */
  readonly unpayable: string;
  readonly test: boolean;
  /** Letters that wait though no mail server is set, or that were given up. */
  readonly letters: string;
  /** Orders that want to be looked into. */
  readonly lookInto: number;
}

/** Whether anybody anywhere could pay, whatever the basket: no single country or amount is looked at. */
export function unpayable(rules: TillRules, names: readonly string[]): string {
  const { ways } = rules.pay;
  if (ways.some((w) => w.active && (!viaProvider(w.kind) || names.includes(w.kind)))) return '';
  if (ways.length === 0) return 'Your shop has no way to pay. Shoppers cannot finish an order.';
  const lost = ways.filter(
    (w) =>
      whyNot(w, { country: '', total: 1, goes: null, again: false, connected: names }) === 'not-connected',
  ).length;
  return lost > 0
    ? 'No payment provider is set up on this server, so nobody can pay. Set one up (docs/payment-provider.md), or let buyers pay by transfer or in person.'
    : 'Every way to pay is switched off. Shoppers cannot finish an order.';
}

export async function tillStatus(ctx: Ctx, site: Site): Promise<TillStatus> {
  const rules = await readRules(ctx.store.db, site.row.id);
  const post = await lettersWaiting(ctx, site.row.id);
  const [short] = await ctx.store.db
    .select({ n: count() })
    .from(orders)
    .where(and(eq(orders.siteId, site.row.id), eq(orders.short, true)));
  return {
    unpayable: unpayable(rules, connected(ctx)),
    test: rules.pay.test,
    lookInto: short?.n ?? 0,
    letters:
      !post.connected && post.waiting > 0
        ? `${post.waiting === 1 ? 'A letter waits' : `${post.waiting} letters wait`}: no mail server is set (STALL_SMTP).`
        : '',
  };
}
