import { z } from 'zod';
import { endpoint } from '../../../_endpoint';

const input = z.object({ state: z.enum(['running', 'stopped']) });

/** Stops a subscription, or lets it run again. */
export const PUT = endpoint('PUT subscriptions/:id', async ({ app, site, params, body, by }) => {
  const { subscriptions } = app.services;
  const { state } = input.parse(await body());
  return state === 'stopped'
    ? subscriptions.stopSubscription(app.ctx, site, params.id, by)
    : subscriptions.resumeSubscription(app.ctx, site, params.id);
});
