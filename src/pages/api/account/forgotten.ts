import { z } from 'zod';
import { accountEndpoint, parsed } from '../../_account';

const whose = z.object({ email: z.email('Enter an e-mail address like name@example.org.').max(200) });
const chosen = z.object({ token: z.string().max(200), password: z.string().max(1_000) });

export const POST = accountEndpoint('POST forgotten', ({ app, headers, body }) =>
  app.accounts.forgotten(headers, parsed(app, whose, body).email),
);

export const PUT = accountEndpoint('PUT forgotten', async ({ app, headers, body }) => ({
  ...(await app.accounts.resetPassword(headers, parsed(app, chosen, body))),
  value: { done: true },
}));
