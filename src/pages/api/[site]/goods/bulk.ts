import { z } from 'zod';
import { endpoint } from '../../../_endpoint';

const input = z.object({
  ids: z.array(z.string().max(40)).min(1).max(20_000),
  edit: z.unknown(),
  preview: z.boolean().default(false),
});

/** One change to many: what it would do, or the change itself. */
export const POST = endpoint(async ({ app, site, body, by }) => {
  const asked = input.safeParse(await body());
  if (!asked.success) throw app.services.errors.invalid('Choose at least one product.');
  const { ids, edit, preview } = asked.data;
  return preview
    ? app.services.bulk.previewBulk(app.ctx, site, ids, edit)
    : app.services.bulk.changeMany(app.ctx, site, ids, edit, by);
});
