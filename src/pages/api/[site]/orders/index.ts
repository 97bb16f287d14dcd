import { endpoint } from '../../../_endpoint';

/** Orders: open ones and the newest that are finished, or what a search finds. */
export const GET = endpoint('GET orders', ({ app, site, query }) =>
  app.services.orders.listOrders(app.ctx, site, query),
);

/** Takes orders that were made to try things out away. */
export const DELETE = endpoint('DELETE orders', ({ app, site }) =>
  app.services.testOrders.forgetTestOrders(app.ctx, site),
);
