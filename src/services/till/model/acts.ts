import fc from 'fast-check';
import { eq, inArray } from 'drizzle-orm';
import { percentOf } from '../../../core/money/round';
import { goods, orders, payments, vouchers } from '../../../data/schema';
import { isRefusal } from '../../errors';
import { listGoods, saveProduct } from '../../goods/goods';
import { may } from '../../../core/till/order-life';
import { addToCart } from '../add-to-cart';
import { type CartView, readCart } from '../cart';
import { setCode, setPlace, setQuantity } from '../cart-changes';
import { goToPay } from '../go-to-pay';
import { actOnOrder } from '../fulfil';
import { factsOf } from '../order-facts';
import { reconcile, reconcileSilent } from '../payment';
import { resendRefunds } from '../refunds';
import { releaseExpired } from '../reserve';
import { readRules, saveRules } from '../../rules/rules';
import { resendReturns, returnSurplus } from '../surplus';
import { faultsIn } from './books';
import { buyerOf } from '../../testing';
import type { AtProvider } from './provider';
import { firstVoucher, type Notice, type Shopper, type Stage, Stopped } from './stage';

/** A step of the model: what somebody does. A refusal is an answer like any other; what must hold is asked of the books. */
export type Act = fc.AsyncCommand<object, Stage>;

class Step implements Act {
  constructor(
    private readonly name: string,
    private readonly given: unknown,
    private readonly work: (stage: Stage) => Promise<void>,
  ) {}
  check(): boolean {
    return true;
  }
  async run(_: object, stage: Stage): Promise<void> {
    try {
      await this.work(stage);
    } catch (error) {
      if (!isRefusal(error) && !(error instanceof Stopped)) throw error;
    }
    // A machine that was to stop on the way stops now at the latest.
    if (stage.life !== undefined) await stage.start();
    const faults = await faultsIn(stage);
    if (faults.length) throw new Error(`after ${this.toString()}: ${faults.join('; ')}`);
  }
  toString(): string {
    return `${this.name}(${JSON.stringify(this.given)})`;
  }
}

const step = <T>(
  name: string,
  given: fc.Arbitrary<T>,
  work: (stage: Stage, given: T) => Promise<void>,
): fc.Arbitrary<Act> => given.map((g) => new Step(name, g, (stage) => work(stage, g)));

const MINUTE = 60_000;

/** Three shoppers, of whom one does most: what needs several steps of the same one comes about. */
const who = fc.constantFrom(0, 0, 0, 1, 1, 2);
const nth = fc.nat(9);
const pick = <T>(all: readonly T[], n: number): T | undefined => all[all.length ? n % all.length : 0];

/** Where all of them live: shipping is part of the sum from the first look on. */
const home = { country: 'GB', state: '', postcode: 'WB4 2TR' };

const claim = (holds: boolean, otherwise: string): void => {
  if (!holds) throw new Error(otherwise);
};

/** What shoppers do with carts. */
const add = step(
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
const addWithSameKey = step('add with the same key', fc.record({ who, other: who }), async (stage, g) => {
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
});

const change = step('change', fc.record({ who, nth, quantity: fc.nat(3) }), async (stage, g) => {
  const { cart } = stage.shopper(g.who);
  if (!cart) return;
  const site = await stage.site();
  const line = pick((await readCart(stage.ctx, site, cart)).lines, g.nth);
  if (line) await setQuantity(stage.ctx, site, cart, line.id, g.quantity);
});

const codeNames = ['ONCE', 'EACH', 'THREE', firstVoucher] as const;

/** A code goes in or out: one that is typed never makes it dearer. */
const code = step(
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
const pay = step('pay', fc.record({ who, by: fc.constantFrom('card', 'card', 'bank') }), async (stage, g) => {
  const shopper = stage.shopper(g.who);
  if (!shopper.cart) return;
  await goPaying(stage, shopper, shopper.cart, g.by);
});

async function goPaying(stage: Stage, shopper: Shopper, cart: string, by: string): Promise<void> {
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
async function totalAtCheckout(stage: Stage, { email }: Shopper, cart: string): Promise<number> {
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
const payInTwoTabs = step('pay in two tabs', fc.record({ who, nth }), async (stage, g) => {
  const shopper = stage.shopper(g.who);
  if (!shopper.cart) return;
  await goPaying(stage, shopper, shopper.cart, 'card').catch(rethrowAllButRefusals);
  const line = pick((await readCart(stage.ctx, await stage.site(), shopper.cart)).lines, g.nth);
  if (line) await setQuantity(stage.ctx, await stage.site(), shopper.cart, line.id, line.quantity + 1);
  await goPaying(stage, shopper, shopper.cart, 'card');
});

const rethrowAllButRefusals = (error: unknown): void => {
  if (!isRefusal(error)) throw error;
};

/** What happens at the provider; the shop hears of it by notices, when they come. */
function decide(
  stage: Stage,
  payment: AtProvider | undefined,
  state: 'approved' | 'declined',
  off = 0,
): void {
  if (!payment) return;
  payment.state = state;
  if (state === 'approved') payment.taken = Math.max(1, payment.asked - off);
  stage.notices.push(noticeOf(payment));
}

const noticeOf = ({ reference, state, asked, taken }: AtProvider): Notice => ({
  id: `${state}-${reference}`,
  type: state === 'approved' ? 'payment.approved' : 'payment.declined',
  reference,
  amount: state === 'approved' ? taken : asked,
});

/** Payment pages by what stands on them; whoever was declined may try another card on the same page. */
const pagesOf = (stage: Stage, ...states: AtProvider['state'][]): AtProvider[] =>
  [...stage.provider.payments.values()].filter((p) => states.includes(p.state));

const approve = step('approve', fc.record({ nth, off: fc.constantFrom(0, 0, 0, 0, 100) }), async (stage, g) =>
  decide(stage, pick(pagesOf(stage, 'open', 'declined'), g.nth), 'approved', g.off),
);

const decline = step('decline', fc.record({ nth }), async (stage, g) =>
  decide(stage, pick(pagesOf(stage, 'open'), g.nth), 'declined'),
);

/** Whoever left several pages open pays them all, those that were declined with another card. */
async function payAll(stage: Stage, pages: readonly AtProvider[]): Promise<void> {
  for (const page of pages) {
    page.state = 'approved';
    page.taken = page.asked;
    await stage.deliver(noticeOf(page));
  }
}

const payEveryPage = step(
  'pay every page',
  fc.constantFrom('as they came', 'the last first'),
  async (stage, order) => {
    const open = pagesOf(stage, 'open', 'declined');
    await payAll(stage, order === 'as they came' ? open : open.reverse());
  },
);

/** Somebody who means ill: one code or voucher, the basket changed from page to page, and all pages paid at the end. */
const cheat = step(
  'cheat',
  fc.record({ who, nth, pages: fc.integer({ min: 2, max: 3 }) }),
  async (stage, g) => {
    const shopper = stage.shopper(g.who);
    if (!shopper.cart) return;
    const site = await stage.site();
    const typed = pick(codeNames, g.nth) ?? '';
    await setCode(stage.ctx, site, shopper.cart, typed, 'in');
    for (let n = 0; n < g.pages; n++) {
      await goPaying(stage, shopper, shopper.cart, 'card').catch(rethrowAllButRefusals);
      const input = { goods: 'pattern', quantity: 1, placement: null, page: '/' };
      await addToCart(stage.ctx, site, shopper.cart, input, null);
    }
    await payAll(stage, pagesOf(stage, 'open'));
  },
);

/**
 * A card is declined, and another page of the same order is paid; then the first is paid after all, or its decline is told once more.
 */
const anotherCard = step(
  'another card',
  fc.record({ who, end: fc.constantFrom('first is paid too', 'decline is told again') }),
  async (stage, g) => {
    const shopper = stage.shopper(g.who);
    if (!shopper.cart) return;
    await goPaying(stage, shopper, shopper.cart, 'card');
    const [first] = pagesOf(stage, 'open').slice(-1);
    if (!first) return;
    first.state = 'declined';
    const declined = noticeOf(first);
    await stage.deliver(declined);
    await goPaying(stage, shopper, shopper.cart, 'card');
    await payAll(stage, pagesOf(stage, 'open').slice(-1));
    if (g.end === 'first is paid too') await payAll(stage, [first]);
    else await stage.deliver({ ...declined, id: `${declined.id}-again-${stage.clock.ms}` });
  },
);

/** Somebody leaves the card's page open and pays by transfer, which the owner sees come; then the card's page is decided after all. */
const transferAfterAll = step(
  'transfer after all',
  fc.record({ who, end: fc.constantFrom('approved', 'declined') }),
  async (stage, g) => {
    const shopper = stage.shopper(g.who);
    if (!shopper.cart) return;
    await goPaying(stage, shopper, shopper.cart, 'card');
    const [page] = pagesOf(stage, 'open').slice(-1);
    await goPaying(stage, shopper, shopper.cart, 'bank');
    const placed = await stage.ctx.store.db.select().from(orders).where(eq(orders.state, 'placed'));
    const [order] = placed.slice(-1);
    if (order) await onOrder(stage, order.id, { act: 'mark-paid' });
    if (page?.state !== 'open') return;
    decide(stage, page, g.end);
    await stage.deliver(noticeOf(page));
  },
);

/** Somebody reads the payment page for half an hour, others buy what there is meanwhile, and then the page is paid. */
const payTooLate = step('pay too late', fc.record({ who, other: who }), async (stage, g) => {
  const [late, quick] = [stage.shopper(g.who), stage.shopper(g.other)];
  if (!late.cart || late === quick) return;
  const site = await stage.site();
  await goPaying(stage, late, late.cart, 'card');
  const [page] = pagesOf(stage, 'open').slice(-1);
  stage.clock.ms += 31 * MINUTE;
  quick.cart = null;
  for (const l of (await readCart(stage.ctx, site, late.cart)).lines) {
    if (l.available === null || l.available < 1) continue;
    const input = { goods: l.slug, quantity: l.available, placement: null, page: '/' };
    quick.cart = (await addToCart(stage.ctx, site, quick.cart, input, null)).token;
  }
  if (quick.cart) {
    await setPlace(stage.ctx, site, quick.cart, home, 'post');
    await goPaying(stage, quick, quick.cart, 'card');
    await payAll(stage, pagesOf(stage, 'open').slice(-1));
  }
  if (page) await payAll(stage, [page]);
});

const deliver = step(
  'deliver',
  fc.record({ nth, keep: fc.boolean(), asNew: fc.boolean() }),
  async (stage, g) => {
    const notice = pick(stage.notices, g.nth);
    if (!notice) return;
    if (!g.keep) stage.notices.splice(stage.notices.indexOf(notice), 1);
    await stage.deliver(g.asNew ? { ...notice, id: `${notice.id}-${stage.clock.ms}-${g.nth}` } : notice);
  },
);

/** Pays in one go: to the page, approved, told. Most shoppers do just that. */
const payWhole = step('pay whole', fc.record({ who }), async (stage, g) => {
  const shopper = stage.shopper(g.who);
  if (!shopper.cart) return;
  await goPaying(stage, shopper, shopper.cart, 'card');
  await payAll(stage, pagesOf(stage, 'open').slice(-1));
});

const comeBack = step('come back', fc.record({ nth }), async (stage, g) => {
  const order = pick(await stage.ctx.store.db.select().from(orders), g.nth);
  if (order) await reconcile(stage.ctx, order.token);
});

/** Time, and what is done in the background. */
const later = step('later', fc.constantFrom(1, 5, 20, 31, 31, 60, 60 * 25), async (stage, minutes) => {
  stage.clock.ms += minutes * MINUTE;
});

const sweep = step('sweep', fc.constant(null), async (stage) => {
  await releaseExpired(stage.ctx);
  await reconcileSilent(stage.ctx);
  await resendRefunds(stage.ctx);
  await resendReturns(stage.ctx);
});

const providerIs = step(
  'provider is',
  fc.record({
    closes: fc.boolean(),
    up: fc.constantFrom(true, true, true, false),
    refundsAre: fc.constantFrom('done', 'done', 'failed', 'open'),
  }),
  async (stage, g) => {
    Object.assign(stage.provider, g);
  },
);

/** What the owner does. */
const anyOrder = async (stage: Stage, n: number) =>
  pick(
    await stage.ctx.store.db
      .select()
      .from(orders)
      .where(inArray(orders.state, ['paid', 'placed', 'cancelled'])),
    n,
  );
const onOrder = async (stage: Stage, id: string, what: object) =>
  void (await actOnOrder(stage.ctx, await stage.site(), id, what, 'Marnie'));

const refundPieces = step(
  'refund pieces',
  fc.record({ nth, line: nth, restock: fc.boolean(), shipping: fc.boolean() }),
  async (stage, g) => {
    const order = await anyOrder(stage, g.nth);
    const line = order && pick(order.worked.lines, g.line);
    if (line)
      await onOrder(stage, order.id, {
        act: 'refund',
        refund: { lines: [{ lineId: line.id, quantity: 1 }], restock: g.restock, shipping: g.shipping },
      });
  },
);

const refundAmount = step(
  'refund amount',
  fc.record({ nth, amount: fc.constantFrom(1, 500, 2_000, 6_500, 'all' as const) }),
  async (stage, g) => {
    const order = await anyOrder(stage, g.nth);
    if (!order) return;
    const all = order.total + (order.worked.totals?.paid ?? 0) - order.refunded;
    await onOrder(stage, order.id, {
      act: 'refund',
      refund: { amount: g.amount === 'all' ? Math.max(1, all) : g.amount },
    });
  },
);

const ownerActs = step(
  'owner',
  fc.record({
    nth,
    act: fc.constantFrom('accept', 'cancel', 'mark-paid', 'mark-paid', 'pack', 'send', 'take-back'),
  }),
  async (stage, g) => {
    const { pay } = await readRules(stage.ctx.store.db, stage.template.siteId);
    const all = await stage.ctx.store.db.select().from(orders);
    const order = pick(
      all.filter((o) => may(g.act, factsOf(o, pay))),
      g.nth,
    );
    if (order) await onOrder(stage, order.id, { act: g.act });
  },
);

/** What waits for the owner is accepted as it is; then the buyer sends it back. */
const acceptAndTakeBack = step(
  'accept and take back',
  fc.record({ nth, restock: fc.boolean() }),
  async (stage, g) => {
    const { pay } = await readRules(stage.ctx.store.db, stage.template.siteId);
    const all = await stage.ctx.store.db.select().from(orders);
    const order = pick(
      all.filter((o) => may('accept', factsOf(o, pay))),
      g.nth,
    );
    if (!order) return;
    await onOrder(stage, order.id, { act: 'accept' });
    const lines = order.worked.lines.map((l) => ({ lineId: l.id, quantity: l.quantity }));
    await onOrder(stage, order.id, { act: 'refund', refund: { lines, restock: g.restock } });
  },
);

const giveSurplusBack = step('give surplus back', fc.record({ nth }), async (stage, g) => {
  const all = await stage.ctx.store.db
    .select()
    .from(payments)
    .where(inArray(payments.state, ['surplus', 'returning']));
  const one = pick(all, g.nth);
  if (one) await returnSurplus(stage.ctx, await stage.site(), one.orderId, { payment: one.id }, 'Marnie');
});

const price = step(
  'price',
  fc.record({ slug: fc.constantFrom('trug', 'creel'), price: fc.constantFrom(1075, 1250, 2000, 4000, 5200) }),
  async (stage, g) => {
    const [row] = await stage.ctx.store.db.select().from(goods).where(eq(goods.slug, g.slug));
    if (row)
      await saveProduct(stage.ctx, await stage.site(), row.id, { fields: { price: g.price } }, 'Marnie');
  },
);

const morePieces = step(
  'more pieces',
  fc.record({ slug: fc.constantFrom('trug', 'creel') }),
  async (stage, g) => {
    const product = (await listGoods(stage.ctx, stage.template.siteId)).find((p) => p.slug === g.slug);
    const variant = product?.variants[0];
    if (!product || !variant || variant.stock === null) return;
    const counts = [{ variantId: variant.id, from: variant.stock, to: variant.stock + 1 }];
    await saveProduct(stage.ctx, await stage.site(), product.id, { counts }, 'Marnie');
  },
);

const rules = step(
  'rules',
  fc.record({
    percent: fc.constantFrom(10, 25, 50),
    freeFrom: fc.constantFrom(4000, 5000, 9000),
    active: fc.boolean(),
  }),
  async (stage, g) => {
    const now = await readRules(stage.ctx.store.db, stage.template.siteId);
    const site = await stage.site();
    const discounts = now.discounts.map((d) =>
      d.id === 'third' ? { ...d, active: g.active } : { ...d, percent: g.percent },
    );
    await saveRules(stage.ctx, site, { part: 'discounts', value: discounts, from: now.discounts }, 'Marnie');
    await setFreeFrom(stage, g.freeFrom);
  },
);

/** Shipping is free just from what lies in a cart; then a code takes some of it off. */
const codeAtTheLine = step('code at the line', fc.record({ who, nth }), async (stage, g) => {
  const { cart } = stage.shopper(g.who);
  if (!cart) return;
  const site = await stage.site();
  const { steps } = await readCart(stage.ctx, site, cart);
  const goodsCost = steps.find((s) => s.kind === 'goods')?.amount ?? 0;
  if (goodsCost <= 0) return;
  await setFreeFrom(stage, goodsCost);
  const before = await readCart(stage.ctx, site, cart);
  const typed = pick(['ONCE', 'EACH', 'THREE'], g.nth) ?? '';
  const after = await setCode(stage.ctx, site, cart, typed, 'in');
  claim(after.total <= before.total, `${typed} made ${before.total} cost ${after.total}`);
});

async function setFreeFrom(stage: Stage, freeFrom: number): Promise<void> {
  const { shipping } = await readRules(stage.ctx.store.db, stage.template.siteId);
  const regions = shipping.regions.map((r) => ({ ...r, ways: r.ways.map((way) => ({ ...way, freeFrom })) }));
  const part = { part: 'shipping' as const, value: { ...shipping, regions }, from: shipping };
  await saveRules(stage.ctx, await stage.site(), part, 'Marnie');
}

/** The machine stops after some writes of whatever comes next, or right here; it starts again on what is on the disk. */
const restart = step('restart', fc.constant(null), (stage) => stage.start());

const stopWithin = (inner: fc.Arbitrary<Act>): fc.Arbitrary<Act> =>
  fc.tuple(inner, fc.nat(3)).map(([act, writes]) => ({
    check: () => true,
    async run(model: object, stage: Stage) {
      stage.life = writes;
      await act.run(model, stage);
    },
    toString: () => `stopped after ${writes} writes of ${act.toString()}`,
  }));

/** Acts with how often each is drawn, beside the others. */
const weights: readonly (readonly [number, fc.Arbitrary<Act>])[] = [
  [8, add],
  [3, change],
  [6, code],
  [7, pay],
  [5, payWhole],
  [5, payInTwoTabs],
  [3, payEveryPage],
  [1, addWithSameKey],
  [6, approve],
  [2, decline],
  [7, deliver],
  [2, comeBack],
  [3, later],
  [2, sweep],
  [2, providerIs],
  [4, cheat],
  [3, payTooLate],
  [3, anotherCard],
  [2, transferAfterAll],
  [2, codeAtTheLine],
  [2, refundPieces],
  [3, refundAmount],
  [4, ownerActs],
  [2, acceptAndTakeBack],
  [2, giveSurplusBack],
  [1, price],
  [1, morePieces],
  [1, rules],
  [1, restart],
  [3, stopWithin(pay)],
  [2, stopWithin(fc.oneof(payWhole, deliver, refundAmount, refundPieces, ownerActs, giveSurplusBack))],
];

export const acts = fc.oneof(...weights.map(([weight, arbitrary]) => ({ weight, arbitrary })));
