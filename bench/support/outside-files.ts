import type { Dirent } from 'node:fs';
import { readdir, readFile, stat } from 'node:fs/promises';
import { join, relative } from 'node:path';

/** What is read of an outside site: pages and what dresses them. Pictures and films are left out: they are large, and their names are enough. */
const READ = /\.(html?|css|xml|txt)$|(^|\/)_headers$/i;
const NAMED = /\.(png|jpe?g|gif|svg|webp|ico|js|woff2?|ttf|eot|pdf|mp4|json|map|scss|less|md)$/i;
/** Pages that are read of one site, if nobody says another number. */
const MOST = 1_500;

/** Which files of a site are taken. */
interface Wanted {
  /** All of them are read, for a browser that looks at the pages. */
  readonly whole?: boolean;
  /** Pages at most. */
  readonly most?: number;
  /** Pages that are taken whatever their number. */
  readonly must?: ReadonlySet<string>;
}

/**
 * Files of a folder by path; of those that are only named a few bytes stand in.
 */
export async function filesOf(
  folder: string,
  { whole = false, most = MOST, must = new Set() }: Wanted = {},
): Promise<Record<string, string | Uint8Array>> {
  const out: Record<string, string | Uint8Array> = {};
  let pages = 0;
  for (const entry of (await readdir(folder, { withFileTypes: true, recursive: true })).sort((a, b) =>
    join(a.parentPath, a.name) < join(b.parentPath, b.name) ? -1 : 1,
  )) {
    const file = join(entry.parentPath, entry.name);
    const path = relative(folder, file);
    if (!(await isFile(entry, file))) continue;
    if (path.split('/').some((p) => p.startsWith('.') || p === 'node_modules')) continue;
    if (/\.html?$/i.test(path) && !must.has(path) && ++pages > most) continue;
    if (READ.test(path) || (whole && NAMED.test(path))) out[path] = await readFile(file);
    else if (NAMED.test(path)) out[path] = new Uint8Array([0]);
  }
  return out;
}

/** A file, or a link to one. */
const isFile = async (entry: Dirent, file: string): Promise<boolean> =>
  entry.isFile() ||
  (entry.isSymbolicLink() && ((await stat(file).catch(() => undefined))?.isFile() ?? false));

/** The folder that all files lie in, with a slash at its end: a site is taken in without it. Empty where there is none. */
export function topOf(paths: readonly string[]): string {
  const [first = ''] = paths;
  const top = first.slice(0, first.indexOf('/') + 1);
  return paths.every((path) => path.startsWith(top)) ? top : '';
}
