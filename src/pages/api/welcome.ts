import type { APIRoute } from 'astro';
import { z } from 'zod';

const founder = z.object({
  key: z.string().max(100),
  name: z.string().trim().min(1, 'Enter your name.').max(80),
  email: z.email('Enter an e-mail address like name@example.org.'),
  password: z
    .string()
    .min(10, 'A password has at least 10 characters. Four words that nobody would guess are easy to keep.')
    .max(128),
});

/** Makes the first owner. The key was printed at start; it works once, and only while there is no owner. */
export const POST: APIRoute = async ({ locals, request }) => {
  const { app } = locals;
  const refuse = (title: string, status: number, field?: unknown) =>
    Response.json({ title, status, field }, { status });
  const parsed = founder.safeParse(await request.json().catch(() => ({})));
  if (!parsed.success)
    return refuse(
      parsed.error.issues[0]?.message ?? 'Something is missing.',
      422,
      parsed.error.issues[0]?.path[0],
    );
  if ((await app.auth.hasOwner()) || !app.welcome.fits(parsed.data.key))
    return refuse(
      'This link was used already, or the program was started anew since. Use the link it printed last, or sign in.',
      403,
    );
  const { key: _, ...owner } = parsed.data;
  // Taken before anything is waited for: of five who come at once, one is let in.
  app.welcome.use();
  try {
    await app.auth.createOwner(owner);
  } catch (error) {
    app.welcome.giveBack();
    throw error;
  }
  return Response.json({ done: true });
};
