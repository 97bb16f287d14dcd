import { accountEndpoint } from '../../_account';

export const GET = accountEndpoint('GET deeds', async ({ app, query }) => {
  const before = Number(query.get('before') ?? Number.NaN);
  return {
    value: await app.services.deeds.listDeeds(app.ctx, Number.isSafeInteger(before) ? before : undefined),
  };
});
