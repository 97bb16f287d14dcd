import { endpoint } from '../../../_endpoint';

export const GET = endpoint(({ app, site, url }) =>
  app.services.takings.takingsOf(app.ctx, site, Object.fromEntries(url.searchParams)),
);
