import { and, eq, inArray } from 'drizzle-orm';
import {
  discountUses,
  downloadLinks,
  letters,
  orderBrowsers,
  orderEvents,
  orderLines,
  orders,
  payments,
  refunds,
  reservations,
  reviews,
  subscriptions,
  vouchers,
  voucherUses,
} from '../../data/schema';
import type { Ctx } from '../context';
import type { Site } from '../sites/site';
import { restock } from './refund-state';

/** Takes every order that was made to try things out away again, with all that hangs on it. Their pieces go back on the shelf. */
export async function forgetTestOrders(ctx: Ctx, site: Site): Promise<{ gone: number }> {
  const gone = await ctx.store.write(async (tx) => {
    const all = await tx
      .select()
      .from(orders)
      .where(and(eq(orders.siteId, site.row.id), eq(orders.test, true)));
    for (const o of all)
      if ((o.state === 'paid' || o.state === 'placed') && !o.short)
        await restock(
          tx,
          o,
          o.worked.lines.map((l) => ({ lineId: l.id, quantity: l.quantity })),
          ctx.now(),
        );
    for (let n = 0; n < all.length; n += 400) {
      const ids = all.slice(n, n + 400).map((o) => o.id);
      const made = (
        await tx.select({ id: vouchers.id }).from(vouchers).where(inArray(vouchers.orderId, ids))
      ).map((v) => v.id);
      for (const table of [
        discountUses,
        downloadLinks,
        letters,
        orderBrowsers,
        orderEvents,
        orderLines,
        payments,
        refunds,
        reservations,
        reviews,
        subscriptions,
        voucherUses,
      ])
        await tx.delete(table).where(inArray(table.orderId, ids));
      if (made.length) {
        await tx.delete(voucherUses).where(inArray(voucherUses.voucherId, made));
        await tx.delete(vouchers).where(inArray(vouchers.id, made));
      }
      await tx.delete(orders).where(inArray(orders.id, ids));
    }
    return all.length;
  });
  ctx.changed(site.row.id);
  return { gone };
}
