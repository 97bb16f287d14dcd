import { endpoint } from '../../../../_endpoint';
import { readSent } from './_table';

/** Takes a table in; with `refused=left-out` without the rows that cannot be taken. */
export const POST = endpoint('POST goods/csv/take', async ({ app, site, request, query, by }) => {
  const { table, columns } = await readSent(app, request, query.mapping);
  const leaveOut = query.refused === 'left-out';
  return { counts: await app.services.csv.takeTable(app.ctx, site, table, columns, leaveOut, by) };
});
