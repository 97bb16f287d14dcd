import { z } from 'zod';
import { accountEndpoint, parsed } from '../../../_account';

const given = z.object({ email: z.string().max(200), password: z.string().max(1_000) });

export const POST = accountEndpoint('POST sign-in', ({ app, headers, body }) =>
  app.accounts.signIn(headers, parsed(app, given, body)),
);

export const DELETE = accountEndpoint('DELETE sign-in', async ({ app, headers }) => ({
  ...(await app.accounts.signOut(headers)),
  value: { done: true },
}));
