import fc from 'fast-check';
import { eq } from 'drizzle-orm';
import { percentOf } from '../../../core/money/round';
import { orders, vouchers } from '../../../data/schema';
import { isRefusal } from '../../errors';
import { listGoods } from '../../goods/goods';
import { addToCart } from '../add-to-cart';
import { type CartView, readCart } from '../cart';
import { setCode, setPlace, setQuantity } from '../cart-changes';
import { goToPay } from '../go-to-pay';
import { buyerOf } from '../../testing';
import { firstVoucher, type Shopper, type Stage } from './stage';
import { claim, home, nth, pick, step, who } from './step';

/** What shoppers do with carts. */
export const add = step(
  'add',
  fc.record({
    who,
    goods: fc.constantFrom('trug', 'creel', 'gift', 'pattern'),
    quantity: fc.integer({ min: 1, max: 3 }),
    amount: fc.constantFrom('10.00', '25.00', '65.00', '65.01', '65.02'),
  }),
  async (stage, { who, amount, ...asked }) => {
    const shopper = stage.shopper(who);
    const input = { ...asked, placement: null, page: '/', ...(asked.goods === 'gift' && { amount }) };
    const cart = await addToCart(stage.ctx, await stage.site(), shopper.cart, input, null);
    shopper.cart = cart.token;
    if (cart.choices.place === null) await setPlace(stage.ctx, await stage.site(), cart.token, home, 'post');
    const product = (await listGoods(stage.ctx, stage.template.siteId)).find((p) => p.slug === 'creel');
    for (const l of cart.lines.filter((x) => x.slug === 'creel'))
      claim(
        l.unit === percentOf(product?.price ?? 0, 100 - (product?.offer?.value ?? 0), 'half-up'),
        `a creel costs ${l.unit}, at ${product?.price} less ${product?.offer?.value} %`,
      );
  },
);

/** Another request under a key that somebody used: refused, and nobody sees another's cart. */
export const addWithSameKey = step(
  'add with the same key',
  fc.record({ who, other: who }),
  async (stage, g) => {
    const key = `key-${g.who}-${stage.clock.ms}`;
    const input = { goods: 'pattern', quantity: 1, placement: null, page: '/' };
    const [one, two] = [stage.shopper(g.who), stage.shopper(g.other)];
    const first = await addToCart(stage.ctx, await stage.site(), one.cart, input, key);
    one.cart = first.token;
    if (one === two) return;
    const second: CartView | undefined = await addToCart(
      stage.ctx,
      await stage.site(),
      two.cart,
      { ...input, quantity: 2 },
      key,
    ).catch(() => undefined);
    claim(second?.token !== first.token, 'a key that was used again answers with somebody else\u2019s cart');
  },
);

export const change = step('change', fc.record({ who, nth, quantity: fc.nat(3) }), async (stage, g) => {
  const { cart } = stage.shopper(g.who);
  if (!cart) return;
  const site = await stage.site();
  const line = pick((await readCart(stage.ctx, site, cart)).lines, g.nth);
  if (line) await setQuantity(stage.ctx, site, cart, line.id, g.quantity);
});

export const codeNames = ['ONCE', 'EACH', 'THREE', firstVoucher] as const;

/** A code goes in or out: one that is typed never makes it dearer. */
export const code = step(
  'code',
  fc.record({ who, nth, take: fc.constantFrom('in', 'in', 'in', 'out') }),
  async (stage, { who, nth, take }) => {
    const { cart } = stage.shopper(who);
    if (!cart) return;
    const issued = await stage.ctx.store.db.select().from(vouchers);
    const typed = pick([...codeNames, ...codeNames, ...issued.map((v) => v.code)], nth * 7 + who);
    const site = await stage.site();
    const before = await readCart(stage.ctx, site, cart);
    const after = await setCode(stage.ctx, site, cart, typed ?? '', take);
    if (take === 'in')
      claim(after.total <= before.total, `${typed} made ${before.total} cost ${after.total}`);
  },
);

/** Goes to pay: what is asked for is what was shown; Back finds the cart as it was. */
export const pay = step(
  'pay',
  fc.record({ who, by: fc.constantFrom('card', 'card', 'bank') }),
  async (stage, g) => {
    const shopper = stage.shopper(g.who);
    if (!shopper.cart) return;
    await goPaying(stage, shopper, shopper.cart, g.by);
  },
);

export async function goPaying(stage: Stage, shopper: Shopper, cart: string, by: string): Promise<void> {
  const site = await stage.site();
  const read = () => readCart(stage.ctx, site, cart);
  const shown = await totalAtCheckout(stage, shopper, cart);
  const before = await read();
  const { order: token } = await goToPay(
    stage.ctx,
    site,
    cart,
    { ...buyerOf(shopper.email), way: 'post', payBy: shown === 0 ? '' : by, total: shown },
    'site',
  );
  const [order] = await stage.ctx.store.db.select().from(orders).where(eq(orders.token, token));
  claim(order?.total === shown, `${shown} was shown and ${order?.total} is asked for`);
  if (order?.state !== 'waiting') return;
  const back = await read();
  claim(back.total === before.total, `back from the payment page ${before.total} became ${back.total}`);
  claim(
    JSON.stringify(back.codes) === JSON.stringify(before.codes),
    `back from the payment page the codes say ${JSON.stringify(back.codes)}`,
  );
  for (const l of back.lines)
    claim(l.available === null || l.available >= l.quantity, `back from the payment page ${l.name} is gone`);
}

/** What the pay button says: the sum for this buyer, whose limits are known by the address. */
export async function totalAtCheckout(stage: Stage, { email }: Shopper, cart: string): Promise<number> {
  const site = await stage.site();
  const { total } = await readCart(stage.ctx, site, cart);
  // A code that this buyer used before is only known at the moment of paying: the answer says the total then.
  const outcome = await goToPay(
    stage.ctx,
    site,
    cart,
    { ...buyerOf(email), way: 'post', total: -1 as number },
    'site',
  ).catch((error: unknown) =>
    isRefusal(error) ? /\u00a3([\d,]+\.\d\d)/.exec(error.message)?.[1] : Promise.reject(error),
  );
  return typeof outcome === 'string' ? Math.round(Number(outcome.replace(',', '')) * 100) : total;
}

/** Another tab, or the same cart on another machine: it is paid while the page of the first is open. */
export const payInTwoTabs = step('pay in two tabs', fc.record({ who, nth }), async (stage, g) => {
  const shopper = stage.shopper(g.who);
  if (!shopper.cart) return;
  await goPaying(stage, shopper, shopper.cart, 'card').catch(rethrowAllButRefusals);
  const line = pick((await readCart(stage.ctx, await stage.site(), shopper.cart)).lines, g.nth);
  if (line) await setQuantity(stage.ctx, await stage.site(), shopper.cart, line.id, line.quantity + 1);
  await goPaying(stage, shopper, shopper.cart, 'card');
});

export const rethrowAllButRefusals = (error: unknown): void => {
  if (!isRefusal(error)) throw error;
};
