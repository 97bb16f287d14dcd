import { endpoint } from '../../_endpoint';

export const GET = endpoint(({ app, site }) => app.services.overview.siteOverview(app.ctx, site));
