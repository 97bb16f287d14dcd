import { endpoint } from '../../../_endpoint';

/** Packing slips of some orders (`ids`, with commas between): as a page to print, or with `pdf` as one PDF. */
export const GET = endpoint(async ({ app, site, url }) => {
  const papers = await app.services.papers.packingSlips(
    app.ctx,
    site,
    (url.searchParams.get('ids') ?? '').split(',').filter(Boolean),
  );
  return app.services.paperAnswer.answer(papers, 'packing-slips', url);
});
