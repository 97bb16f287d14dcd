import { z } from 'zod';
import { accountEndpoint, parsed } from '../../../_account';

const given = z.object({ code: z.string('Enter the code.').trim().min(1, 'Enter the code.').max(40) });

/** The second step, where an account has a second factor: a code, or one of the spare ones. */
export const POST = accountEndpoint('POST sign-in/code', ({ app, headers, body }) =>
  app.accounts.signInCode(headers, parsed(app, given, body).code),
);
