import { eq } from 'drizzle-orm';
import { formatMoney } from '../../core/money/format';
import type { Tx } from '../../data/database';
import { type orders, sites } from '../../data/schema';

/** Amounts of an order, in minor units, as the shop's people read them. */
export async function moneyIn(
  tx: Tx,
  order: Pick<typeof orders.$inferSelect, 'siteId' | 'currency'>,
): Promise<(amount: number) => string> {
  const [site] = await tx.select({ locale: sites.locale }).from(sites).where(eq(sites.id, order.siteId));
  return (amount) => formatMoney({ amount, currency: order.currency }, site?.locale ?? 'en');
}
