import { endpoint } from '../../_endpoint';

const MAX_ZIP = 600 * 1024 * 1024;

/** Brings a newer version of the owner's files into the draft: a ZIP as the body, or the site's folder read once more. */
export const POST = endpoint(async ({ app, site, request, url }) => {
  if (!request.headers.get('content-type')?.startsWith('application/zip'))
    return app.services.newer.readAgain(app.ctx, site);
  if (Number(request.headers.get('content-length') ?? 0) > MAX_ZIP)
    throw app.services.errors.invalid(
      'The ZIP is larger than 600 MB. Leave out videos and backups, then pack it again.',
    );
  const bytes = Buffer.from(await request.arrayBuffer());
  return app.services.newer.bringInNewer(app.ctx, site, {
    how: 'zip',
    fileName: url.searchParams.get('name') ?? 'site.zip',
    bytes,
  });
});
