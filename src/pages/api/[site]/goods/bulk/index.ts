import { endpoint } from '../../../../_endpoint';
import { readChosen } from './_chosen';

/** One change to many. */
export const POST = endpoint('POST goods/bulk', async ({ app, site, body, by }) => {
  const { ids, edit } = readChosen(app, await body());
  return app.services.bulk.changeMany(app.ctx, site, ids, edit, by);
});
