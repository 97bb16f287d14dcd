import { endpoint } from '../../_endpoint';

export const GET = endpoint(({ app, site }) => app.services.coverage.coverage(app.ctx, site));
