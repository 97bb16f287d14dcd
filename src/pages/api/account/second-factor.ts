import { z } from 'zod';
import { accountEndpoint, parsed } from '../../_account';

const proof = z.object({ password: z.string().max(1_000) });
const given = z.object({ code: z.string().max(40) });

export const POST = accountEndpoint('POST second-factor', ({ app, headers, body }) =>
  app.accounts.beginSecondFactor(headers, parsed(app, proof, body).password),
);

export const PUT = accountEndpoint('PUT second-factor', async ({ app, me, headers, body }) => ({
  ...(await app.accounts.confirmSecondFactor(headers, me, parsed(app, given, body).code)),
  value: { done: true },
}));

export const DELETE = accountEndpoint('DELETE second-factor', async ({ app, me, headers, body }) => ({
  ...(await app.accounts.endSecondFactor(headers, me, parsed(app, proof, body).password)),
  value: { done: true },
}));
