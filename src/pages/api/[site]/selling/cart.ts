import { z } from 'zod';
import { endpoint } from '../../../_endpoint';

const spot = z.object({
  placement: z.string().max(40),
  page: z.string().max(1000),
  n: z.union([z.literal('corner'), z.number().int().min(0).max(50)]),
});

/** Moves the cart to another spot of the header, which was seen to have room, or into the corner. */
export const POST = endpoint('POST selling/cart', async ({ app, site, body }) => {
  const to = spot.safeParse(await body());
  if (!to.success) throw app.services.errors.invalid('A cart, a page and the number of one of its spots.');
  await app.services.cartSpot.toCartSpot(app.ctx, site, to.data);
  return { done: true as const };
});
