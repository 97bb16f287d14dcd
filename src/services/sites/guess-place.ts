import { bodyOf, rawText } from '../../core/html/tree';
import { textOf } from '../../core/html/source';
import type { PagePath } from '../../core/site/paths';
import type { ParsedPage } from '../../core/site/read-page';
import type { SiteReading } from '../../core/site/read-site';
import { type Guess, guessPlace } from '../../core/site/set-up';

/** So many pages are read for it, and so much of each. */
const PAGES = 12;
const LETTERS = 20_000;

/**
 * Where the business is and what it charges, as its pages let one guess; and their words.
 * @param load a page; nothing for one that cannot be read
 */
export async function placeOf(
  reading: SiteReading,
  liveUrl: string,
  load: (path: PagePath) => Promise<ParsedPage | undefined>,
): Promise<{ readonly guess: Guess; readonly texts: readonly string[] }> {
  const texts: string[] = [];
  for (const { path } of reading.pages.slice(0, PAGES)) {
    const page = await load(path);
    const body = page && bodyOf(page.doc);
    if (body) texts.push(textOf(page.source, rawText(body)).slice(0, LETTERS));
  }
  const host = liveUrl.startsWith('http') ? new URL(liveUrl).hostname : '';
  return { guess: guessPlace(reading.lang, host, texts), texts };
}
