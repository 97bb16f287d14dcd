import { endpoint } from '../../../../_endpoint';

export const POST = endpoint('POST goods/:id/copy', ({ app, site, params, by }) =>
  app.services.goods.duplicateProduct(app.ctx, site, params.id, by),
);
