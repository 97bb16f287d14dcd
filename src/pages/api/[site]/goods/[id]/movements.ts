import { endpoint } from '../../../../_endpoint';

export const GET = endpoint('GET goods/:id/movements', async ({ app, site, params }) => {
  const { id } = await app.services.goodsLines.oneProduct(app.ctx, site.row.id, params.id);
  return app.services.goods.movementsOf(app.ctx, id);
});
