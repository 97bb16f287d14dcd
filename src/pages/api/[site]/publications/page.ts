import { endpoint } from '../../../_endpoint';

/** One file as it is live and as it would be, in its own text. */
export const GET = endpoint(({ app, site, url }) =>
  app.services.diff.fileTexts(app.ctx, site, url.searchParams.get('path') ?? ''),
);
