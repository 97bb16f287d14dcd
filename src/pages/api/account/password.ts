import { z } from 'zod';
import { accountEndpoint, parsed } from '../../_account';

const given = z.object({ current: z.string().max(1_000), password: z.string().max(1_000) });

export const PUT = accountEndpoint('PUT password', async ({ app, me, headers, body }) => ({
  ...(await app.accounts.changePassword(headers, me, parsed(app, given, body))),
  value: { done: true },
}));
