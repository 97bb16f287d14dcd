import { placementEdit } from '../../../../core/placement/placement';
import { endpoint } from '../../../_endpoint';

export const PATCH = endpoint('PATCH placements/:id', async ({ app, site, params, body }) => {
  const to = placementEdit.safeParse(await body());
  if (!to.success) throw app.services.errors.invalid('These settings do not fit.');
  const given = Object.fromEntries(Object.entries(to.data).filter(([, v]) => v !== undefined));
  return app.services.placing.change(app.ctx, site, params.id, given);
});

export const DELETE = endpoint('DELETE placements/:id', ({ app, site, params }) =>
  app.services.placing.takeAway(app.ctx, site, params.id),
);
