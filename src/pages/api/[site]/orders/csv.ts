import { endpoint } from '../../../_endpoint';

export const GET = endpoint(
  'GET orders/csv',
  async ({ app, site, query }) =>
    new Response(await app.services.ordersCsv.ordersCsv(app.ctx, site, query), {
      headers: {
        'content-type': 'text/csv; charset=utf-8; header=present',
        'content-disposition': `attachment; filename="${site.row.slug}-orders.csv"`,
        'cache-control': 'no-store',
      },
    }),
);
