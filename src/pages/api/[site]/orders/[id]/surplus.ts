import { endpoint } from '../../../../_endpoint';

/** Refunds a payment that the order did not want: a second one, one after it was cancelled, another amount. */
export const POST = endpoint('POST orders/:id/surplus', async ({ app, site, params, body, by }) =>
  app.services.surplus.returnSurplus(app.ctx, site, params.id, await body(), by),
);
