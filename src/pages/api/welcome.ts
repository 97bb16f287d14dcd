import type { APIRoute } from 'astro';
import { z } from 'zod';
import { parsed } from '../_account';
import { problemResponse } from '../_endpoint';

const founder = z.object({
  key: z.string().max(100),
  name: z.string().trim().min(1, 'Enter your name.').max(80),
  email: z.email('Enter an e-mail address like name@example.org.').max(200),
  password: z.string().max(1_000),
});

/** Makes the first owner. The key was printed at start; it works once, and only while there is no owner. */
export const POST: APIRoute = async ({ locals, request }) => {
  const { app } = locals;
  try {
    const { key, ...owner } = parsed(app, founder, await request.json().catch(() => ({})));
    if ((await app.services.people.hasOwner(app.ctx)) || !app.welcome.fits(key))
      throw new app.services.errors.Refusal(
        'denied',
        'This link was used already, or the program was started anew since. Use the link it printed last, or sign in.',
      );
    // Taken before anything is waited for: of five who come at once, one is let in. The database has the last
    // word, for other processes.
    app.welcome.use();
    try {
      await app.accounts.found(owner);
    } catch (error) {
      app.welcome.giveBack();
      throw error;
    }
    return Response.json({ done: true });
  } catch (error) {
    return problemResponse(app, error);
  }
};
