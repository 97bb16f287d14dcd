import { endpoint } from '../../../_endpoint';

/** Orders: open ones and the newest that are finished, or what a search finds. */
export const GET = endpoint(({ app, site, url }) =>
  app.services.orders.listOrders(app.ctx, site, Object.fromEntries(url.searchParams)),
);

/** Takes orders that were made to try things out away. */
export const DELETE = endpoint(({ app, site }) => app.services.testOrders.forgetTestOrders(app.ctx, site));
