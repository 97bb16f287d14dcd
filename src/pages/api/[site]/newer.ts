import { bytesOf } from '../../_upload';
import { endpoint } from '../../_endpoint';

/** Brings a newer version of the owner's files into the draft: a ZIP as the body, or the site's folder read once more. */
export const POST = endpoint('POST newer', async ({ app, site, request, query }) => {
  if (request.headers.get('content-type')?.startsWith('application/json'))
    return app.services.newer.readAgain(app.ctx, site);
  const fileName = query.name ?? 'site.zip';
  const { uploads } = app.services;
  return uploads.withUpload(bytesOf(request), 'siteZip', (bytes) =>
    app.services.newer.bringInNewer(app.ctx, site, { how: 'zip', fileName, bytes }),
  );
});
