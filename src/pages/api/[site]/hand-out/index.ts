import { endpoint } from '../../../_endpoint';

/** All that the owner pastes into a site which only they can write, and how it stands. */
export const GET = endpoint('GET hand-out', ({ app, site }) =>
  app.services.handOutList.handOutView(app.ctx, site),
);

/** What the host offers, and where the shop page is. */
export const PUT = endpoint('PUT hand-out', async ({ app, site, body }) =>
  app.services.handOutList.setHandOut(app.ctx, site, await body()),
);
