import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET bench', ({ app, site, query }) =>
  app.services.bench.benchView(app.ctx, site, query.page ?? ''),
);
