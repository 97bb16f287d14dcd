import { bytesOf } from '../_upload';
import { mayDo } from '../../core/people/roles';
import { notYours, problemResponse } from '../_endpoint';
import type { APIRoute } from 'astro';
import type { Origin } from '../../services/sites/bring-in';

/**
 * Connects a site from a ZIP (the request's body), a folder (`?folder=`) or its live address (`?address=`). Answers line by line as it goes, each line a
 * JSON object: progress, then the site or the reason why not.
 */
export const POST: APIRoute = async ({ locals, request, url }) => {
  const { app, person } = locals;
  if (!mayDo(person.role, 'own')) return problemResponse(app, notYours(app));
  const { bringIn, errors } = { bringIn: app.services.bringIn, errors: app.services.errors };
  const settings = bringIn.siteSettings.safeParse({
    currency: url.searchParams.get('currency'),
    usualCurrency: url.searchParams.get('usual') ?? undefined,
    liveUrl: url.searchParams.get('live') ?? '',
  });
  const refuse = (title: string, status = 422) => Response.json({ title, status }, { status });
  if (!settings.success) return refuse(settings.error.issues[0]?.message ?? 'Check what you filled in.');
  const folder = url.searchParams.get('folder');
  const fileName = url.searchParams.get('name') ?? 'site.zip';
  const address = url.searchParams.get('address');
  const withOrigin = (work: (origin: Origin) => Promise<void>): Promise<void> => {
    if (address !== null) return work({ how: 'live', url: withScheme(address.trim()) });
    return folder !== null
      ? work({ how: 'folder', folder: folder.trim().replace(/(.)\/+$/, '$1') })
      : app.services.uploads.withUpload(bytesOf(request), 'siteZip', (bytes) =>
          work({ how: 'zip', fileName, bytes }),
        );
  };
  const text = new TextEncoder();
  const stream = new ReadableStream({
    async start(out) {
      const say = (line: object) => out.enqueue(text.encode(`${JSON.stringify(line)}\n`));
      try {
        await withOrigin(async (origin) => {
          const site = await bringIn.bringIn(app.ctx, origin, settings.data, (what, done, all) => {
            if (request.signal.aborted) throw new errors.Refusal('conflict', 'Stopped. Nothing was kept.');
            say({ what, done, all });
          });
          say({ site: site.slug, pages: site.reading.pages.length, notes: site.reading.notes });
        });
      } catch (error) {
        const isOurs = errors.isRefusal(error);
        if (!isOurs)
          app.ctx.log.error({ error: error instanceof Error ? error.stack : error }, 'bringing in failed');
        say({
          problem: isOurs
            ? error.message
            : 'Something went wrong on our side. Nothing was kept; please try again.',
        });
      }
      out.close();
    },
  });
  return new Response(stream, { headers: { 'content-type': 'application/x-ndjson' } });
};

/** People type an address as they say it: "example.org". */
const withScheme = (address: string): string =>
  /^[a-z][a-z0-9+.-]*:\/\//i.test(address) ? address : `https://${address}`;
