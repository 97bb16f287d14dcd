import { endpoint } from '../../../_endpoint';

export const POST = endpoint('POST goods/samples', async ({ app, site, by }) => ({
  added: await app.services.samples.addSamples(app.ctx, site, by),
}));
