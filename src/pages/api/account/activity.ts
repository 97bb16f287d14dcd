import { accountEndpoint } from '../../_account';

export const GET = accountEndpoint('GET activity', async ({ app, query }) => {
  const before = Number(query.get('before') ?? Number.NaN);
  return {
    value: await app.services.activity.listActivity(
      app.ctx,
      Number.isSafeInteger(before) ? before : undefined,
    ),
  };
});
