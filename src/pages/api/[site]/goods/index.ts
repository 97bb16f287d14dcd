import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET goods', ({ app, site }) =>
  app.services.goodsLines.goodsLines(app.ctx, site.row.id),
);

export const POST = endpoint('POST goods', async ({ app, site, body, by }) =>
  app.services.goods.addProduct(app.ctx, site, app.services.goods.parseProduct(await body()), by),
);
