import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET checks/way', ({ app, site, query }) => {
  const { checks } = app.services;
  return checks.wayOf(app.ctx, site, query.page ?? '', checks.goalOf(query.goal));
});
