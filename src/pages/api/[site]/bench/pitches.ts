import { endpoint } from '../../../_endpoint';

/** Proving them takes longer than anything else on the bench, so they are asked for apart. */
export const GET = endpoint('GET bench/pitches', ({ app, site, query }) =>
  app.services.bench.pitchesOf(app.ctx, site, query.page ?? ''),
);
