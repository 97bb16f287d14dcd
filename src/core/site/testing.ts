import type { PagePath } from './paths';
import { type ReadOptions, readSite, type SiteReading } from './read-site';

/** A site of files, read, for tests. */
export const readFiles = (
  files: Readonly<Record<string, string | Buffer>>,
  options: ReadOptions = {},
): Promise<SiteReading> =>
  readSite(
    { paths: Object.keys(files) as PagePath[], read: async (p) => Buffer.from(files[p] as string) },
    options,
  );

/** The regions of a page by name: the path of what holds them, and which children where it holds more. */
export const regionsIn = (site: SiteReading, path: string): Record<string, string> =>
  Object.fromEntries(
    site.pages
      .find((p) => p.path === path)
      ?.regions.map((r) => [r.region, r.path + (r.from === undefined ? '' : `[${r.from}-${r.to}]`)]) ?? [],
  );

/** Text that no other page has. */
export const prose = (seed: string): string =>
  `<p>${`${seed} words of its own that no other page has, `.repeat(6)}</p>`;
