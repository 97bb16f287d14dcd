import { mayDo } from '../../../../../core/people/roles';
import { endpoint, notYours } from '../../../../_endpoint';

export const GET = endpoint('GET orders/:id', ({ app, site, params }) =>
  app.services.readOrder.readOrder(app.ctx, site, params.id),
);

/** One act: packed, sent, collected, paid, given back, cancelled, a note, or the last one taken back. */
export const POST = endpoint('POST orders/:id', async ({ app, site, params, body, by, person }) => {
  const asked = await body();
  if (app.services.fulfil.isMoneyAct(asked) && !mayDo(person.role, 'handle-money')) throw notYours(app);
  return app.services.fulfil.actOnOrder(app.ctx, site, params.id, asked, by);
});
