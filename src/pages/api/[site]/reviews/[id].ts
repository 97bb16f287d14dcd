import { endpoint } from '../../../_endpoint';

/** Shows, hides or answers a review; answers with what it was. */
export const PUT = endpoint('PUT reviews/:id', async ({ app, site, params, body }) =>
  app.services.reviews.decideReview(app.ctx, site, params.id, await body()),
);
