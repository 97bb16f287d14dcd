import { endpoint } from '../../../_endpoint';

/**
 * Packing slips of some orders (`ids`, with commas between), or of all that a search finds on a shelf: as a page to print,
 * or with `pdf` as one PDF.
 */
export const GET = endpoint('GET papers/slips', async ({ app, site, query, request }) => {
  const { papers, paperAnswer, orderList } = app.services;
  const { ids: named = '' } = query;
  const ids = named ? named.split(',').filter(Boolean) : await orderList.foundOnShelf(app.ctx, site, query);
  const slips = await papers.packingSlips(app.ctx, site, ids);
  return paperAnswer.answer(slips, 'packing-slips', new URL(request.url));
});
