import { z } from 'zod';

const chosen = z.object({ ids: z.array(z.string().max(40)).min(1).max(20_000), edit: z.unknown() });

/** Which products, and what is to be done to them; the edit is parsed by the service. @throws Refusal */
export function readChosen(app: App.Locals['app'], sent: unknown): z.output<typeof chosen> {
  const asked = chosen.safeParse(sent);
  if (!asked.success) throw app.services.errors.invalid('Choose at least one product.');
  return asked.data;
}
