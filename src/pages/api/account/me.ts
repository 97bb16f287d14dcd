import { accountEndpoint } from '../../_account';

export const GET = accountEndpoint('GET me', async ({ app, me }) => ({
  value: { sessions: await app.services.sessions.listSessions(app.ctx, me.id, me.sessionId) },
}));
