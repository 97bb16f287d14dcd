import { endpoint } from '../../../_endpoint';

export const GET = endpoint(({ app, site }) => app.services.goodsLines.goodsLines(app.ctx, site.row.id));

export const POST = endpoint(async ({ app, site, body, by }) =>
  app.services.goods.addProduct(app.ctx, site, app.services.goods.parseProduct(await body()), by),
);
