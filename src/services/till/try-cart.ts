import { z } from 'zod';
import { pathsNow } from '../../core/goods/category';
import { priceNow } from '../../core/goods/price';
import { variantLabel } from '../../core/goods/variants';
import { startingRates } from '../../core/till/rates';
import { tillRules, type TillRules } from '../../core/till/rules';
import { type BasketLine, type WorkedSum, workOut } from '../../core/till/worked-sum';
import type { Ctx } from '../context';
import { invalid } from '../errors';
import { catalogueOf } from '../goods/catalogue';
import { listCategories } from '../goods/categories';
import type { Site } from '../sites/site';
import { vouchersIn } from './codes';
import { pageName } from '../sites/names';
import { connected } from './providers';
import { statesByCountry } from '../rules/address';
import { type Basics, readBasics } from './basics';
import { countriesIn } from '../rules/countries';
import { pricingFacts, wallClock } from './pricing';
import { readRules } from '../rules/rules';
import { withPathsNow } from './shop-now';

export interface TillView {
  readonly rules: TillRules;
  readonly countries: readonly { readonly code: string; readonly name: string }[];
  /** States of the countries that have them in their addresses. */
  readonly states: Readonly<Record<string, readonly { readonly code: string; readonly name: string }[]>>;
  /** What the basics of the shop are: what is sold, and in which currency. */
  readonly basics: Basics;
  /** Rates to begin with, for the owner to look over. */
  readonly start: ReturnType<typeof startingRates>;
  /** Payment providers that are set up. */
  readonly connected: readonly string[];
  /** Paths of categories that were renamed or moved, with what they are now. */
  readonly former: Readonly<Record<string, string>>;
  /** Pages of the site, for policies. */
  readonly pages: readonly { readonly address: string; readonly name: string }[];
}

export const tillView = async (ctx: Ctx, site: Site): Promise<TillView> => ({
  rules: await readRules(ctx.store.db, site.row.id),
  countries: countriesIn('en'),
  states: statesByCountry(),
  basics: await readBasics(ctx, site),
  start: startingRates(),
  connected: connected(ctx),
  former: Object.fromEntries(pathsNow(await listCategories(ctx, site.row.id))),
  pages: site.reading.pages.map((p) => ({ address: p.address, name: pageName(site, p.path) })),
});

const asked = z.object({
  lines: z.array(z.object({ variantId: z.string(), quantity: z.number().int().min(1).max(9_999) })).max(100),
  country: z.string().max(2).default(''),
  state: z.string().max(10).default(''),
  postcode: z.string().max(20).default(''),
  way: z.string().max(40).default(''),
  codes: z.array(z.string().max(40)).max(6).default([]),
  /** As they are being written; those that are saved where nothing is given. */
  rules: z.unknown().optional(),
});

export type TryAsked = z.input<typeof asked>;

export interface TriedCart extends WorkedSum {
  readonly pictures: Readonly<Record<string, string | null>>;
}

/** "Try a cart": any basket, anywhere, with any code; nothing is kept or held. Limits of codes are left out of it. */
export async function tryCart(ctx: Ctx, site: Site, input: unknown): Promise<TriedCart> {
  const parsed = asked.safeParse(input);
  if (!parsed.success) throw invalid(parsed.error.issues[0]?.message ?? 'This cart cannot be worked out.');
  const { lines, country, state, postcode, way, codes, rules: drafted } = parsed.data;
  const draft = drafted === undefined ? undefined : tillRules.safeParse(drafted);
  if (draft && !draft.success)
    throw invalid(draft.error.issues[0]?.message ?? 'These rules cannot be worked with.', {
      path: draft.error.issues[0]?.path,
    });
  const rules = draft?.data ?? (await readRules(ctx.store.db, site.row.id));
  const goods = await catalogueOf(ctx, site.row.id, site.row);
  const { all } = goods;
  const known = new Map(all.flatMap((p) => p.variants.map((v) => [v.id, { p, v }] as const)));
  const now = ctx.now();
  const pictures: Record<string, string | null> = {};
  const basket = lines.flatMap(({ variantId, quantity }, n): BasketLine[] => {
    const found = known.get(variantId);
    if (!found) return [];
    const { p, v } = found;
    pictures[variantId] = v.picture ?? p.pictures[0]?.hash ?? null;
    return [
      {
        id: `${String(n).padStart(4, '0')}`,
        goodsId: p.id,
        variantId,
        slug: p.slug,
        name: p.name,
        particulars: [variantLabel(v)].filter(Boolean),
        unit: priceNow(p, v, now.getTime()).price,
        quantity,
        available: null,
        ...pricingFacts(p, v, p.categories, now.getTime()),
      },
    ];
  });
  const vouchers = await vouchersIn(ctx.store.db, site.row.id, codes, now, '');
  return {
    ...workOut({
      currency: site.row.currency,
      locale: site.row.locale,
      lines: basket,
      rules: withPathsNow(rules, goods),
      buyer: {
        place: { country, state, postcode },
        way,
        codes,
        vouchers,
        wall: wallClock(now, rules.zone),
        uses: {},
      },
    }),
    pictures,
  };
}
