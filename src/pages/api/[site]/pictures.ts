import { endpoint } from '../../_endpoint';

/** Takes in a picture, as the file's own bytes; it belongs to nothing until a product names it. */
export const POST = endpoint('POST pictures', async ({ app, request }) => ({
  hash: await app.services.pictures.takePicture(app.ctx, Buffer.from(await request.arrayBuffer())),
}));
