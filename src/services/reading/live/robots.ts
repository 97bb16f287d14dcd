import robotsParser, { type Robot } from 'robots-parser';
import { AGENT, askFor } from '../../outside/ask';
import type { Reach } from '../../outside/reach';
import { conflict } from '../../errors';

/** Longest pause that is kept between two requests because a site asks for one, in seconds; chosen by hand. */
const LONGEST_PAUSE = 3;

/** What a site asks of programs that read it. */
export interface Robots {
  readonly allows: (url: URL) => boolean;
  /** Seconds between two requests. */
  readonly pause: number;
  /** Lists of its addresses that it names. */
  readonly siteMaps: readonly string[];
}

/**
 * Reads robots.txt (RFC 9309). A site without one asks nothing (2.3.1.3); one whose server fails to give it is left alone (2.3.1.4).
 * @throws Refusal where the server fails
 */
export async function readRobots(reach: Reach, site: URL, signal?: AbortSignal): Promise<Robots> {
  const url = new URL('/robots.txt', site).href;
  const { status, bytes, type } = await askFor(reach, url, {
    accept: 'text/plain',
    limit: 'robots',
    tooLarge: 'The robots.txt of that site was not read.',
    signal,
  });
  if (status >= 500 || status === 429)
    throw conflict(
      `That site's server answers ${status} for robots.txt, which asks programs to stay away for now. Try again in a while.`,
    );
  // A page that says "not found" with status 200 is no robots.txt.
  const text = status === 200 && !type.includes('html') ? bytes.toString('utf8') : '';
  return asRobots(robotsParser(url, text));
}

const asRobots = (robots: Robot): Robots => ({
  allows: (url) => robots.isAllowed(url.href, AGENT) ?? true,
  pause: Math.min(LONGEST_PAUSE, robots.getCrawlDelay(AGENT) ?? 0),
  siteMaps: robots.getSitemaps(),
});
