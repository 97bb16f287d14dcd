import { z } from 'zod';
import { endpoint } from '../../../../_endpoint';

const input = z.object({ before: z.string().nullable() });

export const POST = endpoint('POST goods/:id/move', async ({ app, site, params, body, by }) =>
  app.services.goods.moveProduct(app.ctx, site, params.id, input.parse(await body()).before, by),
);
