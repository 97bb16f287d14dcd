import type { MenuItem } from './menu';
import { isPagePath, type PagePath } from './paths';
import { type PageFacts, parsePageFile, readPage } from './read-page';

/** A site as it was read: plain data, stored with the snapshot it was read from. */
export interface SiteReading {
  readonly name: string;
  readonly lang: string;
  readonly pages: readonly PageFacts[];
  /** The menu as the front page has it. */
  readonly menu: readonly MenuItem[];
  /** Files that were left out or could not be read as what they claim to be; sentences for the owner. */
  readonly notes: readonly string[];
}

/** A file's bytes by path. Reading a site touches one file at a time, so memory stays with the largest page. */
export interface SiteFiles {
  readonly paths: readonly PagePath[];
  readonly read: (path: PagePath) => Promise<Uint8Array>;
}

/** Reads every page of a site. `onPage` hears of progress and may be used to yield or stop (by throwing). */
export async function readSite(files: SiteFiles, onPage: (done: number, all: number) => Promise<void> | void = () => {}): Promise<SiteReading> {
  const known = new Set<string>(files.paths);
  const has = (p: string) => known.has(p);
  const candidates = files.paths.filter(isPagePath).sort(frontFirst);
  const pages: PageFacts[] = [];
  const notes: string[] = [];
  for (const [i, path] of candidates.entries()) {
    const parsed = parsePageFile(path, await files.read(path));
    if ('problem' in parsed) notes.push(parsed.problem);
    else pages.push(readPage(parsed.page, has));
    await onPage(i + 1, candidates.length);
  }
  const front = pages[0];
  const menu = front?.menu ?? [];
  return { name: siteName(pages), lang: front?.lang ?? '', pages, menu, notes };
}

/** Shallow pages first, a folder's index before its neighbours, then by name. */
function frontFirst(a: string, b: string): number {
  const depth = (p: string) => p.split('/').length;
  const index = (p: string) => (/(^|\/)index\./i.test(p) ? 0 : 1);
  return depth(a) - depth(b) || index(a) - index(b) || a.localeCompare(b, 'en');
}

/** What most titles share before or after a separator, else the front page's heading or title. */
function siteName(pages: readonly PageFacts[]): string {
  const counts = new Map<string, number>();
  for (const page of pages) {
    for (const part of new Set(page.title.split(/\s+[·|–—-]\s+|:\s+/).map((t) => t.trim()).filter(Boolean))) {
      counts.set(part, (counts.get(part) ?? 0) + 1);
    }
  }
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  if (best && best[1] > 1) return best[0];
  const front = pages[0];
  return front?.title || front?.heading || 'My site';
}
