import { accountEndpoint } from '../../../_account';

export const GET = accountEndpoint('GET people', async ({ app }) => ({
  value: await app.services.people.listPeople(app.ctx),
}));

export const POST = accountEndpoint('POST people', async ({ app, me, body }) => {
  const value = await app.services.people.invite(app.ctx, me.name, body);
  await app.services.activity.recordActivity(app.ctx, {
    person: me,
    what: 'POST people',
    subject: value.email,
  });
  return { value };
});
