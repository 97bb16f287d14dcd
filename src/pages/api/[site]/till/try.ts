import { endpoint } from '../../../_endpoint';

/** A basket worked out by rules that need not be saved. */
export const POST = endpoint('POST till/try', async ({ app, site, body }) =>
  app.services.till.tryCart(app.ctx, site, await body()),
);
