import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { goods as goodsTable } from '../../data/schema';
import { readSlip } from '../sites/slip';
import { makeWorld, type World } from '../testing';
import { addProduct, ledgerSum, listGoods, parseProduct, removeProduct, saveProduct, setPicture, undoLive } from './goods';
import { pictureAt, takePicture } from './pictures';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const input = (more: object = {}) => parseProduct({ name: 'Trug', price: 4200, stock: 5, ...more });
const svg = (colour: string) => Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><rect width="40" height="30" fill="${colour}"/></svg>`);
const live = async () => (await readSlip(w.ctx, await w.site())).live;

describe('a product', () => {
  it('of the same name has an address of its own', async () => {
    const site = await w.site();
    const slugs = [];
    for (let i = 0; i < 3; i++) slugs.push((await addProduct(w.ctx, site, input(), 'm')).slug);
    expect(slugs).toEqual(['trug', 'trug-2', 'trug-3']);
  });

  it('is refused in words when it cannot be', () => {
    for (const [bad, says] of [
      [{ name: '' }, 'name'],
      [{ price: -1 }, 'nought'],
      [{ price: 2 ** 60 }, 'whole'],
      [{ price: 1.5 }, 'whole'],
      [{ stock: 1.5 }, 'whole pieces'],
      [{ name: 'x'.repeat(200) }, '140'],
    ] as const) {
      expect(() => input(bad), JSON.stringify(bad)).toThrow(new RegExp(says === 'whole' ? 'whole|large|int' : says, 'i'));
    }
  });

  it('comes with its picture as one line on the slip; another picture is another line', async () => {
    const site = await w.site();
    const made = await addProduct(w.ctx, site, input(), 'm');
    await setPicture(w.ctx, site, made.id, await takePicture(w.ctx, svg('red')), 'm');
    expect((await live()).map((l) => l.what)).toEqual(['Added to the goods']);
    const red = (await listGoods(w.ctx, site.row.id))[0]?.picture;
    await setPicture(w.ctx, site, made.id, await takePicture(w.ctx, svg('blue')), 'm');
    expect((await live()).map((l) => l.what)).toEqual(['Picture changed', 'Added to the goods']);
    await undoLive(w.ctx, site, (await live())[0]?.id ?? 0, 'm');
    expect((await listGoods(w.ctx, site.row.id))[0]?.picture).toBe(red);
  });

  it('removed is gone from the goods and comes back with its undo', async () => {
    const site = await w.site();
    const made = await addProduct(w.ctx, site, input(), 'm');
    await removeProduct(w.ctx, site, made.id, 'm');
    expect(await listGoods(w.ctx, site.row.id)).toEqual([]);
    await expect(saveProduct(w.ctx, site, made.id, input(), 'm')).rejects.toThrow('This product is gone');
    await undoLive(w.ctx, site, (await live())[0]?.id ?? 0, 'm');
    expect(await listGoods(w.ctx, site.row.id)).toMatchObject([{ id: made.id, name: 'Trug' }]);
  });

  it('of another site cannot be changed from here', async () => {
    const made = await addProduct(w.ctx, await w.site(), input(), 'm');
    const site = await w.site();
    const other = { ...site, row: { ...site.row, id: 'other' } };
    await expect(saveProduct(w.ctx, other, made.id, input(), 'm')).rejects.toThrow('gone');
  });
});

describe('pictures', () => {
  it('are made in the widths that are asked for, the next larger otherwise, never larger than they are', async () => {
    const big = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400"><rect width="600" height="400" fill="red"/></svg>');
    const hash = await takePicture(w.ctx, big);
    const { default: sharp } = await import('sharp');
    const widthOf = async (asked: number) => (await sharp(await pictureAt(w.ctx, hash, asked)).metadata()).width;
    expect(await widthOf(96)).toBe(96);
    expect(await widthOf(100)).toBe(240);
    const original = (await sharp(await w.ctx.blobs.get(hash)).metadata()).width ?? 0;
    expect(await widthOf(9999)).toBe(Math.min(original, 1440));
    expect((await sharp(await pictureAt(w.ctx, hash, 96)).metadata()).format).toBe('webp');
    await expect(pictureAt(w.ctx, 'f'.repeat(64), 96)).rejects.toThrow('no such picture');
  });

  it('lose what cameras write into them', async () => {
    const { default: sharp } = await import('sharp');
    const withPlace = await sharp({ create: { width: 8, height: 8, channels: 3, background: 'red' } })
      .withExif({ IFD0: { Copyright: 'somebody' } })
      .jpeg()
      .toBuffer();
    expect((await sharp(withPlace).metadata()).exif).toBeDefined();
    const kept = await w.ctx.blobs.get(await takePicture(w.ctx, withPlace));
    expect((await sharp(kept).metadata()).exif).toBeUndefined();
  });
});

it('whatever is counted, renamed and undone, the stock is the sum of its movements', async () => {
  const act = fc.oneof(
    fc.record({ act: fc.constant('count' as const), stock: fc.nat(20) }),
    fc.record({ act: fc.constant('price' as const), price: fc.nat(9999) }),
    fc.record({ act: fc.constant('undo' as const), which: fc.nat(5) }),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(act, { maxLength: 8 }), async (acts) => {
      const site = await w.site();
      const made = await addProduct(w.ctx, site, input(), 'm');
      for (const a of acts) {
        const [now] = await w.ctx.store.db.select().from(goodsTable).where(eq(goodsTable.id, made.id));
        if (!now || now.removedAt) break;
        const { name, description, price, stock, pictureAlt } = now;
        if (a.act === 'count') await saveProduct(w.ctx, site, made.id, parseProduct({ name, description, price, pictureAlt, stock: a.stock }), 'm');
        else if (a.act === 'price') await saveProduct(w.ctx, site, made.id, parseProduct({ name, description, stock, pictureAlt, price: a.price }), 'm');
        else {
          const lines = (await live()).filter((l) => l.what === 'Stock' || l.what === 'Price');
          const line = lines[a.which % Math.max(1, lines.length)];
          // Refused where something later stands on it: that is right, and changes nothing.
          if (line) await undoLive(w.ctx, site, line.id, 'm').catch(() => {});
        }
        const [after] = await w.ctx.store.db.select().from(goodsTable).where(eq(goodsTable.id, made.id));
        expect(after?.stock).toBe(await ledgerSum(w.ctx, made.id));
        expect(after?.stock).toBeGreaterThanOrEqual(0);
      }
    }),
    { numRuns: 15 },
  );
});
