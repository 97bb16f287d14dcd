import { endpoint } from '../../../_endpoint';

/** Looks again at every page that something was handed out for. */
export const POST = endpoint('POST arrived/all', ({ app, site }) =>
  app.services.handOut.lookForAll(app.ctx, site),
);
