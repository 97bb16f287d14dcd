import { endpoint } from '../../../../_endpoint';

/** Lets the buyer fetch the files anew. */
export const POST = endpoint('POST orders/:id/downloads', ({ app, site, params }) =>
  app.services.downloads.letFetchAgain(app.ctx, site, params.id),
);
