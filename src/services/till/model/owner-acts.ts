import fc from 'fast-check';
import { eq, inArray } from 'drizzle-orm';
import { goods, orders, payments } from '../../../data/schema';
import { listGoods, saveProduct } from '../../goods/goods';
import { may } from '../../../core/till/order-life';
import { readCart } from '../cart';
import { setCode } from '../cart-changes';
import { actOnOrder } from '../fulfil';
import { factsOf } from '../order-facts';
import { readRules, saveRules } from '../../rules/rules';
import { returnSurplus } from '../surplus';
import type { Stage } from './stage';
import { claim, nth, pick, step, who } from './step';

/** What the owner does. */
export const anyOrder = async (stage: Stage, n: number) =>
  pick(
    await stage.ctx.store.db
      .select()
      .from(orders)
      .where(inArray(orders.state, ['paid', 'placed', 'cancelled'])),
    n,
  );
export const onOrder = async (stage: Stage, id: string, what: object) =>
  void (await actOnOrder(stage.ctx, await stage.site(), id, what, 'Marnie'));

export const refundPieces = step(
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

export const refundAmount = step(
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

export const ownerActs = step(
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
export const acceptAndTakeBack = step(
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

export const giveSurplusBack = step('give surplus back', fc.record({ nth }), async (stage, g) => {
  const all = await stage.ctx.store.db
    .select()
    .from(payments)
    .where(inArray(payments.state, ['surplus', 'returning']));
  const one = pick(all, g.nth);
  if (one) await returnSurplus(stage.ctx, await stage.site(), one.orderId, { payment: one.id }, 'Marnie');
});

export const price = step(
  'price',
  fc.record({ slug: fc.constantFrom('trug', 'creel'), price: fc.constantFrom(1075, 1250, 2000, 4000, 5200) }),
  async (stage, g) => {
    const [row] = await stage.ctx.store.db.select().from(goods).where(eq(goods.slug, g.slug));
    if (row)
      await saveProduct(stage.ctx, await stage.site(), row.id, { fields: { price: g.price } }, 'Marnie');
  },
);

export const morePieces = step(
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

export const rules = step(
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
export const codeAtTheLine = step('code at the line', fc.record({ who, nth }), async (stage, g) => {
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

export async function setFreeFrom(stage: Stage, freeFrom: number): Promise<void> {
  const { shipping } = await readRules(stage.ctx.store.db, stage.template.siteId);
  const regions = shipping.regions.map((r) => ({ ...r, ways: r.ways.map((way) => ({ ...way, freeFrom })) }));
  const part = { part: 'shipping' as const, value: { ...shipping, regions }, from: shipping };
  await saveRules(stage.ctx, await stage.site(), part, 'Marnie');
}
