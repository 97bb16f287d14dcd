import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET look', ({ app, site }) => app.services.lookView.lookView(app.ctx, site));

/** Decisions on the look, as a change of what was decided. */
export const POST = endpoint('POST look', async ({ app, site, body }) => {
  const { lookChanges, lookView, errors, site: sites } = app.services;
  const change = lookChanges.lookChange.safeParse(await body());
  if (!change.success)
    throw errors.invalid(change.error.issues[0]?.message ?? 'This is no change of the look.');
  await lookChanges.changeLook(app.ctx, site, change.data);
  return lookView.lookView(app.ctx, await sites.loadSite(app.ctx, { id: site.row.id }));
});
