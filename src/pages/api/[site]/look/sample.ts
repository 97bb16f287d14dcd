import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET look/sample', ({ app, site }) =>
  app.services.lookSample.lookSample(app.ctx, site),
);
