import { endpoint } from '../../_endpoint';

/** The site lives at another address from now on. */
export const PUT = endpoint('PUT live-address', async ({ app, site, body }) =>
  app.services.liveAddress.setLiveAddress(app.ctx, site, await body()),
);
