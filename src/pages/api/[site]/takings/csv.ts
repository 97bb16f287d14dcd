import { endpoint } from '../../../_endpoint';

export const GET = endpoint(
  async ({ app, site, url }) =>
    new Response(await app.services.takings.takingsCsv(app.ctx, site, Object.fromEntries(url.searchParams)), {
      headers: {
        'content-type': 'text/csv; charset=utf-8; header=present',
        'content-disposition': `attachment; filename="${site.row.slug}-takings-${url.searchParams.get('by') ?? 'days'}.csv"`,
        'cache-control': 'no-store',
      },
    }),
);
