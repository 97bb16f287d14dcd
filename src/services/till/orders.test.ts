import Papa from 'papaparse';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { edgePitch } from '../../core/site/pitch';
import { place } from '../sites/placing';
import { loadPage } from '../sites/site';
import { makeWorld, type World } from '../testing';
import { actOnOrder } from './fulfil';
import { listOrders } from './order-list';
import { ordersCsv } from './orders-csv';
import { policiesOf } from './policies';
import { refundOrder } from './refunds';
import { readRules } from '../rules/rules';
import { takingsCsv, takingsOf } from './takings';

/** Orders as they are read: found, told, counted, and with what was agreed to. What is done to them: after-sale.test.ts. */
let w: World;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 5);
  await w.addGoods('Pattern', 650, null, { kind: 'download' });
});
afterEach(() => w.end());

const first = async () => {
  const [order] = await w.orders();
  if (!order) throw new Error('there is an order');
  return order;
};

describe('the list of orders', () => {
  it('each says which pages of the site it came through, as far as they can be shown, and where it was paid for', async () => {
    const site = await w.site();
    const pitch = edgePitch(await loadPage(w.ctx, site, 'index.html'), 'header', 'end');
    if (!pitch) throw new Error('the header has an end');
    const { id: placement } = await place(w.ctx, site, {
      kind: 'buy',
      settings: { goods: 'trug' },
      reach: { to: 'page', page: 'index.html' },
      pitch: pitch.address,
      pitchLabel: pitch.label,
    });
    await w.buy([
      { goods: 'trug', page: '/', placement },
      { goods: 'trug', page: '/goods/trug' },
      { goods: 'pattern', page: '/about/' },
    ]);
    expect((await first()).lines.map((l) => [l.page, l.kind, l.shown])).toEqual([
      ['/', 'buy', true],
      ['/goods/trug', null, false],
      ['/about/', null, true],
    ]);
    expect((await first()).checkoutPage).toBe('/checkout/');
  });

  it('finds by number, name, address, product and tracking number; signs that SQL knows are letters like others', async () => {
    await w.buy([{ goods: 'trug' }], 'Ada@Penhallow.example');
    await w.order([{ goods: 'pattern' }], 'tom_100%@riddle.example');
    const site = await w.site();
    await actOnOrder(
      w.ctx,
      site,
      (await w.orders()).find((o) => o.number === 1001)?.id ?? '',
      { act: 'send', tracking: 'LX1' },
      'Marnie',
    );
    const find = async (find: string, more: object = {}) =>
      (await listOrders(w.ctx, site, { find, ...more })).shelves.flatMap((s) => s.rows.map((r) => r.shelf));
    expect(await find('1001')).toEqual(['done']);
    expect(await find('ada@pen')).toEqual(['done']);
    expect(await find('TRUG')).toEqual(['done']);
    expect(await find('lx1')).toEqual(['done']);
    expect(await find('m_100%')).toEqual(['paying']);
    expect(await find('m%riddle')).toEqual([]);
    expect(await find('', { state: 'paid' })).toEqual(['done']);
    expect(await find('', { from: '2026-11-25' })).toEqual([]);
    expect(await find('', { to: '2026-11-24', state: 'open' })).toEqual(['paying']);
  });

  it('as a table has a row to each, in plain decimals, and cells that would run are defused (RFC 4180, read back by Papa Parse)', async () => {
    await w.buy([{ goods: 'trug', quantity: 2 }], 'ada@x.example', {
      name: '=HYPERLINK("x")',
      note: 'two "lines"\nof, text',
    });
    const { data } = Papa.parse<Record<string, string>>(
      (await ordersCsv(w.ctx, await w.site(), {})).replace(/^\uFEFF/, ''),
      { header: true, skipEmptyLines: true },
    );
    expect(data).toHaveLength(1);
    expect(data[0]).toMatchObject({
      number: '1001',
      invoice: '1',
      state: 'paid',
      total: '84.00',
      pieces: '2',
      name: '\'=HYPERLINK("x")',
      note: 'two "lines"\nof, text',
      currency: 'GBP',
    });
  });
});

describe('takings', () => {
  it('tell what came in through which page and widget, less what went back, on the shop’s own days', async () => {
    await w.till('zone', 'Pacific/Auckland');
    await w.buy([{ goods: 'trug', page: '/about/' }]);
    await w.buy([{ goods: 'pattern', quantity: 2, page: '/goods/pattern' }], 'b@x.example');
    const site = await w.site();
    await refundOrder(w.ctx, site, (await w.orders())[0]?.id ?? '', { amount: 300 }, 'Marnie');
    const t = await takingsOf(w.ctx, site, {});
    // 09:00 in UTC is 22:00 of the same day in Auckland; two hours later it is tomorrow there.
    expect(t.to).toBe('2026-11-24');
    expect(t.days.at(-1)).toMatchObject({
      day: '2026-11-24',
      orders: 2,
      goods: 5500,
      refunded: 300,
      total: 5200,
    });
    expect(t.pages.map((p) => [p.name, p.amount])).toEqual([
      ['About', 4200],
      ['Plain product page', 1300],
    ]);
    w.clock.ms += 3 * 3_600_000;
    expect((await takingsOf(w.ctx, site, {})).to).toBe('2026-11-25');
    expect(await takingsCsv(w.ctx, site, { by: 'products' })).toContain('Trug,1,1,42.00,GBP');
    await expect(takingsOf(w.ctx, site, { from: '2026-11-20', to: '2026-11-01' })).rejects.toThrow(
      'after the last',
    );
  });
});

describe('what is agreed to', () => {
  it('has to be ticked in the version that stands there, and stays with the order', async () => {
    await w.till('checkout', { policies: [{ id: 'terms', name: 'Terms', text: 'Version one' }] });
    const site = await w.site();
    await expect(w.order([{ goods: 'trug' }])).rejects.toMatchObject({
      detail: { fields: { 'agree-terms': expect.stringContaining('tick') } },
    });
    const [one] = policiesOf(w.ctx, site, await readRules(w.ctx.store.db, site.row.id));
    await w.till('checkout', { policies: [{ id: 'terms', name: 'Terms', text: 'Version two' }] });
    await expect(
      w.order([{ goods: 'trug' }], 'a@b.example', { agreed: { terms: one?.version ?? '' } }),
    ).rejects.toMatchObject({
      detail: { fields: { 'agree-terms': expect.stringContaining('has changed') } },
    });
    const [two] = policiesOf(w.ctx, site, await readRules(w.ctx.store.db, site.row.id));
    await w.buy([{ goods: 'trug' }], 'a@b.example', { agreed: { terms: two?.version ?? '' } });
    const [agreed] = (await first()).policies;
    expect((await w.ctx.blobs.get(agreed?.version ?? '')).toString()).toBe('Version two');
  });
});
