import { readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { syncVariants } from '../../core/goods/variants';
import type { Product } from '../../core/goods/product';
import { variants as variantTable } from '../../data/schema';
import { readSlip } from '../sites/slip';
import { productPageView } from '../storefront/views';
import { drawWidget } from '../storefront/widgets';
import { wordsIn } from '../../core/languages/languages';
import { makeWorld, type World } from '../testing';
import { addToCart } from '../till/add-to-cart';
import { readCart } from '../till/cart';
import { goToPay } from '../till/go-to-pay';
import { parseCheckout } from '../till/checkout-form';
import { catalogueOf } from './catalogue';
import {
  addProduct,
  duplicateProduct,
  ledgerSum,
  listGoods,
  moveProduct,
  parseProduct,
  removeProduct,
  saveProduct,
  undoLive,
} from './goods';
import { Recent } from '../cache';
import { pictureAt, picturesMade, takePicture } from './pictures';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const input = (more: object = {}) =>
  parseProduct({ name: 'Trug', price: 4200, variants: [{ stock: 5 }], ...more });
const svg = (colour: string) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><rect width="40" height="30" fill="${colour}"/></svg>`,
  );
const live = async () => (await readSlip(w.ctx, await w.site())).live;
const now = async (id: string): Promise<Product> => {
  const found = (await listGoods(w.ctx, (await w.site()).row.id)).find((p) => p.id === id);
  if (!found) throw new Error('gone');
  return found;
};
const sizes = {
  options: [{ name: 'Size', values: [{ name: 'S' }, { name: 'L' }] }],
  variants: [
    { values: ['S'], stock: 2 },
    { values: ['L'], stock: 0, difference: 600 },
  ],
};

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
      [{ price: 2 ** 60 }, 'whole|large|int'],
      [{ price: 1.5 }, 'whole'],
      [{ variants: [{ stock: 1.5 }] }, 'whole pieces'],
      [{ name: 'x'.repeat(200) }, '140'],
      [{ was: 100 }, 'more than the price now'],
      [{ kind: 'event' }, 'when it takes place'],
      [{ kind: 'bundle' }, 'in the bundle'],
      [{ kind: 'link' }, 'where it is sold'],
      [{ kind: 'subscription' }, 'how often'],
      [{ variants: [{ gtin: '4006381333932' }] }, 'should be 1'],
      [{ ...sizes, variants: [{ values: ['M'] }] }, 'does not have'],
      [{ ...sizes, variants: [{ values: ['S'] }, { values: ['S'] }] }, 'same choice'],
      [{ offer: { kind: 'percent', value: 120 } }, '100 per cent'],
      [{ slug: 'Round basket!' }, 'letters, digits and hyphens'],
      [{ video: 'javascript:alert(1)' }, 'https'],
      [{ link: { url: 'javascript:alert(1)' } }, 'https'],
    ] as const) {
      expect(() => input(bad), JSON.stringify(bad)).toThrow(new RegExp(says, 'i'));
    }
  });

  it('is written in rich text that can do no harm, there and back', async () => {
    const site = await w.site();
    const made = await addProduct(
      w.ctx,
      site,
      input({
        description:
          '<h1>Big</h1><p onclick="x()">Soft <b>and</b> <a href="javascript:alert(1)">bad</a> <a href="https://a.example">good</a></p><script>alert(1)</script><img src=x onerror=alert(1)><style>p{}</style>',
      }),
      'm',
    );
    expect(made.description).toBe(
      '<h3>Big</h3><p>Soft <strong>and</strong> <a>bad</a> <a href="https://a.example" rel="noopener">good</a></p>',
    );
    expect(made.plain).toBe('Big Soft and bad good');
    const plain = await addProduct(w.ctx, site, input({ description: 'Oval & <34 cm\n\nTwo' }), 'm');
    expect(plain.description).toBe('<p>Oval &amp; &lt;34 cm</p><p>Two</p>');
    // What stands in the rows is cleaned on its way out too.
    const { goods } = await import('../../data/schema');
    await w.ctx.store.db
      .update(goods)
      .set({
        details: { ...(await detailsIn(made.id)), description: '<p>x</p><script>bad()</script>' },
        version: 999,
      })
      .where(eq(goods.id, made.id));
    const { sites } = await import('../../data/schema');
    await w.ctx.store.db.update(sites).set({ goodsVersion: 999 });
    expect((await now(made.id)).description).toBe('<p>x</p>');
  });

  it('comes with its picture as one line on the slip; another picture is another line', async () => {
    const site = await w.site();
    const red = { hash: await takePicture(w.ctx, svg('red')), alt: 'red' };
    const made = await addProduct(w.ctx, site, input({ pictures: [red] }), 'm');
    expect((await live()).map((l) => l.what)).toEqual(['Added to the goods']);
    await saveProduct(
      w.ctx,
      site,
      made.id,
      { fields: { pictures: [red, { hash: await takePicture(w.ctx, svg('blue')), alt: 'blue' }] } },
      'm',
    );
    expect((await live()).map((l) => l.what)).toEqual(['Pictures changed', 'Added to the goods']);
    await undoLive(w.ctx, site, (await live())[0]?.id ?? 0, 'm');
    expect((await now(made.id)).pictures.map((p) => p.alt)).toEqual(['red']);
  });

  it('removed is gone from the goods and comes back with its undo', async () => {
    const site = await w.site();
    const made = await addProduct(w.ctx, site, input(), 'm');
    await removeProduct(w.ctx, site, made.id, 'm');
    expect(await listGoods(w.ctx, site.row.id)).toEqual([]);
    await expect(saveProduct(w.ctx, site, made.id, { fields: { price: 1 } }, 'm')).rejects.toThrow(
      'This product is gone',
    );
    await undoLive(w.ctx, site, (await live())[0]?.id ?? 0, 'm');
    expect(await listGoods(w.ctx, site.row.id)).toMatchObject([{ id: made.id, name: 'Trug' }]);
  });

  it('of another site cannot be changed from here', async () => {
    const made = await addProduct(w.ctx, await w.site(), input(), 'm');
    const site = await w.site();
    const other = { ...site, row: { ...site.row, id: 'other' } };
    await expect(saveProduct(w.ctx, other, made.id, { fields: {} }, 'm')).rejects.toThrow('gone');
  });

  it('keeps its former addresses: links and widgets that name one still find it', async () => {
    const site = await w.site();
    const made = await addProduct(w.ctx, site, input(), 'm');
    await addProduct(w.ctx, site, input({ name: 'Creel' }), 'm');
    await saveProduct(w.ctx, site, made.id, { fields: { slug: 'berry-trug' } }, 'm');
    await expect(saveProduct(w.ctx, site, made.id, { fields: { slug: 'creel' } }, 'm')).rejects.toThrow(
      'Creel has the address /creel already',
    );
    const { bySlug } = await catalogueOf(w.ctx, site.row.id);
    expect([bySlug.get('trug')?.id, bySlug.get('berry-trug')?.id]).toEqual([made.id, made.id]);
    expect((await productPageView(w.ctx, site, 'trug', '', wordsIn('en'))).name).toBe('Trug');
    expect(
      (await addToCart(w.ctx, site, null, { goods: 'trug', quantity: 1, placement: null, page: null }, null))
        .pieces,
    ).toBe(1);
    // Another product that takes the old address has it for its own.
    const taker = await addProduct(w.ctx, site, input({ slug: 'trug' }), 'm');
    expect((await catalogueOf(w.ctx, site.row.id)).bySlug.get('trug')?.id).toBe(taker.id);
  });

  it('by link only stands in no list and can be bought by its link; hidden cannot', async () => {
    const site = await w.site();
    const made = await addProduct(w.ctx, site, input({ shows: 'link' }), 'm');
    const row = async () =>
      (await drawWidget(w.ctx, await w.site(), { kind: 'row', attributes: new Map([['source', 'all']]) }))
        .text;
    expect(await row()).not.toContain('Trug');
    expect(
      (
        await drawWidget(w.ctx, site, {
          kind: 'row',
          attributes: new Map([
            ['source', 'chosen'],
            ['goods', 'trug'],
          ]),
        })
      ).text,
    ).toContain('Trug');
    const { token } = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'trug', quantity: 1, placement: null, page: null },
      null,
    );
    await saveProduct(w.ctx, site, made.id, { fields: { shows: 'hidden' } }, 'm');
    await expect(
      addToCart(w.ctx, site, null, { goods: 'trug', quantity: 1, placement: null, page: null }, null),
    ).rejects.toThrow('not for sale');
    await expect(productPageView(w.ctx, site, 'trug', '', wordsIn('en'))).rejects.toThrow('not for sale');
    expect((await readCart(w.ctx, site, token)).lines[0]?.available).toBe(0);
  });

  it('again, as a copy, is hidden, counts nothing yet and has no codes twice', async () => {
    const site = await w.site();
    const made = await addProduct(
      w.ctx,
      site,
      input({ variants: [{ stock: 5, sku: 'T1', gtin: '4006381333931' }] }),
      'm',
    );
    const copy = await duplicateProduct(w.ctx, site, made.id, 'm');
    expect(copy).toMatchObject({
      name: 'Trug (copy)',
      slug: 'trug-copy',
      shows: 'hidden',
      variants: [{ stock: 0, sku: '', gtin: '' }],
    });
  });

  it('is put before another by hand, and back by the undo', async () => {
    const site = await w.site();
    const ids = [];
    for (const name of ['A', 'B', 'C']) ids.push((await addProduct(w.ctx, site, input({ name }), 'm')).id);
    const order = async () => (await listGoods(w.ctx, site.row.id)).map((p) => p.name).join('');
    await moveProduct(w.ctx, site, ids[2] ?? '', ids[0] ?? '', 'm');
    expect(await order()).toBe('CAB');
    await undoLive(w.ctx, site, (await live())[0]?.id ?? 0, 'm');
    expect(await order()).toBe('ABC');
  });
});

const detailsIn = async (id: string) => {
  const { goods } = await import('../../data/schema');
  const [row] = await w.ctx.store.db.select().from(goods).where(eq(goods.id, id));
  if (!row) throw new Error('gone');
  return row.details;
};

describe('variants', () => {
  it('are bought by their choice, at their own price, from their own count', async () => {
    const site = await w.site();
    await addProduct(
      w.ctx,
      site,
      input({ ...sizes, texts: [{ label: 'Initials', most: 3, price: 400 }] }),
      'm',
    );
    const put = (options: string[] | null, texts: string[] = []) =>
      addToCart(
        w.ctx,
        site,
        null,
        { goods: 'trug', quantity: 1, placement: null, page: null, options, texts },
        null,
      );
    await expect(put(null)).rejects.toThrow('Choose first: Size');
    await expect(put(['M'])).rejects.toThrow('Choose first');
    await expect(put(['L'])).rejects.toThrow('Trug (L) is sold out');
    await expect(put(['S'], ['A. P. Q.'])).rejects.toThrow('at most 3 characters');
    expect((await put(['S'], ['AP'])).lines).toMatchObject([
      { name: 'Trug', particulars: ['S', 'Initials: AP'], unit: 4600 },
    ]);
    const view = await productPageView(w.ctx, site, 'trug', '', wordsIn('en'));
    expect([view.price, view.options[0]?.values.map((v) => [v.name, v.out])]).toEqual([
      'from £42.00',
      [
        ['S', false],
        ['L', true],
      ],
    ]);
  });

  it('keep count and codes when options change, and all of it comes back with one undo', async () => {
    const site = await w.site();
    const made = await addProduct(w.ctx, site, input(sizes), 'm');
    const [small] = made.variants;
    await saveProduct(
      w.ctx,
      site,
      made.id,
      {
        fields: {
          options: [{ name: 'Size', values: [{ name: 'S' }, { name: 'M' }] }],
          variants: [{ ...small }, { values: ['M'], stock: 4 }],
        },
      },
      'm',
    );
    expect((await now(made.id)).variants.map((v) => [v.values[0], v.stock, v.id === small?.id])).toEqual([
      ['S', 2, true],
      ['M', 4, false],
    ]);
    expect((await live()).map((l) => l.what)).toEqual(['Options changed', 'Added to the goods']);
    await undoLive(w.ctx, site, (await live())[0]?.id ?? 0, 'm');
    expect((await now(made.id)).variants.map((v) => [v.values[0], v.stock, v.difference])).toEqual([
      ['S', 2, null],
      ['L', 0, 600],
    ]);
  });

  it('a count that the owner writes leaves sales in between alone', async () => {
    const site = await w.site();
    const made = await addProduct(w.ctx, site, input(), 'm');
    const variantId = made.variants[0]?.id ?? '';
    // Seen as 5, two sold meanwhile, written as 8: three came in.
    await w.ctx.store.db.update(variantTable).set({ stock: 3 }).where(eq(variantTable.id, variantId));
    await saveProduct(
      w.ctx,
      site,
      made.id,
      { counts: [{ variantId, from: 5, to: 8, reason: 'delivered' }] },
      'm',
    );
    expect((await now(made.id)).variants[0]?.stock).toBe(6);
    await expect(
      saveProduct(w.ctx, site, made.id, { counts: [{ variantId, from: 8, to: 1 }] }, 'm'),
    ).rejects.toThrow('would leave -1');
  });
});

describe('a bundle', () => {
  const bundle = async (quantity: number) => {
    const site = await w.site();
    const rod = await addProduct(
      w.ctx,
      site,
      input({ name: 'Rod', price: 100, variants: [{ stock: 5 }] }),
      'm',
    );
    const base = await addProduct(
      w.ctx,
      site,
      input({ name: 'Base', price: 300, variants: [{ stock: null }] }),
      'm',
    );
    const parts = [
      { goodsId: rod.id, variantId: rod.variants[0]?.id ?? '', quantity },
      { goodsId: base.id, variantId: base.variants[0]?.id ?? '', quantity: 1 },
    ];
    await addProduct(
      w.ctx,
      site,
      input({ name: 'Kit', kind: 'bundle', price: 600, bundle: parts, variants: [{}] }),
      'm',
    );
    return { site, rod };
  };
  const pay = async (token: string, total: number) =>
    goToPay(
      w.ctx,
      await w.site(),
      token,
      parseCheckout({
        email: 'a@b.example',
        name: 'A',
        street: 'S',
        town: 'T',
        postcode: 'WB4 2TR',
        country: 'UK',
        total,
      }),
      'site',
    );

  it('can be had as often as its scarcest part allows, and says so', async () => {
    const { site } = await bundle(2);
    const view = await productPageView(w.ctx, site, 'kit', '', wordsIn('en'));
    expect([view.stock, view.parts.map((p) => `${p.quantity} ${p.name}`)]).toEqual([
      'Only 2 left',
      ['2 Rod', '1 Base'],
    ]);
    await expect(
      addToCart(w.ctx, site, null, { goods: 'kit', quantity: 3, placement: null, page: null }, null),
    ).rejects.toThrow('Only 2 left');
  });

  it('and its part in one cart draw on the same pieces', async () => {
    const { site } = await bundle(2);
    const { token } = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'kit', quantity: 2, placement: null, page: null },
      null,
    );
    const both = await addToCart(
      w.ctx,
      site,
      token,
      { goods: 'rod', quantity: 2, placement: null, page: null },
      null,
    );
    await expect(pay(token, both.total)).rejects.toThrow('Only 5 left of Rod');
  });

  it('that is being paid holds its parts', async () => {
    const { site } = await bundle(2);
    const { token, total } = await addToCart(
      w.ctx,
      site,
      null,
      { goods: 'kit', quantity: 2, placement: null, page: null },
      null,
    );
    await pay(token, total);
    await expect(
      addToCart(w.ctx, site, null, { goods: 'rod', quantity: 2, placement: null, page: null }, null),
    ).rejects.toThrow('Only 1 left of Rod');
  });
});

it('sold on, a product can be had at nought, and says when it is expected', async () => {
  const site = await w.site();
  await addProduct(
    w.ctx,
    site,
    input({ variants: [{ stock: 0 }], stockRule: { whenOut: 'preorder', expected: '2027-03-01' } }),
    'm',
  );
  const view = await productPageView(w.ctx, site, 'trug', '', wordsIn('en'));
  expect([view.soldOut, view.stock]).toEqual([false, 'Order now, expected 1 March 2027']);
  expect(
    (await addToCart(w.ctx, site, null, { goods: 'trug', quantity: 3, placement: null, page: null }, null))
      .pieces,
  ).toBe(3);
});

it('a price before is brought down to the lowest of the thirty days before (98/6/EC, 6a)', async () => {
  const site = await w.site();
  const day = 86_400_000;
  const made = await addProduct(w.ctx, site, input({ price: 5000 }), 'm');
  w.clock.ms += 40 * day;
  await saveProduct(w.ctx, site, made.id, { fields: { price: 4000 } }, 'm');
  w.clock.ms += 5 * day;
  await saveProduct(w.ctx, site, made.id, { fields: { price: 4500 } }, 'm');
  w.clock.ms += 5 * day;
  await saveProduct(w.ctx, site, made.id, { fields: { price: 3000, was: 5000 } }, 'm');
  const view = await productPageView(w.ctx, site, 'trug', '', wordsIn('en'));
  expect([view.price, view.was, view.lowest]).toEqual([
    '£30.00',
    '£40.00',
    'Lowest price of the 30 days before: £40.00',
  ]);
});

it('an offer that came and went by the clock is known to the thirty days', async () => {
  const site = await w.site();
  const day = 86_400_000;
  const at = (days: number) => new Date(w.clock.ms + days * day).toISOString();
  const made = await addProduct(
    w.ctx,
    site,
    input({ price: 5000, offer: { kind: 'percent', value: 40, from: at(35), until: at(40) } }),
    'm',
  );
  w.clock.ms += 50 * day;
  await saveProduct(w.ctx, site, made.id, { fields: { offer: null, was: 5000, price: 4000 } }, 'm');
  // It cost 30.00 for five of the thirty days: nothing dearer may stand struck through, and 40.00 is no reduction of that.
  const view = await productPageView(w.ctx, site, 'trug', '', wordsIn('en'));
  expect([view.price, view.was]).toEqual(['£40.00', '']);
});

describe('search', () => {
  it('knows word forms of the site’s language, forgives a letter, and finds codes', async () => {
    const site = await w.site();
    for (const [name, more] of [
      ['Berry trug', { tags: ['harvest'] }],
      ['Weaving a basket', { variants: [{ sku: 'WB-77' }] }],
      ['Glove', {}],
    ] as const)
      await addProduct(w.ctx, site, input({ name, ...more }), 'm');
    const find = async (text: string) => {
      const { index, byId } = await catalogueOf(w.ctx, site.row.id);
      return (await index.search(text)).map((id) => byId.get(id)?.name);
    };
    expect(await find('baskets')).toEqual(['Weaving a basket']);
    expect(await find('weave')).toEqual(['Weaving a basket']);
    expect(await find('trugg')).toEqual(['Berry trug']);
    expect(await find('harvesting')).toEqual(['Berry trug']);
    expect(await find('wb-77')).toEqual(['Weaving a basket']);
    expect(await find('glov')).toEqual(['Glove']);
    await saveProduct(
      w.ctx,
      site,
      (await catalogueOf(w.ctx, site.row.id)).bySlug.get('glove')?.id ?? '',
      { fields: { name: 'Mitten' } },
      'm',
    );
    expect([await find('glove'), await find('mittens')]).toEqual([[], ['Mitten']]);
  });
});

describe('pictures', () => {
  it('are made in the widths that are asked for, the next larger otherwise, never larger than they are', async () => {
    const big = Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400"><rect width="600" height="400" fill="red"/></svg>',
    );
    const hash = await takePicture(w.ctx, big);
    const { default: sharp } = await import('sharp');
    const widthOf = async (asked: number) =>
      (await sharp((await pictureAt(w.ctx, hash, asked)).body).metadata()).width;
    expect(await widthOf(96)).toBe(96);
    expect(await widthOf(100)).toBe(240);
    const original = (await sharp(await w.ctx.blobs.get(hash)).metadata()).width ?? 0;
    expect(await widthOf(9999)).toBe(Math.min(original, 1440));
    expect((await sharp((await pictureAt(w.ctx, hash, 96)).body).metadata()).format).toBe('webp');
    // AVIF is made behind the first answer, and kept: another process, or a start later, has it at once.
    const made = join(tmpdir(), `stall-made-${Date.now()}`);
    const ctx = { ...w.ctx, made, pictures: new Recent<string, Buffer | null>(5) };
    expect((await pictureAt(ctx, hash, 240, true)).type).toBe('image/webp');
    await picturesMade();
    const avif = await pictureAt(ctx, hash, 240, true);
    expect([avif.type, (await sharp(avif.body).metadata()).compression]).toEqual(['image/avif', 'av1']);
    expect((await readdir(made)).sort()).toEqual([`${hash}-240.avif`, `${hash}-240.webp`]);
    expect((await pictureAt({ ...ctx, pictures: new Recent(5) }, hash, 240, true)).type).toBe('image/avif');
    await rm(made, { recursive: true });
    const text = await w.ctx.blobs.put(Buffer.from('no picture'));
    await expect(pictureAt(w.ctx, text, 96)).rejects.toThrow('no such picture');
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

type OwnerAct =
  | { readonly act: 'count'; readonly which: number; readonly stock: number }
  | { readonly act: 'price'; readonly price: number }
  | { readonly act: 'options'; readonly values: readonly string[] }
  | { readonly act: 'undo'; readonly which: number };

/** One thing an owner does to a product. */
async function does(a: OwnerAct, p: Product): Promise<unknown> {
  const site = await w.site();
  const save = (patch: Parameters<typeof saveProduct>[3]) => saveProduct(w.ctx, site, p.id, patch, 'm');
  switch (a.act) {
    case 'count': {
      const v = p.variants[a.which % p.variants.length];
      return v && save({ counts: [{ variantId: v.id, from: v.stock, to: a.stock }] });
    }
    case 'price':
      return save({ fields: { price: a.price } });
    case 'options': {
      const values = a.values.map((name) => ({ name, colour: '' }));
      const options = [{ name: 'Size', as: 'list' as const, values }];
      return save({ fields: { options, variants: syncVariants(options, p.variants) } });
    }
    case 'undo': {
      const lines = (await live()).filter((l) => l.where === 'Trug' && l.what !== 'Added to the goods');
      const line = lines[a.which % Math.max(1, lines.length)];
      // Refused where something later stands on it: that is right, and changes nothing.
      return line && undoLive(w.ctx, site, line.id, 'm').catch(() => {});
    }
  }
}

it('whatever is counted, priced, optioned and undone: stock is the sum of its movements, and what is kept in memory is what the database says', async () => {
  const act: fc.Arbitrary<OwnerAct> = fc.oneof(
    fc.record({ act: fc.constant('count' as const), which: fc.nat(3), stock: fc.nat(20) }),
    fc.record({ act: fc.constant('price' as const), price: fc.nat(9999) }),
    fc.record({
      act: fc.constant('options' as const),
      values: fc.uniqueArray(fc.constantFrom('S', 'M', 'L'), { minLength: 1 }),
    }),
    fc.record({ act: fc.constant('undo' as const), which: fc.nat(5) }),
  );
  const site = await w.site();
  await fc.assert(
    fc.asyncProperty(fc.array(act, { maxLength: 8 }), async (acts) => {
      const made = await addProduct(w.ctx, site, input(sizes), 'm');
      for (const a of acts) {
        const p = await now(made.id).catch(() => undefined);
        if (!p) break;
        await does(a, p);
        await agrees(made.id);
      }
    }),
    { numRuns: 15 },
  );
}, 60_000);

/** Stock is the sum of its movements, and the catalogue has the variants that the database has. */
async function agrees(id: string): Promise<void> {
  const { variants } = await now(id);
  for (const x of variants) expect(x.stock).toBe(await ledgerSum(w.ctx, x.id));
  const rows = await w.ctx.store.db.select().from(variantTable).where(eq(variantTable.goodsId, id));
  const kept = rows.filter((r) => !r.removedAt).map((r) => r.values.join());
  expect(variants.map((x) => x.values.join()).sort()).toEqual(kept.sort());
}
