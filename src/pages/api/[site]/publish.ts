import { endpoint } from '../../_endpoint';

export const POST = endpoint('POST publish', ({ app, site, by }) =>
  app.services.publish.publish(app.ctx, site, by),
);
