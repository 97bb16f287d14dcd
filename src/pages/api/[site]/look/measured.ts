import { endpoint } from '../../../_endpoint';

/** What the office measured of the draft's pages. */
export const PUT = endpoint('PUT look/measured', async ({ app, site, body }) => {
  const { lookChanges, lookView, site: sites } = app.services;
  await lookChanges.keepMeasured(app.ctx, site, await body());
  return lookView.lookView(app.ctx, await sites.loadSite(app.ctx, { id: site.row.id }));
});
