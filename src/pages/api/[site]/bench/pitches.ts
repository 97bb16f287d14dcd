import { endpoint } from '../../../_endpoint';

/** Proving them takes longer than anything else on the bench, so they are asked for apart. */
export const GET = endpoint(({ app, site, url }) =>
  app.services.bench.pitchesOf(app.ctx, site, url.searchParams.get('page') ?? ''),
);
