import { mkdir, readFile, rm, rmdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { type BlobStore, sha256, writeDurably } from '../../data/blobs';
import type { Manifest } from '../../data/schema/site';
import { conflict } from '../errors';

/**
 * Brings a folder from one manifest to another, file by file, each atomically. First every file to be touched is
 * compared with what was last known there: a foreign change is never overwritten. A file that already is as wanted
 * is left (so a publishing that was cut off can simply be repeated).
 * @throws Refusal naming the foreign changes; nothing has been written then.
 */
export async function writeInPlace(blobs: BlobStore, folder: string, from: Manifest, to: Manifest): Promise<void> {
  const paths = [...new Set([...Object.keys(from), ...Object.keys(to)])].filter((p) => from[p] !== to[p]);
  const todo: string[] = [];
  const foreign: string[] = [];
  for (const path of paths) {
    const found = await hashAt(join(folder, path));
    if (found === to[path]) continue;
    if (found !== from[path]) foreign.push(path);
    todo.push(path);
  }
  if (foreign.length > 0) {
    throw conflict(
      `${foreign.slice(0, 3).join(', ')}${foreign.length > 3 ? ` and ${foreign.length - 3} more` : ''} changed on the live site since Green Stall read it. Nothing was published, so that no work is lost. Read the site again first.`,
      { foreign },
    );
  }
  for (const path of todo) {
    const target = join(folder, path);
    const hash = to[path];
    if (hash) {
      await mkdir(dirname(target), { recursive: true });
      await writeDurably(target, await blobs.get(hash));
    } else {
      await rm(target);
      await removeEmpty(folder, dirname(path), to);
    }
  }
}

const hashAt = (path: string): Promise<string | undefined> => readFile(path).then(sha256, () => undefined);

/** A folder made for a page of ours goes with it, when nothing else is in it. */
async function removeEmpty(root: string, dir: string, to: Manifest): Promise<void> {
  if (dir === '.' || Object.keys(to).some((p) => p.startsWith(`${dir}/`))) return;
  await rmdir(join(root, dir)).catch(() => {});
}
