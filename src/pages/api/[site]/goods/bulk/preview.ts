import { endpoint } from '../../../../_endpoint';
import { readChosen } from './_chosen';

/** What one change to many would do. */
export const POST = endpoint('POST goods/bulk/preview', async ({ app, site, body }) => {
  const { ids, edit } = readChosen(app, await body());
  return app.services.bulk.previewBulk(app.ctx, site, ids, edit);
});
