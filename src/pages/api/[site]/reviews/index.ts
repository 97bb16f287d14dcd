import { endpoint } from '../../../_endpoint';

export const GET = endpoint(({ app, site }) => app.services.reviews.listReviews(app.ctx, site));
