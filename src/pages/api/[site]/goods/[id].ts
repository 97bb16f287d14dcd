import { endpoint } from '../../../_endpoint';

export const PUT = endpoint(async ({ app, site, params, body, by }) => app.services.goods.saveProduct(app.ctx, site, params.id ?? '', app.services.goods.parseProduct(await body()), by));

export const DELETE = endpoint(({ app, site, params, by }) => app.services.goods.removeProduct(app.ctx, site, params.id ?? '', by));

/** A picture, as the file's own bytes. */
export const POST = endpoint(async ({ app, site, params, request, by }) => {
  const hash = await app.services.pictures.takePicture(app.ctx, Buffer.from(await request.arrayBuffer()));
  return app.services.goods.setPicture(app.ctx, site, params.id ?? '', hash, by);
});
