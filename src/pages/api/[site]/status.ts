import { endpoint } from '../../_endpoint';

/** What the owner has to know wherever they are. */
export const GET = endpoint('GET status', ({ app, site }) =>
  app.services.tillStatus.tillStatus(app.ctx, site),
);
