import { newPlacement } from '../../../../core/placement/placement';
import { endpoint } from '../../../_endpoint';

export const POST = endpoint('POST placements', async ({ app, site, body }) => {
  const input = newPlacement.safeParse(await body());
  if (!input.success)
    throw app.services.errors.invalid('This is not a placement: kind, settings, pitch and reach are needed.');
  return app.services.placing.place(app.ctx, site, input.data);
});
