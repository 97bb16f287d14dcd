import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { sells, type SetUp } from '../../core/site/set-up';
import { sites } from '../../data/schema';
import type { Ctx } from '../context';
import { invalid } from '../errors';
import { pricedAndSold, setCurrency } from '../sites/currency';
import type { Site } from '../sites/site';

/** What was answered when selling was added and is no rule of the till: it can be changed there all the same. */
export interface Basics {
  /** What shoppers read: in titles, on the checkout, in letters. */
  readonly name: string;
  readonly currency: string;
  /** null until selling was added: nothing goes by it before. */
  readonly sells: SetUp['sells'] | null;
  /** Products with prices, and orders: what another currency would touch. */
  readonly priced: number;
  readonly orders: number;
}

export async function readBasics(ctx: Ctx, site: Site): Promise<Basics> {
  return {
    name: site.row.name,
    currency: site.row.currency,
    sells: site.row.setUp?.sells ?? null,
    ...(await pricedAndSold(ctx, site)),
  };
}

const change = z.object({
  name: z.string().trim().min(1, 'Enter the name that shoppers read.').max(120).optional(),
  currency: z.string().optional(),
  sells: z.array(z.enum(sells)).min(1, 'Choose at least one thing the shop sells.').nullish(),
});

export type BasicsChange = z.input<typeof change>;

/** Changes them; where the currency changes, all prices keep their figures. @throws Refusal that says why not. */
export async function saveBasics(ctx: Ctx, site: Site, asked: unknown): Promise<Basics> {
  const parsed = change.safeParse(asked);
  if (!parsed.success) throw invalid(parsed.error.issues[0]?.message ?? 'This cannot be kept.');
  const { name = site.row.name, currency = site.row.currency, sells: sold } = parsed.data;
  if (currency !== site.row.currency) await setCurrency(ctx, site, currency);
  if (name !== site.row.name) {
    await ctx.store.write((tx) => tx.update(sites).set({ name }).where(eq(sites.id, site.row.id)));
    ctx.changed(site.row.id);
  }
  const { setUp } = site.row;
  if (setUp) {
    const next = { ...setUp, currency, ...(sold && { sells: sold }) };
    await ctx.store.write((tx) => tx.update(sites).set({ setUp: next }).where(eq(sites.id, site.row.id)));
    ctx.changed(site.row.id);
    return readBasics(ctx, { ...site, row: { ...site.row, name, setUp: next, currency } });
  }
  return readBasics(ctx, { ...site, row: { ...site.row, name, currency } });
}
