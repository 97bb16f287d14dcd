import { endpoint } from '../../../_endpoint';

export const GET = endpoint(({ app, site }) => app.services.orders.listOrders(app.ctx, site));
