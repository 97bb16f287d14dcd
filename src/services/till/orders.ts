import { and, asc, eq } from 'drizzle-orm';
import { orders } from '../../data/schema';
import type { Ctx } from '../context';
import { missing } from '../errors';

type Order = typeof orders.$inferSelect;

export async function orderByToken(ctx: Ctx, siteId: string, token: string): Promise<Order> {
  const [row] = await ctx.store.db.select().from(orders).where(eq(orders.token, token));
  if (!row || row.siteId !== siteId) throw missing('This order is not known here.');
  return row;
}

/** An order for whoever knows its number and the address it was ordered with; small and capital letters are the same. */
export async function lookUpOrder(
  ctx: Ctx,
  siteId: string,
  number: string,
  email: string,
): Promise<Order | undefined> {
  const wanted = Number(number.replace(/\D/g, ''));
  // Whoever had their data erased has no address any more: nobody is let in by saying nothing.
  if (!Number.isSafeInteger(wanted) || wanted <= 0 || email.trim() === '') return undefined;
  const found = await ctx.store.db
    .select()
    .from(orders)
    .where(and(eq(orders.siteId, siteId), eq(orders.number, wanted)))
    .orderBy(asc(orders.test));
  return found.find((o) => o.buyer.email.toLowerCase() === email.trim().toLowerCase());
}
