import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { makeWorld, type World } from '../testing';
import { viewMaker } from '../storefront/product-view';
import { reviewsView } from '../storefront/after';
import { wordsIn } from '../../core/languages/languages';
import { structuredData } from '../../core/goods/structured';
import { catalogueOf } from './catalogue';
import { decideReview, listReviews, ownReview, shownReviews, writeReview } from './reviews';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const good = { rating: 4, name: 'Ada P.', title: 'Stands', text: 'It holds.' };
const productNow = async (slug: string) =>
  (await catalogueOf(w.ctx, (await w.site()).row.id)).bySlug.get(slug);

describe('reviews', () => {
  it('are written by those who bought the thing, once for each order, and by nobody else', async () => {
    const [trug, other] = [await w.addGoods('Trug', 4200, null), await w.addGoods('Kit', 2400, null)];
    const token = await w.buy([{ goods: 'trug' }]);
    const site = await w.site();
    expect(await ownReview(w.ctx, site, token, trug.id)).toMatchObject({
      review: null,
      name: 'Ada P.',
      product: { name: 'Trug' },
    });
    await writeReview(w.ctx, site, token, trug.id, good);
    await expect(writeReview(w.ctx, site, token, other.id, good)).rejects.toThrow('nothing to review');
    await expect(writeReview(w.ctx, site, 'made-up', trug.id, good)).rejects.toThrow('nothing to review');
    const { token: unpaid } = await w.order([{ goods: 'trug' }]);
    await expect(writeReview(w.ctx, site, unpaid, trug.id, good)).rejects.toThrow('nothing to review');
    await writeReview(w.ctx, site, token, trug.id, { ...good, rating: 2 });
    expect(await listReviews(w.ctx, site)).toMatchObject([{ rating: 2, state: 'waiting', product: 'Trug' }]);
  });

  it('say of each field what is missing', async () => {
    const trug = await w.addGoods('Trug', 4200, null);
    const token = await w.buy([{ goods: 'trug' }]);
    await expect(
      writeReview(w.ctx, await w.site(), token, trug.id, { rating: '6', name: ' ' }),
    ).rejects.toMatchObject({
      detail: {
        fields: {
          rating: expect.stringContaining('one to five'),
          name: expect.stringContaining('name to show'),
        },
      },
    });
  });

  it('are seen when the owner has shown them; stars follow at once, in memory, in structured data and in the widget', async () => {
    const trug = await w.addGoods('Trug', 4200, null);
    const tokens = [
      await w.buy([{ goods: 'trug' }]),
      await w.buy([{ goods: 'trug' }]),
      await w.buy([{ goods: 'trug' }]),
    ];
    for (const [n, token] of tokens.entries())
      await writeReview(w.ctx, await w.site(), token, trug.id, { ...good, rating: 5 - n });
    expect((await productNow('trug'))?.rating).toBeNull();
    const all = await listReviews(w.ctx, await w.site());
    for (const r of all.filter((x) => x.rating > 3))
      await decideReview(w.ctx, await w.site(), r.id, { state: 'shown' });
    expect((await productNow('trug'))?.rating).toEqual({ value: 4.5, count: 2 });
    const site = await w.site();
    const product = await productNow('trug');
    if (!product) throw new Error('gone');
    const own = await shownReviews(w.ctx, site.row.id, product.id, 'best', 10);
    const [thing] = (
      structuredData(
        (await viewMaker(w.ctx, site, [product], wordsIn('en'), '')).structured(product, own),
      ) as unknown as { '@graph': Record<string, unknown>[] }
    )['@graph'];
    expect(thing).toMatchObject({
      aggregateRating: { ratingValue: 4.5, reviewCount: 2 },
      review: [
        { reviewRating: { ratingValue: 5 }, author: { name: 'Ada P.' } },
        { reviewRating: { ratingValue: 4 } },
      ],
    });
    expect(
      await reviewsView(w.ctx, site, product, 'de', { order: 'worst', limit: 1, spread: true }),
    ).toMatchObject({
      rating: { text: '4,5', count: 2 },
      spread: [1, 1, 0, 0, 0],
      reviews: [{ rating: 4, of: null }],
    });
    expect(
      (await reviewsView(w.ctx, site, null, 'en', { order: 'newest', limit: 9, spread: false })).reviews[0]
        ?.of?.slug,
    ).toBe('trug');
  });

  it('go back to waiting when their buyer changes them, and can be undone from what was told', async () => {
    const trug = await w.addGoods('Trug', 4200, null);
    const token = await w.buy([{ goods: 'trug' }]);
    await writeReview(w.ctx, await w.site(), token, trug.id, good);
    const [r] = await listReviews(w.ctx, await w.site());
    const before = await decideReview(w.ctx, await w.site(), r?.id ?? '', {
      state: 'shown',
      answer: 'Thank you.',
    });
    expect(before).toEqual({ state: 'waiting', answer: '' });
    // The same words again change nothing.
    await writeReview(w.ctx, await w.site(), token, trug.id, good);
    expect((await listReviews(w.ctx, await w.site()))[0]).toMatchObject({
      state: 'shown',
      answer: 'Thank you.',
    });
    await writeReview(w.ctx, await w.site(), token, trug.id, { ...good, text: 'It broke.' });
    expect((await listReviews(w.ctx, await w.site()))[0]?.state).toBe('waiting');
    expect((await productNow('trug'))?.rating).toBeNull();
    await decideReview(w.ctx, await w.site(), r?.id ?? '', before);
    await expect(decideReview(w.ctx, await w.site(), 'nobody', { state: 'shown' })).rejects.toThrow('gone');
    await expect(decideReview(w.ctx, await w.site(), r?.id ?? '', { state: 'loved' })).rejects.toThrow();
  });
});
