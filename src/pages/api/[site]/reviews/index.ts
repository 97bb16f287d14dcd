import { endpoint } from '../../../_endpoint';

export const GET = endpoint('GET reviews', ({ app, site }) =>
  app.services.reviews.listReviews(app.ctx, site),
);
