import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { isWaiting, type Shelf, shelfOf } from '../../core/till/order-life';
import { orderEvents, orders } from '../../data/schema';
import { pdfOf } from '../papers/pdf';
import { packingSlips } from '../papers/papers';
import { readRules } from '../rules/rules';
import { makeWorld, type World } from '../testing';
import { factsOf } from './order-facts';
import { foundOnShelf, listOrders, shelfIn } from './order-list';

/** Shops with many orders: every one can be reached, and those that wait longest come first. */
let w: World;
type Order = typeof orders.$inferSelect;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 5);
});
afterEach(() => w.end());

/** One that was really ordered, as often as there are changes, each with its own. */
async function many(changes: readonly Partial<Order>[]): Promise<void> {
  const [made] = await w.orders();
  const [one] = await w.ctx.store.db
    .select()
    .from(orders)
    .where(eq(orders.id, made?.id ?? ''));
  if (!one) throw new Error('something was ordered');
  await w.ctx.store.write(async (tx) => {
    for (const [n, change] of changes.entries())
      await tx.insert(orders).values({
        ...one,
        id: `many${n}`,
        token: `token${n}`,
        cart: `cart${n}`,
        number: 5000 + n,
        ...change,
      });
  });
}

const moment = fc.constantFrom(null, null, null, new Date('2026-11-20T10:00:00Z'));
const changed = fc.record({
  state: fc.constantFrom('waiting', 'placed', 'paid', 'failed', 'cancelled'),
  short: fc.boolean(),
  goes: fc.constantFrom('', 'post', 'local', 'collect'),
  payBy: fc.constantFrom('card', 'cash', 'bank', 'gone'),
  packedAt: moment,
  sentAt: moment,
  collectedAt: moment,
}) satisfies fc.Arbitrary<Partial<Order>>;

it('law: the database puts every order on the shelf that the rules of its life put it on', async () => {
  await w.order([{ goods: 'trug' }]);
  const { pay } = await readRules(w.ctx.store.db, (await w.site()).row.id);
  const rules = {
    ...pay,
    ways: [
      ...pay.ways,
      { id: 'cash', kind: 'delivery', name: 'Cash', text: '', min: 0, max: null },
      { id: 'bank', kind: 'transfer', name: 'Bank', text: '', min: 0, max: null },
    ],
  } as typeof pay;
  await many(fc.sample(changed, { numRuns: 400, seed: 20261202 }));
  const rows = await w.ctx.store.db.select({ order: orders, shelf: shelfIn(rules) }).from(orders);
  const met = new Set<Shelf>();
  for (const { order, shelf } of rows) {
    expect({ ...order, shelf }).toEqual({ ...order, shelf: shelfOf(factsOf(order, rules)) });
    met.add(shelf);
  }
  expect(rows).toHaveLength(401);
  expect(met.size).toBe(8);
});

it('law: page by page every order is met once, in order, whatever is found and however many a page holds', async () => {
  await w.order([{ goods: 'trug' }]);
  // Many of one moment: an import, a sale that began on the hour.
  await many(
    fc
      .sample(changed, { numRuns: 240, seed: 7 })
      .map((change, n) => ({ ...change, createdAt: new Date(Date.UTC(2026, 9, 1 + (n % 5))) })),
  );
  const site = await w.site();
  const { shelves } = await listOrders(w.ctx, site);
  expect(shelves.reduce((sum, s) => sum + s.count, 0)).toBe(241);
  for (const { shelf, count } of shelves) {
    const met: string[] = [];
    for (let after = ''; ; ) {
      const [page] = (await listOrders(w.ctx, site, { shelf, after, take: '7' })).shelves;
      expect(page?.count).toBe(count);
      met.push(...(page?.rows.map((o) => `${o.createdAt} ${o.id}`) ?? []));
      if (!page?.next) break;
      after = page.next;
    }
    expect(new Set(met).size).toBe(count);
    const sorted = [...met].sort();
    expect(met).toEqual(isWaiting(shelf) ? sorted : sorted.reverse());
  }
});

it('of more than are shown, those that wait longest are shown first, with how many there are', async () => {
  await w.order([{ goods: 'trug' }]);
  const paid = { state: 'paid', goes: 'post' } as const;
  await many(
    Array.from({ length: 620 }, (_, n) => ({ ...paid, createdAt: new Date(Date.UTC(2026, 0, 1, 0, n)) })),
  );
  const { shelves } = await listOrders(w.ctx, await w.site());
  const toPack = shelves.find((s) => s.shelf === 'to-pack');
  expect(toPack).toMatchObject({ count: 620 });
  expect(toPack?.rows[0]?.number).toBe(5000);
  expect(toPack?.rows).toHaveLength(60);
});

it('prints the slips of all that are to be packed as one PDF, the longest waiting first, and narrowed as the list is', async () => {
  await w.order([{ goods: 'trug' }], 'ada@penhallow.example');
  const paid = { state: 'paid', goes: 'post' } as const;
  await many(
    Array.from({ length: 620 }, (_, n) => ({
      ...paid,
      createdAt: new Date(Date.UTC(2026, 0, 1 + (n % 40))),
    })),
  );
  const site = await w.site();
  const all = await foundOnShelf(w.ctx, site, { shelf: 'to-pack' });
  expect(all).toHaveLength(620);
  const slips = await packingSlips(w.ctx, site, all);
  const pdf = await pdfOf(slips);
  // PDF 1.7 (ISO 32000-1), 7.7.3.3: every page is an object of this type.
  expect(pdf.toString('latin1').match(/\/Type \/Page\b(?!s)/g)).toHaveLength(620);
  expect(
    await w.ctx.store.db.select().from(orderEvents).where(eq(orderEvents.orderId, 'many619')),
  ).toHaveLength(1);
  expect(await foundOnShelf(w.ctx, site, { shelf: 'to-pack', to: '2026-01-10' })).toHaveLength(160);
  await expect(foundOnShelf(w.ctx, site, {})).rejects.toThrow('Say which orders');
});

it('refuses what is no place in the list', async () => {
  const site = await w.site();
  for (const asked of [{ after: "1'; --" }, { take: '0' }, { take: '1e9' }, { shelf: 'loft' }])
    await expect(listOrders(w.ctx, site, asked)).rejects.toThrow('This search is not understood.');
});
