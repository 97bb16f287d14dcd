import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { makeWorld, type World } from '../testing';
import { readSlip } from '../sites/slip';
import { drawWidget } from '../storefront/widgets';
import { addToCart } from '../till/add-to-cart';
import { tillView } from '../till/try-cart';
import { catalogueOf } from './catalogue';
import { categoryLines, changeCategories } from './category-tree';
import { listGoods, undoLive } from './goods';
import { addSamples } from './samples';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Log basket', 6800, null, { categories: ['Baskets / Round'] });
  await w.addGoods('Trug', 4200, null, { categories: ['Baskets'] });
  await w.addGoods('Kit', 2400, null, { categories: ['Kits'] });
});
afterEach(() => w.end());

const lines = async () =>
  categoryLines(w.ctx, await w.site(), await listGoods(w.ctx, (await w.site()).row.id));
const idOf = async (path: string) => (await lines()).find((l) => l.path === path)?.id ?? '';
const act = async (a: object) => changeCategories(w.ctx, await w.site(), a, 'test');
const undoLast = async () =>
  undoLive(w.ctx, await w.site(), (await readSlip(w.ctx, await w.site())).live[0]?.id ?? 0, 'test');
const pathsOf = async (slug: string) =>
  (await catalogueOf(w.ctx, (await w.site()).row.id)).bySlug.get(slug)?.categories;

describe('categories', () => {
  it('that are renamed show it in every product, keep their address, and go back', async () => {
    await act({ do: 'rename', id: await idOf('Baskets'), name: 'Woven' });
    expect(await pathsOf('log-basket')).toEqual(['Woven / Round']);
    expect((await lines()).map((l) => [l.path, l.slug, l.count, l.depth])).toEqual([
      ['Woven', 'baskets', 2, 0],
      ['Woven / Round', 'round', 1, 1],
      ['Kits', 'kits', 1, 0],
    ]);
    expect((await readSlip(w.ctx, await w.site())).live[0]).toMatchObject({
      where: 'Goods',
      what: 'Category \u201cWoven\u201d renamed',
    });
    await undoLast();
    expect(await pathsOf('log-basket')).toEqual(['Baskets / Round']);
  });

  it('that are renamed or moved go on being meant by widgets on live pages and by discounts', async () => {
    await w.till('discounts', [
      {
        id: 'a',
        name: 'Baskets',
        kind: 'percent',
        percent: 50,
        scope: { to: 'categories', categories: ['Baskets'] },
      },
    ]);
    const shown = async () => {
      const draw = async (kind: string, attributes: Record<string, string>) =>
        (
          await drawWidget(w.ctx, await w.site(), { kind, attributes: new Map(Object.entries(attributes)) })
        ).text.match(/data-card="[^"]*"/g);
      const cart = await addToCart(
        w.ctx,
        await w.site(),
        null,
        { goods: 'log-basket', quantity: 1, placement: null, page: '/' },
        null,
      );
      return [
        await draw('row', { source: 'category', category: 'Baskets' }),
        await draw('shop', { category: 'Baskets / Round' }),
        cart.total,
        (await tillView(w.ctx, await w.site())).former.Baskets,
      ];
    };
    const before = await shown();
    expect(before).toEqual([
      ['data-card="log-basket"', 'data-card="trug"'],
      ['data-card="log-basket"'],
      3400,
      undefined,
    ]);
    await act({ do: 'rename', id: await idOf('Baskets'), name: 'Woven' });
    expect(await shown()).toEqual([...before.slice(0, 3), 'Woven']);
    await act({ do: 'move', id: await idOf('Woven'), parent: await idOf('Kits'), before: null });
    expect(await shown()).toEqual([...before.slice(0, 3), 'Kits / Woven']);
    // A new one of that name is meant from then on.
    await act({ do: 'add', name: 'Baskets', parent: null });
    expect((await shown()).slice(2)).toEqual([6800, undefined]);
    for (let n = 0; n < 3; n++) await undoLast();
    expect(await shown()).toEqual(before);
  });

  it('move, nest, and are refused where that makes no sense', async () => {
    await act({ do: 'move', id: await idOf('Kits'), parent: null, before: await idOf('Baskets') });
    expect((await lines())[0]?.path).toBe('Kits');
    await act({ do: 'move', id: await idOf('Kits'), parent: await idOf('Baskets'), before: null });
    expect(await pathsOf('kit')).toEqual(['Baskets / Kits']);
    await expect(
      act({ do: 'move', id: await idOf('Baskets'), parent: await idOf('Baskets / Kits'), before: null }),
    ).rejects.toThrow('cannot stand in itself');
    await expect(act({ do: 'rename', id: await idOf('Baskets / Kits'), name: 'round' })).rejects.toThrow(
      'called round here already',
    );
    await expect(act({ do: 'burn' })).rejects.toThrow('not known');
  });

  it('that are removed let their products stay, and come back with them', async () => {
    await act({ do: 'remove', id: await idOf('Baskets') });
    expect(await pathsOf('trug')).toEqual([]);
    expect(await pathsOf('log-basket')).toEqual(['Round']);
    await undoLast();
    expect(await pathsOf('trug')).toEqual(['Baskets']);
    expect(await pathsOf('log-basket')).toEqual(['Baskets / Round']);
  });

  it('are undone only from the latest back', async () => {
    await act({ do: 'add', name: 'Willow', parent: null });
    const { live } = await readSlip(w.ctx, await w.site());
    await act({ do: 'add', name: 'Vouchers', parent: null });
    await expect(undoLive(w.ctx, await w.site(), live[0]?.id ?? 0, 'test')).rejects.toThrow(
      'Undo the later change first',
    );
  });
});

it('samples are marked, one line on the slip, and gone with one undo; in currencies of any digits', async () => {
  expect(await addSamples(w.ctx, await w.site(), 'test')).toBe(4);
  const made = (await listGoods(w.ctx, (await w.site()).row.id)).filter((p) => p.sample);
  expect(made).toHaveLength(4);
  for (const p of made)
    expect([
      p.name.startsWith('Sample'),
      p.pictures.length,
      p.pictures[0]?.alt !== '',
      p.price >= 900,
    ]).toEqual([true, 1, true, true]);
  await undoLast();
  expect((await listGoods(w.ctx, (await w.site()).row.id)).filter((p) => p.sample)).toEqual([]);
});
