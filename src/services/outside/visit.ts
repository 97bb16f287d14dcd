import { unreachable } from '../errors';
import { askFor } from './ask';
import type { Reach } from './reach';

/** A page as its visitors get it, and the address where it was in the end. */
export interface Visited {
  readonly bytes: Buffer;
  readonly url: string;
}

/**
 * A page as its visitors get it: fetched without being remembered, redirects followed.
 * @throws Refusal that says what is wrong, where the page does not answer as a page.
 */
export async function visit(reach: Reach, url: string): Promise<Visited> {
  const answer = await askFor(reach, url, {
    accept: 'text/html',
    limit: 'visitedPage',
    tooLarge: 'That page was not looked at.',
    headers: { 'cache-control': 'no-cache' },
  });
  if (answer.status !== 200) throw unreachable(`That page answers ${answer.status}. Check the address.`);
  return { bytes: answer.bytes, url: answer.url };
}
