import { endpoint } from '../../../_endpoint';

export const POST = endpoint('POST checks/leave', async ({ app, site, body }) => {
  const { checks } = app.services;
  return checks.leaveFinding(app.ctx, site, checks.parseLeave(await body()));
});
