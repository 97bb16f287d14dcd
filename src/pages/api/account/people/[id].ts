import { z } from 'zod';
import { accountEndpoint, parsed } from '../../../_account';

const asked = z.object({ role: z.string().max(20) });

export const PATCH = accountEndpoint('PATCH people/:id', async ({ app, me, id, body }) => {
  const { name } = await app.services.people.changeRole(app.ctx, id, parsed(app, asked, body).role);
  await app.services.activity.recordActivity(app.ctx, {
    person: me,
    what: 'PATCH people/:id',
    subject: name,
  });
  return { value: { done: true } };
});

export const DELETE = accountEndpoint('DELETE people/:id', async ({ app, me, id }) => {
  const { name } = await app.services.people.removePerson(app.ctx, id);
  await app.services.activity.recordActivity(app.ctx, {
    person: me,
    what: 'DELETE people/:id',
    subject: name,
  });
  return { value: { done: true } };
});
