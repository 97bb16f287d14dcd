import { listPitches } from '../../core/site/pitch';
import type { World } from '../testing';
import { place } from './placing';
import { loadPage, type Site } from './site';

/** A row of products after the words of the tiny site's second page. */
export async function placeRow(w: World, site: Site, settings: Record<string, unknown> = {}) {
  const pitch = listPitches(await loadPage(w.ctx, site, 'about/index.html')).find(
    (p) => p.label === 'after \u201cmore\u201d',
  );
  if (!pitch) throw new Error('no pitch');
  return place(w.ctx, site, {
    kind: 'row',
    settings,
    pitch: pitch.address,
    pitchLabel: pitch.label,
    reach: { to: 'page', page: 'about/index.html' },
  });
}
