import fc from 'fast-check';
import { expect, it } from 'vitest';
import { productInput, type Product } from '../../core/goods/product';
import { GoodsIndex } from './find';

const product = (id: string, name: string): Product =>
  ({ ...productInput.parse({ name, price: 100 }), id, plain: '', variants: [] }) as unknown as Product;

it('finds what is there now, whatever came and went before: also after nothing at all', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.record({
          add: fc.array(fc.constantFrom('apple', 'basket', 'candle', 'drum'), { maxLength: 2 }),
          drop: fc.array(fc.constantFrom('apple', 'basket', 'candle', 'drum'), { maxLength: 2 }),
          waits: fc.boolean(),
        }),
        { minLength: 1, maxLength: 6 },
      ),
      async (steps) => {
        const index = new GoodsIndex('en');
        const there = new Set<string>();
        for (const s of steps) {
          index.update(
            s.add.map((n) => product(n, n)),
            s.drop,
          );
          for (const n of s.drop) there.delete(n);
          for (const n of s.add) there.add(n);
          if (s.waits) await index.search('apple');
        }
        for (const n of ['apple', 'basket', 'candle', 'drum'])
          expect([n, await index.search(n)]).toEqual([n, there.has(n) ? [n] : []]);
      },
    ),
  );
});
