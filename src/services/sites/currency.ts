import { and, count, eq } from 'drizzle-orm';
import { isCurrency, minorDigits } from '../../core/money/currency';
import { goods, orders, sites } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import type { Site } from './site';

/** What another currency would mean: how many products are priced, and why it cannot be had, where it cannot. */
export interface CurrencyChange {
  readonly priced: number;
  readonly refused: string;
}

/**
 * Whether the shop's currency may become another. The figures of prices stay as they are written, which is only possible where both
 * currencies have as many digits behind the point; and once there are orders, what was sold was sold in the currency it was sold in.
 */
export async function currencyChange(ctx: Ctx, site: Site, to: string): Promise<CurrencyChange> {
  const of = async (table: typeof goods | typeof orders) =>
    (await ctx.store.db.select({ n: count() }).from(table).where(eq(table.siteId, site.row.id)))[0]?.n ?? 0;
  const [priced, sold] = [await of(goods), await of(orders)];
  const from = site.row.currency;
  const refused =
    to === from
      ? ''
      : !isCurrency(to)
        ? 'Choose a currency from the list.'
        : sold > 0
          ? `There are orders in ${from} already, so the currency stays. Prices in other currencies can be shown beside it.`
          : priced > 0 && minorDigits(from) !== minorDigits(to)
            ? `Prices in ${from} and in ${to} have other digits behind the point: what is written cannot stay as it is. Remove the goods first.`
            : '';
  return { priced, refused };
}

export async function mayChangeCurrency(ctx: Ctx, site: Site, to: string): Promise<void> {
  const { refused } = await currencyChange(ctx, site, to);
  if (refused) throw conflict(refused, { field: 'currency' });
}

/** Changes the shop's currency: every price keeps its figures. */
export async function setCurrency(ctx: Ctx, site: Site, to: string): Promise<void> {
  if (!isCurrency(to)) throw invalid('Choose a currency from the list.', { field: 'currency' });
  await mayChangeCurrency(ctx, site, to);
  await ctx.store.write((tx) =>
    tx
      .update(sites)
      .set({ currency: to })
      .where(and(eq(sites.id, site.row.id), eq(sites.currency, site.row.currency))),
  );
  ctx.changed(site.row.id);
}
