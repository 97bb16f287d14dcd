import { endpoint } from '../../../_endpoint';

/** The till's rules, the countries of the world, and rates to begin with. */
export const GET = endpoint('GET till', ({ app, site }) => app.services.till.tillView(app.ctx, site));

/** One part of the rules, as it is to be and as it was seen. */
export const PUT = endpoint('PUT till', async ({ app, site, body, by }) =>
  app.services.rules.saveRules(app.ctx, site, await body(), by),
);

/** What the set-up asked and no rule of the till holds: the currency, and what is sold. */
export const PATCH = endpoint('PATCH till', async ({ app, site, body }) =>
  app.services.basics.saveBasics(app.ctx, site, await body()),
);
