import { and, eq, max } from 'drizzle-orm';
import type { Tx } from '../../data/database';
import { keep } from '../../data/kept-queries';
import { orders } from '../../data/schema';

/** Order numbers start here, so that the first buyer does not feel like the first. */
const FIRST_ORDER = 1001;

const lastOf = keep({ siteId: orders.siteId, test: orders.test }, (q, { siteId, test }) =>
  q
    .select({ n: max(orders.number) })
    .from(orders)
    .where(and(eq(orders.siteId, siteId), eq(orders.test, test))),
);

/**
 * The next order number of a shop. Asked inside the write transaction that keeps it: one writer at a time, and what is rolled
 * back never had a number, so there are no gaps. Orders to try things out have a series of their own.
 */
export async function nextOrderNumber(tx: Tx, siteId: string, test: boolean): Promise<number> {
  const [last] = await lastOf(tx, { siteId, test });
  return Math.max(last?.n ?? 0, (test ? 1 : FIRST_ORDER) - 1) + 1;
}
