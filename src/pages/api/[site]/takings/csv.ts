import { endpoint } from '../../../_endpoint';

export const GET = endpoint(
  'GET takings/csv',
  async ({ app, site, query }) =>
    new Response(await app.services.takings.takingsCsv(app.ctx, site, query), {
      headers: {
        'content-type': 'text/csv; charset=utf-8; header=present',
        'content-disposition': `attachment; filename="${site.row.slug}-takings-${query.by ?? 'days'}.csv"`,
        'cache-control': 'no-store',
      },
    }),
);
