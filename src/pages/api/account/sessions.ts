import { z } from 'zod';
import { accountEndpoint, parsed } from '../../_account';

const which = z.union([z.object({ id: z.string().max(100) }), z.literal('others')]);

export const DELETE = accountEndpoint('DELETE sessions', async ({ app, me, body }) => {
  const chosen = parsed(app, which, body);
  const ended = await app.services.sessions.endSessions(
    app.ctx,
    me.id,
    chosen === 'others' ? { allBut: me.sessionId } : chosen,
  );
  await app.services.activity.recordActivity(app.ctx, { person: me, what: 'DELETE sessions' });
  return { value: { ended } };
});
