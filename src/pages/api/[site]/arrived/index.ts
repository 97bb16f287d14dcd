import { z } from 'zod';
import { spellingNames } from '../../../../core/placement/spelling';
import { endpoint } from '../../../_endpoint';

const question = z.object({
  url: z.url({ protocol: /^https?$/ }).max(2_000),
  placement: z.string().regex(/^[a-z0-9]{8,16}$/),
  kind: z.string().max(40),
  spelling: z.enum(spellingNames),
});

/** All that was handed out, and what was seen of it last. */
export const GET = endpoint('GET arrived', ({ app, site }) => app.services.handOut.handedOut(app.ctx, site));

/** Looks at a page elsewhere whether a widget that was handed out has arrived there. */
export const POST = endpoint('POST arrived', async ({ app, site, body }) =>
  app.services.handOut.lookFor(app.ctx, site, read(app, await body())),
);

/** Forgets one. */
export const DELETE = endpoint('DELETE arrived', async ({ app, site, body }) => {
  await app.services.handOut.forget(app.ctx, site, read(app, await body()));
  return app.services.handOut.handedOut(app.ctx, site);
});

function read(app: App.Locals['app'], sent: unknown): z.output<typeof question> {
  const asked = question.safeParse(sent);
  if (!asked.success)
    throw app.services.errors.invalid('Enter the whole address of the page, with https:// before it.');
  return asked.data;
}
