import { z } from 'zod';
import { endpoint } from '../../../_endpoint';

const mapping = z
  .string()
  .transform((text, ctx): unknown => {
    try {
      return JSON.parse(text);
    } catch {
      ctx.addIssue({ code: 'custom', message: 'not JSON' });
      return z.NEVER;
    }
  })
  .pipe(z.array(z.string().nullable()).max(500));

export const GET = endpoint(async ({ app, site, url }) => {
  const name = `${site.row.slug}-goods`;
  const headers = (type: string, end: string) => ({
    'content-type': type,
    'content-disposition': `attachment; filename="${name}.${end}"`,
    'cache-control': 'no-store',
  });
  if (url.searchParams.has('pictures'))
    return new Response(Buffer.from(await app.services.csv.goodsZip(app.ctx, site)), {
      headers: headers('application/zip', 'zip'),
    });
  return new Response(await app.services.csv.goodsCsv(app.ctx, site), {
    headers: headers('text/csv; charset=utf-8; header=present', 'csv'),
  });
});

/** A table: what it would do; with `take`, the taking in. */
export const POST = endpoint(async ({ app, site, request, url, by }) => {
  const { csv, errors } = app.services;
  const table = csv.readTable(Buffer.from(await request.arrayBuffer()));
  const asked = url.searchParams.get('mapping');
  const own = asked === null ? undefined : mapping.safeParse(asked);
  if (own && !own.success) throw errors.invalid('The columns are not named as they should be.');
  const columns = own?.data ?? table.mapping;
  const take = url.searchParams.get('take');
  if (take === null) return csv.tryTable(app.ctx, site, table, columns);
  return { counts: await csv.takeTable(app.ctx, site, table, columns, take === 'but-refused', by) };
});
