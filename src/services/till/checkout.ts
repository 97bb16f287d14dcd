import { stepWordsIn } from '../../core/languages/languages';
import { addressAsked } from '../../core/till/address-asked';
import { offeredWays, type PayWay } from '../../core/till/paying';
import type { TillRules } from '../../core/till/rules';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { Ctx } from '../context';
import type { Site } from '../sites/site';
import { addressForm } from '../rules/address';
import { kindsIn } from './basket';
import { type CartView, readCart } from './cart';
import { setPlace } from './cart-changes';
import { type CheckoutInput, parseCheckout } from './checkout-form';
import { countryCode } from '../rules/countries';
import { goesBy } from './order-facts';
import { policiesOf } from './policies';
import { connected } from './providers';
import { readRules } from '../rules/rules';
import { shopNow } from './shop-now';

/** Ways to pay a basket from a country. */
export const waysToPay = (ctx: Ctx, rules: TillRules, worked: WorkedSum, country: string): PayWay[] =>
  offeredWays(rules.pay, {
    country,
    total: worked.total,
    goes: goesBy({ worked }),
    again: worked.lines.some((l) => l.every),
    connected: connected(ctx),
  });

/** What was typed at the checkout, kept with the cart: whoever comes back does not write it twice. Each field is cut to what it holds. */
export const formOf = (fields: Readonly<Partial<Record<string, unknown>>>): Record<string, string> =>
  Object.fromEntries(
    ['email', 'name', 'company', 'phone', 'street', 'town', 'state', 'postcode', 'note'].flatMap((k) =>
      typeof fields[k] === 'string' && fields[k] ? [[k, fields[k].slice(0, 500)]] : [],
    ),
  );

/** A cart at the checkout: until the shopper has said where it goes, it is taken to go where the shop is. */
export async function atCheckout(ctx: Ctx, site: Site, token: string): Promise<CartView> {
  const cart = await readCart(ctx, site, token);
  const home =
    (await readRules(ctx.store.db, site.row.id)).tax.home.country || (site.row.setUp?.country ?? '');
  return cart.choices.place || !home
    ? cart
    : setPlace(ctx, site, token, { country: home, state: '', postcode: '' }, '');
}

/** The sum for where the form says it goes; the rest of the form is not looked at yet, and kept as it was typed. */
export async function lookAgain(
  ctx: Ctx,
  site: Site,
  token: string,
  fields: Record<string, string>,
): Promise<CartView> {
  const { country = '', state = '', postcode = '', way = '', payBy = '' } = fields;
  const code = countryCode(country) ?? '';
  const known = addressForm(code).states.some((s) => s.code === state);
  return setPlace(
    ctx,
    site,
    token,
    code ? { country: code, state: known ? state : '', postcode: postcode.trim().slice(0, 20) } : null,
    way.slice(0, 40),
    { payBy: payBy.slice(0, 40), form: formOf(fields) },
  );
}

/** A checkout form checked against the shop's own rules and texts, and what its basket needs. @throws Refusal with a sentence to each field. */
export async function checkoutForm(
  ctx: Ctx,
  site: Site,
  token: string,
  fields: Readonly<Record<string, unknown>>,
): Promise<CheckoutInput> {
  const shop = await shopNow(ctx, ctx.store.db, site.row.id);
  const { rules } = shop;
  const lines = await kindsIn(shop, token);
  const country = countryCode(typeof fields.country === 'string' ? fields.country : '') ?? '';
  return parseCheckout(fields, {
    words: stepWordsIn(site.row.locale),
    rules,
    lang: site.row.locale,
    policies: policiesOf(ctx, site, rules),
    asked: addressAsked(rules, lines, country),
  });
}
