import { endpoint } from '../../../_endpoint';

/** Orders by what they wait for, with how many there are; or the next ones of one shelf. */
export const GET = endpoint('GET orders', ({ app, site, query }) =>
  app.services.orderList.listOrders(app.ctx, site, query),
);

/** Takes orders that were made to try things out away. */
export const DELETE = endpoint('DELETE orders', ({ app, site }) =>
  app.services.testOrders.forgetTestOrders(app.ctx, site),
);
