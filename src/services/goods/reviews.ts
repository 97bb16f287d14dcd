import { and, asc, desc, eq, type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { reviewInput, type ReviewOrder, shortName } from '../../core/goods/reviews';
import { count, stepWordsIn, type StepText } from '../../core/languages/languages';
import type { Db, Tx } from '../../data/database';
import { goods, orders, reviews, reviewStates } from '../../data/schema';
import type { ReviewState } from '../../data/schema/after';
import type { Ctx } from '../context';
import { invalid, missing } from '../errors';
import { piecesOf } from './available';
import { newId } from '../ids';
import type { Site } from '../sites/site';
import { writing } from './changes';

type Row = typeof reviews.$inferSelect;

/** Ids of what an order bought: the products themselves, and what was in bundles. */
async function boughtIn(db: Db | Tx, order: typeof orders.$inferSelect): Promise<string[]> {
  return [
    ...new Set([...order.worked.lines, ...(await piecesOf(db, order.worked.lines))].map((l) => l.goodsId)),
  ];
}

async function boughtProduct(
  db: Db | Tx,
  site: Site,
  token: string,
  goodsId: string,
): Promise<{ order: typeof orders.$inferSelect; product: { id: string; name: string; slug: string } }> {
  const gone = () => missing(stepWordsIn(site.row.locale).noReviewHere);
  const [order] = await db
    .select()
    .from(orders)
    .where(
      and(
        eq(orders.token, token),
        eq(orders.siteId, site.row.id),
        eq(orders.state, 'paid'),
        eq(orders.test, false),
      ),
    );
  if (!order || !(await boughtIn(db, order)).includes(goodsId)) throw gone();
  const [product] = await db
    .select({ id: goods.id, name: goods.name, slug: goods.slug })
    .from(goods)
    .where(eq(goods.id, goodsId));
  if (!product) throw gone();
  return { order, product };
}

export interface OwnReview {
  readonly product: { readonly id: string; readonly name: string; readonly slug: string };
  readonly review: Pick<Row, 'rating' | 'name' | 'title' | 'text' | 'state'> | null;
  /** As the name is suggested. */
  readonly name: string;
}

/** What a buyer wrote of a product of their order, or may write. @throws Refusal when the order has no such product. */
export async function ownReview(ctx: Ctx, site: Site, token: string, goodsId: string): Promise<OwnReview> {
  const { db } = ctx.store;
  const { order, product } = await boughtProduct(db, site, token, goodsId);
  const [review] = await db
    .select()
    .from(reviews)
    .where(and(eq(reviews.orderId, order.id), eq(reviews.goodsId, goodsId)));
  return { product, review: review ?? null, name: shortName(order.buyer.name) };
}

/** Keeps what a buyer says. It waits until the owner has read it; written anew it waits again. */
export async function writeReview(
  ctx: Ctx,
  site: Site,
  token: string,
  goodsId: string,
  input: unknown,
): Promise<OwnReview['product']> {
  const w = stepWordsIn(site.row.locale);
  const parsed = reviewInput.safeParse(input);
  if (!parsed.success) {
    const fields: Record<string, string> = {};
    for (const issue of parsed.error.issues)
      fields[String(issue.path[0])] ??= w[issue.message as StepText] ?? issue.message;
    throw invalid(count(w, w.someFields, Object.keys(fields).length), { fields });
  }
  return ctx.store
    .write(async (tx) => {
      const { order, product } = await boughtProduct(tx, site, token, goodsId);
      const [known] = await tx
        .select()
        .from(reviews)
        .where(and(eq(reviews.orderId, order.id), eq(reviews.goodsId, goodsId)));
      const now = ctx.now();
      if (known && same(known, parsed.data)) return product;
      if (known)
        await tx
          .update(reviews)
          .set({ ...parsed.data, state: 'waiting', createdAt: now, decidedAt: null })
          .where(eq(reviews.id, known.id));
      else
        await tx.insert(reviews).values({
          id: newId(),
          siteId: site.row.id,
          goodsId,
          orderId: order.id,
          ...parsed.data,
          createdAt: now,
        });
      if (known?.state === 'shown') await touch(ctx, tx, site, goodsId);
      return product;
    })
    .finally(() => ctx.changed(site.row.id));
}

const same = (a: Row, b: z.output<typeof reviewInput>): boolean =>
  a.rating === b.rating && a.name === b.name && a.title === b.title && a.text === b.text;

/** A product whose stars changed is read anew by all that keep it in memory. */
async function touch(ctx: Ctx, tx: Tx, site: Site, goodsId: string): Promise<void> {
  const { version } = await writing(ctx, tx, site, '');
  await tx.update(goods).set({ version }).where(eq(goods.id, goodsId));
}

export interface ReviewLine extends Omit<Row, 'siteId' | 'createdAt' | 'decidedAt'> {
  readonly product: string;
  readonly slug: string;
  readonly order: number | null;
  readonly createdAt: string;
}

/** Reviews for the owner: those that wait first, then the newest. */
export async function listReviews(ctx: Ctx, site: Site): Promise<ReviewLine[]> {
  const rows = await ctx.store.db
    .select({ review: reviews, product: goods.name, slug: goods.slug, order: orders.number })
    .from(reviews)
    .innerJoin(goods, eq(goods.id, reviews.goodsId))
    .innerJoin(orders, eq(orders.id, reviews.orderId))
    .where(eq(reviews.siteId, site.row.id))
    .orderBy(desc(sql`${reviews.state} = 'waiting'`), desc(reviews.createdAt))
    .limit(500);
  return rows.map(({ review: { siteId: _, decidedAt: __, ...r }, ...more }) => ({
    ...r,
    ...more,
    createdAt: r.createdAt.toISOString(),
  }));
}

const decision = z.object({
  state: z.enum(reviewStates).optional(),
  answer: z.string().trim().max(2000, 'An answer has at most 2,000 characters.').optional(),
});

export type ReviewDecision = z.input<typeof decision>;

/** The owner shows a review, hides it, or answers it. Live at once. @returns what it was, for the undo. */
export async function decideReview(
  ctx: Ctx,
  site: Site,
  id: string,
  input: unknown,
): Promise<{ state: ReviewState; answer: string }> {
  const parsed = decision.safeParse(input);
  if (!parsed.success) throw invalid(parsed.error.issues[0]?.message ?? 'This cannot be kept.');
  const before = await ctx.store.write(async (tx) => {
    const [row] = await tx
      .select()
      .from(reviews)
      .where(and(eq(reviews.id, id), eq(reviews.siteId, site.row.id)));
    if (!row) throw missing('This review is gone.');
    const { state = row.state, answer = row.answer } = parsed.data;
    await tx
      .update(reviews)
      .set({ state, answer, ...(state !== row.state && { decidedAt: ctx.now() }) })
      .where(eq(reviews.id, id));
    await touch(ctx, tx, site, row.goodsId);
    return { state: row.state, answer: row.answer };
  });
  ctx.changed(site.row.id);
  return before;
}

export interface ShownReview {
  readonly rating: number;
  readonly name: string;
  readonly title: string;
  readonly text: string;
  readonly answer: string;
  readonly at: Date;
  readonly goodsId: string;
}

const ordering: Record<ReviewOrder, SQL[]> = {
  newest: [desc(reviews.createdAt)],
  best: [desc(reviews.rating), desc(reviews.createdAt)],
  worst: [asc(reviews.rating), desc(reviews.createdAt)],
};

/** Reviews that are shown: of one product, or of the whole shop. */
export async function shownReviews(
  ctx: Ctx,
  siteId: string,
  goodsId: string | null,
  order: ReviewOrder,
  limit: number,
): Promise<ShownReview[]> {
  const rows = await ctx.store.db
    .select()
    .from(reviews)
    .where(
      and(goodsId ? eq(reviews.goodsId, goodsId) : eq(reviews.siteId, siteId), eq(reviews.state, 'shown')),
    )
    .orderBy(...ordering[order], desc(reviews.id))
    .limit(limit);
  return rows.map(({ rating, name, title, text, answer, createdAt, goodsId: of }) => ({
    rating,
    name,
    title,
    text,
    answer,
    at: createdAt,
    goodsId: of,
  }));
}

/** How many gave each number of stars, five first; of one product, or of the whole shop. */
export async function spreadShown(ctx: Ctx, siteId: string, goodsId: string | null): Promise<number[]> {
  const rows = await ctx.store.db
    .select({ rating: reviews.rating, n: sql<number>`count(*)` })
    .from(reviews)
    .where(
      and(goodsId ? eq(reviews.goodsId, goodsId) : eq(reviews.siteId, siteId), eq(reviews.state, 'shown')),
    )
    .groupBy(reviews.rating);
  return [5, 4, 3, 2, 1].map((n) => rows.find((r) => r.rating === n)?.n ?? 0);
}
