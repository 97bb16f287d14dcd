import { z } from 'zod';

const mapping = z
  .string()
  .transform((text, ctx): unknown => {
    try {
      return JSON.parse(text);
    } catch {
      ctx.addIssue({ code: 'custom', message: 'not JSON' });
      return z.NEVER;
    }
  })
  .pipe(z.array(z.string().nullable()).max(500));

/** The table that was sent, and what its columns are: by the owner's word, else by their heads. @throws Refusal */
export async function readSent(app: App.Locals['app'], request: Request, asked: string | undefined) {
  const { csv, errors } = app.services;
  const table = csv.readTable(Buffer.from(await request.arrayBuffer()));
  const own = asked === undefined ? undefined : mapping.safeParse(asked);
  if (own && !own.success) throw errors.invalid('The columns are not named as they should be.');
  return { table, columns: own?.data ?? table.mapping };
}
