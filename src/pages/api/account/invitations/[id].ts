import { accountEndpoint } from '../../../_account';

export const DELETE = accountEndpoint('DELETE invitations/:id', async ({ app, me, id }) => {
  const subject = await app.services.people.withdrawInvitation(app.ctx, id);
  await app.services.activity.recordActivity(app.ctx, {
    person: me,
    what: 'DELETE invitations/:id',
    subject,
  });
  return { value: { done: true } };
});
