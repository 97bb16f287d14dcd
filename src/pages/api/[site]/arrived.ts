import { z } from 'zod';
import { endpoint } from '../../_endpoint';

const question = z.object({
  url: z.url({ protocol: /^https?$/ }),
  placement: z.string(),
  kind: z.string(),
  spelling: z.string(),
});

/** Looks at a page elsewhere whether a widget that was handed out has arrived there. */
export const POST = endpoint(async ({ app, site, body }) => {
  const asked = question.safeParse(await body());
  if (!asked.success)
    throw app.services.errors.invalid('Enter the whole address of the page, with https:// before it.');
  return app.services.handOut.hasArrived(app.ctx, site, asked.data);
});
