import { endpoint } from '../../_endpoint';

export const GET = endpoint('GET categories', async ({ app, site }) =>
  app.services.categoryTree.categoryLines(
    app.ctx,
    site,
    await app.services.goods.listGoods(app.ctx, site.row.id),
  ),
);

/** One act: add, rename, move, remove. */
export const POST = endpoint('POST categories', async ({ app, site, body, by }) =>
  app.services.categoryTree.changeCategories(app.ctx, site, await body(), by),
);
