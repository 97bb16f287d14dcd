import { constants, type Dirent } from 'node:fs';
import { access, readdir, readFile, realpath, stat } from 'node:fs/promises';
import { isAbsolute, join } from 'node:path';
import { type PagePath, parsePath } from '../../core/site/paths';
import { invalid } from '../errors';
import { limits } from '../../core/limits';
import { tooLarge, tooMany, tooMuch } from './site-limits';
import type { OnFile } from './read-zip';

const skipped = new Set(['.git', '.svn', 'node_modules', '__MACOSX', '.DS_Store', 'Thumbs.db']);

/**
 * Reads a folder of this machine. Links are not followed: they may lead out of the site; each is told in the notes.
 * @throws Refusal when the folder is not there, cannot be read or written, or breaks a limit.
 */
export async function readFolder(folder: string, onFile: OnFile): Promise<string[]> {
  await checkFolder(folder);
  return walkFolder(folder, async (path, file) => onFile(path, await readFile(file)));
}

/** Every file of a folder by its path in the site and its place on this machine; what was left alone, in sentences. */
export async function walkFolder(
  folder: string,
  onFile: (path: PagePath, file: string) => Promise<void>,
): Promise<string[]> {
  const notes: string[] = [];
  const room = new Room();
  const folders = [''];
  for (let dir = folders.pop(); dir !== undefined; dir = folders.pop()) {
    for (const { name, entry } of await entriesOf(folder, dir)) {
      if (entry.isDirectory()) folders.push(name);
      const note = entry.isDirectory() ? undefined : await takeEntry(name, entry);
      if (note) notes.push(note);
    }
  }
  return notes;

  /** Hands a file on; why it was left alone, if it was. */
  async function takeEntry(name: string, entry: Dirent): Promise<string | undefined> {
    if (entry.isSymbolicLink())
      return `${name} is a link and was left alone: Green Stall works on files inside the site only.`;
    if (!entry.isFile()) return undefined;
    await room.take(name, join(folder, name));
    const path = parsePath(name);
    if (!path.ok) return `${path.error} and was left alone.`;
    await onFile(path.value, join(folder, name));
    return undefined;
  }
}

/** A link of a site to something in it, both by their paths in the site. */
export interface OwnLink {
  readonly path: string;
  readonly to: string;
}

/**
 * Links that stay inside a folder: they are nothing of their own to read, and part of it where it is copied. Those that lead
 * out are left out.
 */
export async function linksWithin(folder: string): Promise<OwnLink[]> {
  const root = await realpath(folder);
  const found: OwnLink[] = [];
  const folders = [''];
  for (let dir = folders.pop(); dir !== undefined; dir = folders.pop())
    for (const { name, entry } of await entriesOf(folder, dir)) {
      if (entry.isDirectory()) folders.push(name);
      if (!entry.isSymbolicLink()) continue;
      const leads = await realpath(join(folder, name)).catch(() => '');
      if (leads.startsWith(`${root}/`) && parsePath(name).ok)
        found.push({ path: name, to: leads.slice(root.length + 1) });
    }
  return found;
}

async function entriesOf(folder: string, dir: string) {
  const entries = await readdir(join(folder, dir), { withFileTypes: true });
  return entries
    .filter((entry) => !skipped.has(entry.name))
    .map((entry) => ({ entry, name: dir ? `${dir}/${entry.name}` : entry.name }));
}

/** What a site may hold. @throws Refusal where a file is one too many, too large, or makes all too much. */
class Room {
  #files = 0;
  #bytes = 0;

  async take(name: string, file: string): Promise<void> {
    this.#files++;
    if (this.#files > limits.siteFiles.most) throw tooMany();
    const { size } = await stat(file);
    if (size > limits.siteFile.most) throw tooLarge(name);
    this.#bytes += size;
    if (this.#bytes > limits.siteUnpacked.most) throw tooMuch();
  }
}

async function checkFolder(folder: string): Promise<void> {
  if (!isAbsolute(folder))
    throw invalid(
      `Enter the folder's whole path, from the root of this machine. "${folder}" is only part of one.`,
    );
  const found = await stat(folder).catch(() => undefined);
  if (!found)
    throw invalid(`There is no folder at ${folder}. Look for a typing error, or upload a ZIP instead.`);
  if (!found.isDirectory())
    throw invalid(`${folder} is a file. Name the folder that holds it, or upload it if it is a ZIP.`);
  const may = (mode: number) =>
    access(folder, mode).then(
      () => true,
      () => false,
    );
  if (!(await may(constants.R_OK | constants.X_OK)))
    throw invalid(`Green Stall may not read ${folder}. Give its user the right to, or upload a ZIP.`);
  if (!(await may(constants.W_OK)))
    throw invalid(
      `Green Stall may not write in ${folder}, so nothing could be published there. Give its user the right to, or upload a ZIP.`,
    );
}
