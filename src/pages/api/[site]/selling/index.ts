import { z } from 'zod';
import { endpoint } from '../../../_endpoint';

/** The short set-up as the site lets one guess it, and what "Add selling" would do. */
export const GET = endpoint('GET selling', ({ app, site }) =>
  app.services.addSelling.guessSelling(app.ctx, site),
);

const asked = z.object({ setUp: z.unknown(), shop: z.unknown().optional() });
export const POST = endpoint('POST selling', async ({ app, site, body }) =>
  app.services.addSelling.addSelling(app.ctx, site, asked.parse(await body())),
);

const to = z.object({
  slug: z.string().optional(),
  name: z.string().optional(),
  front: z.boolean().optional(),
});
/** Moves the shop's page, renames it, or makes it the front page. */
export const PATCH = endpoint('PATCH selling', async ({ app, site, body }) => {
  const wanted = to.safeParse(await body());
  if (!wanted.success)
    throw app.services.errors.invalid('An address, a name, or whether the shop is the front page.');
  const given = Object.fromEntries(Object.entries(wanted.data).filter(([, v]) => v !== undefined));
  return (await app.services.addSelling.setShop(app.ctx, site, given)).row.shop;
});
