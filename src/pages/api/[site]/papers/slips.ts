import { endpoint } from '../../../_endpoint';

/** Packing slips of some orders (`ids`, with commas between): as a page to print, or with `pdf` as one PDF. */
export const GET = endpoint('GET papers/slips', async ({ app, site, query, request }) => {
  const papers = await app.services.papers.packingSlips(
    app.ctx,
    site,
    (query.ids ?? '').split(',').filter(Boolean),
  );
  return app.services.paperAnswer.answer(papers, 'packing-slips', new URL(request.url));
});
