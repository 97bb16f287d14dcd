import { and, eq, isNull } from 'drizzle-orm';
import { isCurrency, minorDigits } from '../../core/money/currency';
import { goods, orders, sites } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import type { Site } from './site';

/** What another currency would touch: products that are priced, those that were removed aside, and orders. */
export async function pricedAndSold(
  ctx: Ctx,
  site: Site,
): Promise<{ readonly priced: number; readonly orders: number }> {
  const { db } = ctx.store;
  return {
    priced: await db.$count(goods, and(eq(goods.siteId, site.row.id), isNull(goods.removedAt))),
    orders: await db.$count(orders, eq(orders.siteId, site.row.id)),
  };
}

/**
 * Whether the shop's currency may become another. The figures of prices stay as they are written, which is only possible where both
 * currencies have as many digits behind the point; and once there are orders, what was sold was sold in the currency it was sold in.
 */
export async function mayChangeCurrency(ctx: Ctx, site: Site, to: string): Promise<void> {
  const from = site.row.currency;
  if (to === from) return;
  const refuse = (why: string) => conflict(why, { field: 'currency' });
  if (!isCurrency(to)) throw invalid('Choose a currency from the list.', { field: 'currency' });
  const { priced, orders: sold } = await pricedAndSold(ctx, site);
  if (sold > 0)
    throw refuse(
      `There are orders in ${from} already, so the currency stays. Prices in other currencies can be shown beside it.`,
    );
  if (priced > 0 && minorDigits(from) !== minorDigits(to))
    throw refuse(
      `Prices in ${from} and in ${to} have other digits behind the point: what is written cannot stay as it is. Remove the goods first.`,
    );
}

/** Changes the shop's currency: every price keeps its figures. */
export async function setCurrency(ctx: Ctx, site: Site, to: string): Promise<void> {
  await mayChangeCurrency(ctx, site, to);
  await ctx.store.write((tx) =>
    tx
      .update(sites)
      .set({ currency: to })
      .where(and(eq(sites.id, site.row.id), eq(sites.currency, site.row.currency))),
  );
  ctx.changed(site.row.id);
}
