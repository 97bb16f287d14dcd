import { moneyActs } from '../../../../../core/till/order-life';
import { mayDo } from '../../../../../core/people/roles';
import { endpoint, notYours } from '../../../../_endpoint';

export const GET = endpoint('GET orders/:id', ({ app, site, params }) =>
  app.services.readOrder.readOrder(app.ctx, site, params.id),
);

/** One act: packed, sent, collected, paid, given back, cancelled, a note, or the last one taken back. */
export const POST = endpoint('POST orders/:id', async ({ app, site, params, body, by, person, was }) => {
  const asked = await body();
  const act = app.services.fulfil.actIn(asked);
  if (act && moneyActs.has(act) && !mayDo(person.role, 'handle-money')) throw notYours(app);
  if (act) was(act);
  return app.services.fulfil.actOnOrder(app.ctx, site, params.id, asked, by);
});
