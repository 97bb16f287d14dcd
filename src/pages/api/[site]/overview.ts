import { endpoint } from '../../_endpoint';

export const GET = endpoint('GET overview', ({ app, site }) =>
  app.services.overview.siteOverview(app.ctx, site),
);
