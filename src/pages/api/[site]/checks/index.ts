import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET checks', ({ app, site }) => app.services.checks.checksView(app.ctx, site));

/** Runs them once more, on wish over the live site as well. */
export const POST = endpoint('POST checks', async ({ app, site, body }) => {
  const { checks, checksLive } = app.services;
  const { live } = (await body()) as { live?: unknown };
  if (live === true) await checksLive.lookAtLive(app.ctx, site);
  await checks.recordRun(app.ctx, site, 'asked');
  return checks.checksView(app.ctx, site);
});

export const DELETE = endpoint('DELETE checks', async ({ app, site }) =>
  app.services.checks.stopChecks(app.ctx, site),
);
