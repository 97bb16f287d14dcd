import { z } from 'zod';
import { endpoint } from '../../../_endpoint';

const question = z.object({ id: z.string().max(200).optional() });

/** Looks on the live site for one piece, or for all of them. */
export const POST = endpoint('POST hand-out/look', async ({ app, site, body }) => {
  const asked = question.safeParse(await body());
  if (!asked.success)
    throw app.services.errors.invalid('Name the piece that is looked for, or none for all.');
  return app.services.handOutList.lookForPieces(app.ctx, site, asked.data.id);
});
