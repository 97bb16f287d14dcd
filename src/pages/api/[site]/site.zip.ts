import { endpoint } from '../../_endpoint';

/** The site as last published, or as read when nothing was, to carry to any host. */
export const GET = endpoint('GET site.zip', async ({ app, site }) => {
  const published = await app.services.site.currentPublication(app.ctx, site.row);
  const zip = await app.services.host.packZip(app.ctx, published?.manifest ?? site.manifest);
  return new Response(zip as Uint8Array<ArrayBuffer>, {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="${site.row.slug}.zip"`,
    },
  });
});
