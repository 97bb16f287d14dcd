import { endpoint } from '../../_endpoint';

/** Looks at the live site whether what was published has been put up there. */
export const POST = endpoint('POST put-up', ({ app, site }) =>
  app.services.putUp.hasBeenPutUp(app.ctx, site),
);
