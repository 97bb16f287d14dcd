import { endpoint } from '../../../_endpoint';

/** A change that was made before, backwards or once more: undo and redo. */
export const POST = endpoint('POST placements/change', async ({ app, site, body }) => {
  await app.services.placing.applyChange(app.ctx, site, await body());
  return { done: true as const };
});
