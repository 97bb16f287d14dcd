import { endpoint } from '../../../_endpoint';

export const GET = endpoint(({ app, site, url }) =>
  app.services.bench.benchView(app.ctx, site, url.searchParams.get('page') ?? ''),
);
