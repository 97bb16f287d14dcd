import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET takings', ({ app, site, query }) =>
  app.services.takings.takingsOf(app.ctx, site, query),
);
