import { endpoint } from '../../../_endpoint';

/** Letters with their words, and how it stands with sending them. */
export const GET = endpoint('GET letters', ({ app, site }) =>
  app.services.letters.lettersView(app.ctx, site),
);
