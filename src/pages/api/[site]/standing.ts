import { endpoint } from '../../_endpoint';

/** What the owner has to know wherever they are. */
export const GET = endpoint('GET standing', ({ app, site }) => app.services.standing.standing(app.ctx, site));
