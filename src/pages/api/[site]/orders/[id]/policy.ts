import { endpoint } from '../../../../_endpoint';

/** A text in the version that was agreed to with an order. */
export const GET = endpoint(
  async ({ app, site, params, url }) =>
    new Response(
      await app.services.policies.agreedText(
        app.ctx,
        site,
        params.id ?? '',
        url.searchParams.get('version') ?? '',
      ),
      { headers: { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' } },
    ),
);
