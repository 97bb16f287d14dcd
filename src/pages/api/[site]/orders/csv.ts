import { endpoint } from '../../../_endpoint';

export const GET = endpoint(
  async ({ app, site, url }) =>
    new Response(
      await app.services.ordersCsv.ordersCsv(app.ctx, site, Object.fromEntries(url.searchParams)),
      {
        headers: {
          'content-type': 'text/csv; charset=utf-8; header=present',
          'content-disposition': `attachment; filename="${site.row.slug}-orders.csv"`,
          'cache-control': 'no-store',
        },
      },
    ),
);
