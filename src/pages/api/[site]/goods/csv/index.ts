import { endpoint } from '../../../../_endpoint';
import { readSent } from './_table';

/** All goods as a table; with `pictures` as a ZIP that holds them too. */
export const GET = endpoint('GET goods/csv', async ({ app, site, query }) => {
  const name = `${site.row.slug}-goods`;
  const headers = (type: string, end: string) => ({
    'content-type': type,
    'content-disposition': `attachment; filename="${name}.${end}"`,
    'cache-control': 'no-store',
  });
  if (query.pictures !== undefined)
    return new Response(Buffer.from(await app.services.csv.goodsZip(app.ctx, site)), {
      headers: headers('application/zip', 'zip'),
    });
  return new Response(await app.services.csv.goodsCsv(app.ctx, site), {
    headers: headers('text/csv; charset=utf-8; header=present', 'csv'),
  });
});

/** What a table would do. */
export const POST = endpoint('POST goods/csv', async ({ app, site, request, query }) => {
  const { table, columns } = await readSent(app, request, query.mapping);
  return app.services.csv.tryTable(app.ctx, site, table, columns);
});
