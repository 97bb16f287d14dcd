import { endpoint } from '../../../_endpoint';

export const PUT = endpoint('PUT checks/seen', async ({ app, site, body }) =>
  app.services.checksSeen.keepSeen(app.ctx, site, await body()),
);
