import { endpoint } from '../../../_endpoint';

/** One file as it is live and as it would be, in its own text. */
export const GET = endpoint('GET publications/page', ({ app, site, query }) =>
  app.services.diff.fileTexts(app.ctx, site, query.path ?? ''),
);
