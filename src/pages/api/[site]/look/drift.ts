import { endpoint } from '../../../_endpoint';

/** Follows the site in what it changed, or keeps it as it was. */
export const POST = endpoint('POST look/drift', async ({ app, site, body }) => {
  const { lookChanges, lookView, errors, site: sites } = app.services;
  const asked = lookChanges.driftAsked.safeParse(await body());
  if (!asked.success) throw errors.invalid('Say what to follow, and whether to follow or to keep it.');
  await lookChanges.answerDrift(app.ctx, site, asked.data);
  return lookView.lookView(app.ctx, await sites.loadSite(app.ctx, { id: site.row.id }));
});
