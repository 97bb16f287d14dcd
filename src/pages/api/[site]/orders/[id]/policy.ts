import { endpoint } from '../../../../_endpoint';

/** A text in the version that was agreed to with an order. */
export const GET = endpoint(
  'GET orders/:id/policy',
  async ({ app, site, params, query }) =>
    new Response(await app.services.policies.agreedText(app.ctx, site, params.id, query.version ?? ''), {
      headers: { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' },
    }),
);
