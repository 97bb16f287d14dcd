import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET checks/count', ({ app, site }) =>
  app.services.checks.checksCount(app.ctx, site),
);
