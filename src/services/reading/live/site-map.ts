import { gunzipSync } from 'node:zlib';
import { XMLParser } from 'fast-xml-parser';
import { z } from 'zod';
import { limits } from '../../../core/limits';
import { askFor } from '../../outside/ask';
import type { Reach } from '../../outside/reach';
import { isRefusal } from '../../errors';

/** Lists that a list of lists may name; and addresses taken of all of them. Chosen by hand, far above what is read of a site. */
const MOST_LISTS = 50;
const MOST_ADDRESSES = 50_000;

const parser = new XMLParser({
  ignoreAttributes: true,
  parseTagValue: false,
  // Entities of its own could make a small list a very large one.
  processEntities: { enabled: true, maxTotalExpansions: 200_000, maxExpandedLength: limits.siteMap.most },
  removeNSPrefix: true,
  isArray: (name) => name === 'url' || name === 'sitemap',
});

const entry = z.object({ loc: z.string() });
const list = z.object({
  urlset: z.object({ url: z.array(z.unknown()).default([]) }).optional(),
  sitemapindex: z.object({ sitemap: z.array(z.unknown()).default([]) }).optional(),
});

/** What a list of addresses says (sitemaps.org, protocol 0.9): pages, and further lists. A text with an address a line is one as well. */
export function readSiteMap(text: string): { readonly pages: string[]; readonly lists: string[] } {
  if (!/^\s*</.test(text))
    return { pages: text.split(/\r?\n/).filter((line) => /^https?:\/\//.test(line)), lists: [] };
  let read: unknown;
  try {
    read = parser.parse(text);
  } catch {
    return { pages: [], lists: [] };
  }
  const parsed = list.safeParse(read);
  if (!parsed.success) return { pages: [], lists: [] };
  return {
    pages: addressesOf(parsed.data.urlset?.url ?? []),
    lists: addressesOf(parsed.data.sitemapindex?.sitemap ?? []),
  };
}

const addressesOf = (entries: readonly unknown[]): string[] =>
  entries.flatMap((e) => {
    const parsed = entry.safeParse(e);
    const address = parsed.success ? parsed.data.loc.trim() : '';
    return address ? [address] : [];
  });

/**
 * All pages that a site's lists name. A list that cannot be had, or read, is passed over: links find the pages as well.
 * @param named lists that robots.txt names; the usual address is looked at without it
 */
export async function pagesOfSiteMaps(
  reach: Reach,
  named: readonly string[],
  site: URL,
  mayAsk: (url: URL) => boolean,
  signal?: AbortSignal,
): Promise<string[]> {
  const queue = named.length ? [...named] : [new URL('/sitemap.xml', site).href];
  const seen = new Set<string>();
  const pages = new Set<string>();
  for (let at = queue.shift(); at !== undefined && seen.size < MOST_LISTS; at = queue.shift()) {
    if (seen.has(at) || !URL.canParse(at) || !mayAsk(new URL(at))) continue;
    seen.add(at);
    const { pages: found, lists } = readSiteMap(await textAt(reach, at, signal));
    for (const page of found) if (pages.size < MOST_ADDRESSES) pages.add(page);
    queue.push(...lists);
  }
  return [...pages];
}

async function textAt(reach: Reach, url: string, signal: AbortSignal | undefined): Promise<string> {
  try {
    const { status, bytes } = await askFor(reach, url, {
      accept: 'application/xml, text/xml, text/plain',
      limit: 'siteMap',
      tooLarge: 'The list of addresses was not read.',
      signal,
    });
    if (status !== 200) return '';
    // Lists may be packed as files (sitemaps.org), whatever the answer's head says.
    const isPacked = bytes[0] === 0x1f && bytes[1] === 0x8b;
    return (isPacked ? gunzipSync(bytes, { maxOutputLength: limits.siteMap.most }) : bytes).toString('utf8');
  } catch (error) {
    if (isRefusal(error) || error instanceof RangeError || isZlib(error)) return '';
    throw error;
  }
}

const isZlib = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && /^(Z_|ERR_BUFFER_TOO_LARGE)/.test(String(error.code));
