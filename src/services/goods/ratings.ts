import { and, eq, inArray, sql } from 'drizzle-orm';
import { type Rating, ratingOf } from '../../core/goods/reviews';
import type { Db, Tx } from '../../data/database';
import { reviews } from '../../data/schema';

/** Stars of products that have any, of reviews that are shown. */
export async function ratingsOf(
  db: Db | Tx,
  siteId: string,
  ids?: readonly string[],
): Promise<Map<string, Rating>> {
  if (ids?.length === 0) return new Map();
  const rows = await db
    .select({ goodsId: reviews.goodsId, sum: sql<number>`sum(${reviews.rating})`, n: sql<number>`count(*)` })
    .from(reviews)
    .where(
      and(
        eq(reviews.siteId, siteId),
        eq(reviews.state, 'shown'),
        ids && ids.length <= 500 ? inArray(reviews.goodsId, [...ids]) : undefined,
      ),
    )
    .groupBy(reviews.goodsId);
  return new Map(
    rows.flatMap((r): [string, Rating][] => {
      const rating = ratingOf(r.sum, r.n);
      return rating ? [[r.goodsId, rating]] : [];
    }),
  );
}
