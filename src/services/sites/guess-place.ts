import { bodyOf, rawText } from '../../core/html/tree';
import { textOf } from '../../core/html/source';
import { type Guess, guessPlace } from '../../core/site/set-up';
import type { Ctx } from '../context';
import { loadPage, type Site } from './site';

/** So many pages are read for it, and so much of each. */
const PAGES = 12;
const LETTERS = 20_000;

/** Where the business is and what it charges, as its pages let one guess; and their words. */
export async function placeOf(
  ctx: Ctx,
  site: Site,
): Promise<{ readonly guess: Guess; readonly texts: readonly string[] }> {
  const texts: string[] = [];
  for (const facts of site.reading.pages.slice(0, PAGES)) {
    const page = await loadPage(ctx, site, facts.path);
    const body = bodyOf(page.doc);
    if (body) texts.push(textOf(page.source, rawText(body)).slice(0, LETTERS));
  }
  const host = site.row.liveUrl.startsWith('http') ? new URL(site.row.liveUrl).hostname : '';
  return { guess: guessPlace(site.reading.lang, host, texts), texts };
}
