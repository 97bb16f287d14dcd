import { endpoint } from '../../../_endpoint';

/** Puts an earlier publication back on the live site. */
export const POST = endpoint('POST publications/:id', ({ app, site, params, by }) =>
  app.services.publish.rollBack(app.ctx, site, params.id, by),
);
