import { endpoint } from '../../../_endpoint';

/** A letter as it would go out, from words that need not be saved. */
export const POST = endpoint('POST letters/preview', async ({ app, site, body }) =>
  app.services.letters.previewLetter(app.ctx, site, await body()),
);
