import { z } from 'zod';
import { accountEndpoint, parsed } from '../../_account';

const given = z.object({
  key: z.string().max(100),
  name: z.string('Enter your name.').trim().min(1, 'Enter your name.').max(80),
  password: z.string().max(1_000),
});

export const POST = accountEndpoint('POST join', ({ app, headers, body }) =>
  app.accounts.join(headers, parsed(app, given, body)),
);
