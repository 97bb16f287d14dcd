import { endpoint } from '../../_endpoint';

/** What is published was checked: what was found is kept with its time. Nothing that is found blocks publishing, nor does a check that fails. */
export const POST = endpoint('POST publish', async ({ app, site, by }) => {
  const { checks, publish } = app.services;
  await checks
    .recordRun(app.ctx, site, 'publish')
    .catch((error: unknown) =>
      app.ctx.log.error({ error: String(error) }, 'the checks before publishing failed'),
    );
  return publish.publish(app.ctx, site, by);
});
