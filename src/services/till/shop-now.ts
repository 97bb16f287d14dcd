import type { TillRules } from '../../core/till/rules';
import type { Db, Tx } from '../../data/database';
import type { Ctx } from '../context';
import { type Catalogue, catalogueOf } from '../goods/catalogue';
import { readTill } from './rules';

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
  readonly rules: TillRules;
  readonly goods: Catalogue;
}

export async function shopNow(ctx: Ctx, db: Db | Tx, siteId: string): Promise<ShopNow> {
  const { name, locale, rules, goodsVersion } = await readTill(db, siteId);
  return { db, now: ctx.now(), siteId, name, locale, rules, goods: await catalogueOf(ctx, siteId, { goodsVersion, locale }) };
}
