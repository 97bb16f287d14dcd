import { endpoint } from '../../../_endpoint';

/** An invoice or credit note: as a page to print, or with `pdf` as a PDF. */
export const GET = endpoint('GET papers/:id', async ({ app, site, params, request }) => {
  const { paper, name } = await app.services.papers.documentPaper(app.ctx, site, params.id);
  return app.services.paperAnswer.answer([paper], name, new URL(request.url));
});
