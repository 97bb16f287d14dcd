import { and, eq, gt, inArray, isNotNull, lt, sql } from 'drizzle-orm';
import type { LetterKind } from '../../core/letters/kinds';
import { letterOf } from '../../core/letters/render';
import { cartLines, carts, goods, letters, orderLines, orders, sites } from '../../data/schema';
import type { Ctx } from '../context';
import { readRules } from '../rules/rules';
import { want } from '../mail/occasions';

const DAY_MS = 86_400_000;
/** Nothing older than this is written about, in days: a shop that turns a letter on does not write to everybody of before. */
const LOOK_BACK = 30;

/** Finds what letters of the calendar are due: dates that come near, what was sent a while ago, carts left behind. Each is wanted once. Runs in the background. */
export async function lettersOfTheDay(ctx: Ctx): Promise<number> {
  let found = 0;
  for (const site of await ctx.store.db.select({ id: sites.id, locale: sites.locale }).from(sites)) {
    const { letters: own } = await readRules(ctx.store.db, site.id);
    for (const kind of ['reminder', 'review', 'left-behind'] as const) {
      const { on, days } = letterOf(kind, own, site.locale);
      if (!on) continue;
      const due = (await rounds[kind](ctx, site.id, (days ?? 0) * DAY_MS)).map((d) => ({
        ...d,
        key: `${kind} ${d.key}`,
      }));
      const known = due.length
        ? new Set(
            (
              await ctx.store.db
                .select({ key: letters.key })
                .from(letters)
                .where(
                  inArray(
                    letters.key,
                    due.map((d) => d.key),
                  ),
                )
            ).map((l) => l.key),
          )
        : new Set();
      const fresh = due.filter((d) => !known.has(d.key));
      if (fresh.length === 0) continue;
      await ctx.store.write(async (tx) => {
        for (const d of fresh)
          await want(
            ctx,
            tx,
            { siteId: site.id, ...(d.orderId && { id: d.orderId }) },
            kind,
            d.key.slice(kind.length + 1),
          );
      });
      found += fresh.length;
    }
  }
  return found;
}

interface Due {
  readonly orderId: string | null;
  readonly key: string;
}

const rounds: Record<
  Extract<LetterKind, 'reminder' | 'review' | 'left-behind'>,
  (ctx: Ctx, siteId: string, ms: number) => Promise<Due[]>
> = {
  async reminder(ctx, siteId, ms) {
    const now = ctx.now().getTime();
    const events = (
      await ctx.store.db
        .select({ id: goods.id, start: sql<string>`json_extract(${goods.details}, '$.event.start')` })
        .from(goods)
        .where(and(eq(goods.siteId, siteId), sql`json_extract(${goods.details}, '$.kind') = 'event'`))
    ).filter((e) => e.start && Date.parse(e.start) > now && Date.parse(e.start) - ms <= now);
    if (events.length === 0) return [];
    const bought = await ctx.store.db
      .selectDistinct({ orderId: orders.id, goodsId: orderLines.goodsId })
      .from(orderLines)
      .innerJoin(orders, eq(orders.id, orderLines.orderId))
      .where(
        and(
          eq(orders.siteId, siteId),
          eq(orders.state, 'paid'),
          eq(orders.test, false),
          inArray(
            orderLines.goodsId,
            events.map((e) => e.id),
          ),
        ),
      );
    return bought.map((b) => ({ orderId: b.orderId, key: `${b.orderId} ${b.goodsId}` }));
  },
  async review(ctx, siteId, ms) {
    const until = new Date(ctx.now().getTime() - ms);
    const since = new Date(until.getTime() - LOOK_BACK * DAY_MS);
    const done = sql`coalesce(${orders.sentAt}, ${orders.collectedAt})`;
    return (
      await ctx.store.db
        .select({ id: orders.id })
        .from(orders)
        .where(
          and(
            eq(orders.siteId, siteId),
            eq(orders.state, 'paid'),
            eq(orders.test, false),
            isNotNull(done),
            sql`${done} < ${until.getTime()}`,
            sql`${done} > ${since.getTime()}`,
          ),
        )
        .limit(200)
    ).map((o) => ({ orderId: o.id, key: o.id }));
  },
  async 'left-behind'(ctx, siteId, ms) {
    const until = new Date(ctx.now().getTime() - ms);
    const since = new Date(until.getTime() - LOOK_BACK * DAY_MS);
    return (
      await ctx.store.db
        .selectDistinct({ token: carts.token })
        .from(carts)
        .innerJoin(cartLines, eq(cartLines.cart, carts.token))
        .where(
          and(
            eq(carts.siteId, siteId),
            eq(carts.remind, true),
            lt(carts.updatedAt, until),
            gt(carts.updatedAt, since),
          ),
        )
        .limit(200)
    ).map((c) => ({ orderId: null, key: c.token }));
  },
};
