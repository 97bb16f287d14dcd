import { endpoint } from '../../../../_endpoint';

/** What is in the sheet, unsaved, to be seen as a shopper would. */
export const POST = endpoint('POST goods/:id/preview', async ({ app, site, params, body }) =>
  app.services.preview.keepPreview(app.ctx, site, params.id, await body()),
);
