import { mayDo } from '../../../../../core/people/roles';
import { endpoint, notYours } from '../../../../_endpoint';

export const GET = endpoint('GET goods/:id', ({ app, site, params }) =>
  app.services.goodsLines.oneProduct(app.ctx, site.row.id, params.id),
);

/** Fields that changed, and counts as they were seen and written. */
export const PUT = endpoint('PUT goods/:id', async ({ app, site, params, body, by, person, was }) => {
  const patch = await body();
  const isCount = app.services.goods.countsOnly(patch);
  if (!isCount && !mayDo(person.role, 'own')) throw notYours(app);
  if (isCount) was('counted');
  return app.services.goods.saveProduct(app.ctx, site, params.id, patch, by);
});

export const DELETE = endpoint('DELETE goods/:id', ({ app, site, params, by }) =>
  app.services.goods.removeProduct(app.ctx, site, params.id, by),
);
