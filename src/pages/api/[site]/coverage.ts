import { endpoint } from '../../_endpoint';

export const GET = endpoint('GET coverage', ({ app, site }) => app.services.coverage.coverage(app.ctx, site));
