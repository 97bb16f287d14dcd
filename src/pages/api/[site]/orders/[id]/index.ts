import { endpoint } from '../../../../_endpoint';

export const GET = endpoint('GET orders/:id', ({ app, site, params }) =>
  app.services.readOrder.readOrder(app.ctx, site, params.id),
);

/** One act of the owner's: packed, sent, collected, paid, given back, cancelled, a note, or the last one taken back. */
export const POST = endpoint('POST orders/:id', async ({ app, site, params, body, by }) =>
  app.services.fulfil.actOnOrder(app.ctx, site, params.id, await body(), by),
);
