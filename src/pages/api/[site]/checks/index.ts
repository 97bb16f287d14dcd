import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET checks', ({ app, site }) => app.services.checks.checksView(app.ctx, site));

/** Runs them once more, on wish over the live site as well. */
export const POST = endpoint('POST checks', async ({ app, site, body }) => {
  const { checks } = app.services;
  const { live } = (await body()) as { live?: unknown };
  await checks.runOnWish(app.ctx, site, { live: live === true });
  return checks.checksView(app.ctx, site);
});

export const DELETE = endpoint('DELETE checks', async ({ app, site }) =>
  app.services.checks.stopChecks(app.ctx, site),
);
