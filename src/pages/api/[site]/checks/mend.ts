import { endpoint } from '../../../_endpoint';

export const POST = endpoint('POST checks/mend', async ({ app, site, body, by }) => {
  const { checksMend } = app.services;
  return checksMend.mend(app.ctx, site, checksMend.parseMends(await body()), by);
});
