import type { TillRules } from '../../core/till/rules';
import type { Db, Tx } from '../../data/database';
import type { Ctx } from '../context';
import { type Catalogue, catalogueOf } from '../goods/catalogue';
import { readTill } from '../rules/rules';

/**
 * What sums and orders are worked out from, as it stands at one moment: asked once at the beginning of an act, then handed on. Within a
 * transaction nothing of it changes until the act has ended.
 */
export interface ShopNow {
  readonly db: Db | Tx;
  readonly now: Date;
  readonly siteId: string;
  readonly name: string;
  readonly locale: string;
  /** Discounts name categories as they are called now. */
  readonly rules: TillRules;
  readonly goods: Catalogue;
}

export async function shopNow(ctx: Ctx, db: Db | Tx, siteId: string): Promise<ShopNow> {
  const { name, locale, rules, goodsVersion } = await readTill(db, siteId);
  const goods = await catalogueOf(ctx, siteId, { goodsVersion, locale });
  return { db, now: ctx.now(), siteId, name, locale, rules: withPathsNow(rules, goods), goods };
}

const renewed = new WeakMap<TillRules, { readonly goods: Catalogue; readonly rules: TillRules }>();

/** Rules whose discounts name categories by the paths they have now: a rename takes no discount away. */
export function withPathsNow(rules: TillRules, goods: Catalogue): TillRules {
  const known = renewed.get(rules);
  if (known?.goods === goods) return known.rules;
  const old = rules.discounts.some((d) => d.scope.categories.some((c) => goods.pathNow(c) !== c));
  const made = old
    ? {
        ...rules,
        discounts: rules.discounts.map((d) => ({
          ...d,
          scope: { ...d.scope, categories: d.scope.categories.map(goods.pathNow) },
        })),
      }
    : rules;
  renewed.set(rules, { goods, rules: made });
  return made;
}
