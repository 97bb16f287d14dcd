import { afterEach, beforeEach, expect, it } from 'vitest';
import { readSlip } from '../sites/slip';
import { makeWorld, type World } from '../testing';
import { changeMany, previewBulk } from './bulk';
import { listGoods, saveProduct, undoLive } from './goods';
import { goodsLines, oneProduct } from './lines';

let w: World;
let ids: string[];
beforeEach(async () => {
  w = await makeWorld();
  ids = [];
  for (const [name, price] of [
    ['Trug', 4200],
    ['Creel', 1999],
    ['Peg', 0],
  ] as const)
    ids.push((await w.addGoods(name, price, 5)).id);
});
afterEach(() => w.end());
const prices = async () => (await listGoods(w.ctx, (await w.site()).row.id)).map((p) => p.price);

it('what a change would do is what it does: the same products, the same figures', async () => {
  const site = await w.site();
  const edit = { do: 'price', by: 'percent', value: 10, ends: '99' };
  const preview = await previewBulk(w.ctx, site, ids, edit);
  expect(preview).toMatchObject({
    changes: 3,
    same: 0,
    lines: [
      { name: 'Trug', from: '£42.00', to: '£45.99' },
      { name: 'Creel', from: '£19.99', to: '£21.99' },
      { name: 'Peg', to: '£0.99' },
    ],
  });
  expect(await prices()).toEqual([4200, 1999, 0]);
  expect(await changeMany(w.ctx, site, ids, edit, 'm')).toEqual({ changed: preview.changes });
  expect(await prices()).toEqual([4599, 2199, 99]);
});

it('is one line on the slip and one undo; and is refused where something later stands on one of them', async () => {
  const site = await w.site();
  await changeMany(w.ctx, site, ids, { do: 'category', how: 'in', path: 'Willow / Round' }, 'm');
  const [line] = (await readSlip(w.ctx, site)).live;
  expect(line).toMatchObject({ where: 'Goods', what: 'Categories of 3 products' });
  await saveProduct(w.ctx, site, ids[1] ?? '', { fields: { categories: ['Ash'] } }, 'm');
  await expect(undoLive(w.ctx, site, line?.id ?? 0, 'm')).rejects.toThrow('Creel was changed again since');
  expect((await listGoods(w.ctx, site.row.id)).map((p) => p.categories)).toEqual([
    ['Willow / Round'],
    ['Ash'],
    ['Willow / Round'],
  ]);
  const [later] = (await readSlip(w.ctx, site)).live;
  await undoLive(w.ctx, site, later?.id ?? 0, 'm');
  await undoLive(w.ctx, site, line?.id ?? 0, 'm');
  expect((await listGoods(w.ctx, site.row.id)).map((p) => p.categories)).toEqual([[], [], []]);
});

it('that cannot be of one of them is made of none', async () => {
  const site = await w.site();
  await expect(changeMany(w.ctx, site, [...ids, 'gone'], { do: 'badge', badge: 'New' }, 'm')).rejects.toThrow(
    'This product is gone',
  );
  expect((await listGoods(w.ctx, site.row.id)).map((p) => p.badge)).toEqual(['', '', '']);
  await expect(changeMany(w.ctx, site, ids, { do: 'paint' }, 'm')).rejects.toThrow();
  await expect(previewBulk(w.ctx, site, ids, { do: 'offer', percent: 0 })).rejects.toThrow();
});

it('removes many, and brings them back with one undo', async () => {
  const site = await w.site();
  await changeMany(w.ctx, site, ids.slice(0, 2), { do: 'remove' }, 'm');
  expect((await goodsLines(w.ctx, site.row.id)).map((l) => l.name)).toEqual(['Peg']);
  await expect(oneProduct(w.ctx, site.row.id, ids[0] ?? '')).rejects.toThrow('gone');
  await undoLive(w.ctx, site, (await readSlip(w.ctx, site)).live[0]?.id ?? 0, 'm');
  expect((await goodsLines(w.ctx, site.row.id)).map((l) => [l.name, l.variants[0]?.stock])).toEqual([
    ['Trug', 5],
    ['Creel', 5],
    ['Peg', 5],
  ]);
});
