import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { carts, documents, letters, orders, shoppers } from '../../data/schema';
import { sendDue } from '../letters/outbox';
import { lookUpOrder } from '../till/orders';
import { makeWorld, type World } from '../testing';
import { sessionEmail } from './account';
import { dataHref, dataLinkIsFor } from './data-link';
import { dropPassword, hasPassword, setPassword, signInByPassword } from './password';
import { dataOf, erase } from './privacy';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 9);
});
afterEach(() => w.end());

describe('a password', () => {
  it('opens the orders of its address, whatever capitals; a wrong one and an unknown address are told the same', async () => {
    const site = await w.site();
    await expect(setPassword(w.ctx, site, 'ada@x.example', 'short')).rejects.toThrow('ten characters');
    await setPassword(w.ctx, site, 'Ada@x.example', 'forty-one willows');
    const session = await signInByPassword(w.ctx, site, ' ADA@x.example', 'forty-one willows', 'site');
    expect(await sessionEmail(w.ctx, site, session)).toBe('ada@x.example');
    const why = async (email: string, password: string) =>
      signInByPassword(w.ctx, site, email, password, 'site').then(
        () => '',
        (e: Error) => e.message,
      );
    expect(await why('ada@x.example', 'forty-two willows')).toBe(
      await why('nobody@x.example', 'forty-one willows'),
    );
    expect(JSON.stringify(await w.ctx.store.db.select().from(shoppers))).not.toContain('willows');
    await dropPassword(w.ctx, site, 'ada@x.example');
    expect(await hasPassword(w.ctx, site, 'ada@x.example')).toBe(false);
  });
});

describe('what is kept about a shopper', () => {
  it('is handed out whole to whoever is signed in, by a way that ends and cannot be made up', async () => {
    await w.buy([{ goods: 'trug' }], 'ada@x.example', { note: 'ring twice' });
    await w.buy([{ goods: 'trug' }], 'other@x.example');
    await sendDue(w.ctx);
    const site = await w.site();
    const text = JSON.stringify(await dataOf(w.ctx, site, 'ADA@x.example'));
    for (const words of ['ring twice', '4 Weir Lane', 'Your order 1001', 'Trug'])
      expect(text).toContain(words);
    expect(text).not.toContain('other@x.example');
    const link = dataHref(w.ctx, site, 'ada@x.example').split('/').at(-1) ?? '';
    expect(dataLinkIsFor(w.ctx, site, link)).toBe('ada@x.example');
    expect(
      dataLinkIsFor(
        w.ctx,
        site,
        link.replace(/.$/, (c) => (c === 'A' ? 'B' : 'A')),
      ),
    ).toBeUndefined();
    expect(dataLinkIsFor(w.ctx, site, 'x')).toBeUndefined();
    w.clock.ms += 11 * 60_000;
    expect(dataLinkIsFor(w.ctx, site, link)).toBeUndefined();
  });

  it('is erased: what the law does not ask for goes, invoices stay, others are not touched', async () => {
    await w.buy([{ goods: 'trug' }], 'ada@x.example', { note: 'ring twice', phone: '01632 960001' });
    await w.order([{ goods: 'trug' }], 'ada@x.example');
    await w.buy([{ goods: 'trug' }], 'other@x.example');
    await sendDue(w.ctx);
    const site = await w.site();
    await setPassword(w.ctx, site, 'ada@x.example', 'forty-one willows');
    expect(await erase(w.ctx, site, 'Ada@X.example')).toEqual({ kept: 1 });
    const all = JSON.stringify([
      await w.ctx.store.db.select().from(orders),
      await w.ctx.store.db.select().from(letters),
      await w.ctx.store.db.select().from(carts),
      await w.ctx.store.db.select().from(shoppers),
      (await w.orders()).map((o) => o.events),
    ]);
    expect(all).not.toMatch(/ada@x\.example|ring twice|960001/i);
    expect(all).toContain('other@x.example');
    // The order that was paid keeps who bought it, as its invoice does; the one that came to nothing keeps nothing.
    const kept = await w.orders();
    expect(kept.filter((o) => o.buyer.name === 'Ada Penhallow')).toHaveLength(2);
    expect(kept.find((o) => o.state === 'waiting')?.buyer).toEqual({
      email: '',
      name: '',
      street: '',
      town: '',
      postcode: '',
      country: '',
    });
    expect(await w.ctx.store.db.$count(documents)).toBe(2);
    // Nobody gets at it by saying nothing.
    expect(await lookUpOrder(w.ctx, site.row.id, '1001', ' ')).toBeUndefined();
    expect(await lookUpOrder(w.ctx, site.row.id, '1002', 'OTHER@x.example')).toBeDefined();
  });
});
