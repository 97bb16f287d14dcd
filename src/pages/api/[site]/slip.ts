import { z } from 'zod';
import { endpoint } from '../../_endpoint';

const undo = z.union([z.object({ placement: z.string() }), z.object({ live: z.number().int() })]);

export const GET = endpoint('GET slip', ({ app, site }) => app.services.slip.readSlip(app.ctx, site));

/** Takes one line of the slip back. */
export const POST = endpoint('POST slip', async ({ app, site, body, by }) => {
  const line = undo.safeParse(await body());
  if (!line.success) throw app.services.errors.invalid('Which line of the slip?');
  if ('placement' in line.data) await app.services.undo.undoWaiting(app.ctx, site, line.data.placement);
  else await app.services.goods.undoLive(app.ctx, site, line.data.live, by);
});
