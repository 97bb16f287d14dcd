import { dateFormat } from '../../core/intl';
import { goodsKinds } from '../../core/goods/kinds';
import { isOnOffer, type Product, type Variant } from '../../core/goods/product';
import type { Buyer } from '../../core/till/basket';
import { nowhere, type Place } from '../../core/till/place';
import type { TillRules } from '../../core/till/rules';
import { type BasketLine, type WorkedSum, workOut } from '../../core/till/worked-sum';
import type { Site } from '../sites/site';
import { usesOf, vouchersIn } from './codes';
import type { ShopNow } from './shop-now';

/** What of a product and its choice the sum looks at, beside its price. A gift voucher is taxed when it is spent, not when it is bought. */
export const pricingFacts = (
  p: Product,
  v: Variant,
  categories: readonly string[],
  at: number,
): Pick<BasketLine, 'taxClass' | 'ships' | 'digital' | 'grams' | 'categories' | 'onOffer' | 'voucher'> => ({
  taxClass: p.kind === 'voucher' ? 'zero' : p.taxClass,
  ships: goodsKinds[p.kind].ships,
  digital: p.kind === 'download',
  grams: v.weight,
  categories,
  onOffer: isOnOffer(p, at),
  ...(p.kind === 'voucher' && { voucher: { months: p.voucherMonths } }),
});

/** What a shopper has said so far. */
export interface BuyerChoices {
  readonly codes: readonly string[];
  readonly place: Place | null;
  readonly way: string;
  /** For limits to each buyer; '' while nobody has said. */
  readonly email: string;
}

/** What a line that is charged again costs each time: the price it began with, with tax and shipping as they are today, and no discounts. */
export const chargedAgain = (
  rules: TillRules,
  of: { readonly currency: string; readonly locale?: string },
  line: BasketLine,
  place: Place,
): WorkedSum => workOut({ ...of, lines: [line], rules: { ...rules, discounts: [] }, buyer: { place } });

/** The clock of a time zone, "2026-11-25T23:10". */
export function wallClock(now: Date, zone: string): string {
  const format = dateFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' });
  return format.format(now).replace(' ', 'T');
}

/** Works a basket out by the shop's own rules, with what is left of limits and vouchers now. @param butOrder an order whose own holds do not count against it. */
export async function priced(
  shop: ShopNow,
  site: Site,
  lines: readonly BasketLine[],
  said: BuyerChoices,
  butOrder = '',
): Promise<WorkedSum> {
  const { db, now, rules } = shop;
  const [uses, vouchers] = await Promise.all([
    usesOf(db, site.row.id, rules, said.email, now, butOrder),
    vouchersIn(db, site.row.id, said.codes, now, butOrder),
  ]);
  const buyer: Buyer = {
    place: said.place ?? nowhere,
    way: said.way,
    codes: said.codes,
    vouchers,
    wall: wallClock(now, rules.zone),
    uses,
  };
  return workOut({ currency: site.row.currency, locale: site.row.locale, lines, rules, buyer });
}
