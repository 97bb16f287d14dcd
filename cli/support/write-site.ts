import { cp, mkdir, readdir, realpath, symlink, writeFile } from 'node:fs/promises';
import { basename, dirname, join, relative, resolve } from 'node:path';
import type { PagePath } from '../../src/core/site/paths';
import { invalid } from '../../src/services/errors';
import { forgetJournal, sha256, writeInPlace } from '../../src/services/sites/in-place';
import type { OpenSite } from '../../src/services/reading/open-site';
import { linksWithin } from '../../src/services/reading/read-folder';

/** Pages of a site by their new bytes; undefined takes a file away. Files that are not named stay as they are. */
export type Changes = ReadonlyMap<PagePath, Uint8Array | undefined>;

/** Where a command writes: a new folder, or the site's own. */
export type Target = { readonly out: string } | { readonly inPlace: string };

export function targetOf(
  dir: string,
  flags: { readonly out?: string | boolean | undefined; readonly 'in-place'?: string | boolean | undefined },
): Target {
  if (flags['in-place'] && flags.out) throw invalid('Choose one of --out DIR and --in-place.');
  if (flags['in-place']) return { inPlace: resolve(dir) };
  if (typeof flags.out === 'string') return { out: resolve(flags.out) };
  throw invalid('Say where the pages go: --out DIR for a new folder, --in-place for the site itself.');
}

export async function writeSite(
  site: OpenSite,
  dir: string,
  changes: Changes,
  target: Target,
): Promise<void> {
  if ('inPlace' in target) await inPlace(site, target.inPlace, changes);
  else await intoNew(site, dir, target.out, changes);
}

/** A whole copy of the site with its changes. The folder must be new or empty: nothing there is written over. */
async function intoNew(site: OpenSite, dir: string, out: string, changes: Changes): Promise<void> {
  const there = await readdir(out).catch((e: NodeJS.ErrnoException) =>
    e.code === 'ENOENT' ? [] : Promise.reject(invalid(`${out} cannot be used (${e.code}).`)),
  );
  if (there.length > 0)
    throw invalid(`${out} is not empty. Name a new folder, so that nothing in it is written over.`);
  await mkdir(out, { recursive: true });
  if (`${await realpath(out)}/`.startsWith(`${await realpath(dir).catch(() => dir)}/`))
    throw invalid(`${out} lies inside the site itself. Name a folder outside it.`);
  for (const path of new Set([...site.paths, ...changes.keys()])) {
    const target = join(out, path);
    const bytes = changes.get(path);
    if (changes.has(path) && !bytes) continue;
    await mkdir(dirname(target), { recursive: true });
    if (bytes) await writeFile(target, bytes);
    else if (site.fileOf) await cp(site.fileOf(path), target, { preserveTimestamps: true });
    else await writeFile(target, await site.read(path));
  }
  if (site.fileOf) await copyLinks(dir, out, changes);
}

/** Links from one place of the site to another lead to the same place of the copy. */
async function copyLinks(dir: string, out: string, changes: Changes): Promise<void> {
  const written = new Set<string>(changes.keys());
  for (const { path, to } of await linksWithin(dir)) {
    if (written.has(path)) continue;
    const target = join(out, path);
    await mkdir(dirname(target), { recursive: true });
    await symlink(relative(dirname(target), join(out, to)), target);
  }
}

/** Journalled: a run that is cut off is finished or put back by "bin/stall recover". */
async function inPlace(site: OpenSite, folder: string, changes: Changes): Promise<void> {
  const bytes = new Map<string, Uint8Array>();
  const from: Record<string, string> = {};
  const to: Record<string, string> = {};
  const known = new Set<string>(site.paths);
  for (const [path, after] of changes) {
    const seen = site.seen.get(path);
    const before = known.has(path) ? await site.read(path) : undefined;
    if (before) keep(bytes, before);
    // As it was when the change was computed: an edit since then is somebody else's, and is not written over.
    if (before) from[path] = seen ?? sha256(before);
    if (after) to[path] = keep(bytes, after);
  }
  const journal = journalOf(folder);
  await writeInPlace({ folder, journal, read: async (hash) => bytes.get(hash) ?? Buffer.alloc(0) }, from, to);
  await forgetJournal(journal);
}

/** Beside the site, not in it: a web host must never show it. */
export const journalOf = (folder: string): string =>
  join(dirname(folder), `.${basename(folder)}.stall-journal`);

const keep = (bytes: Map<string, Uint8Array>, content: Uint8Array): string => {
  const hash = sha256(content);
  bytes.set(hash, content);
  return hash;
};
