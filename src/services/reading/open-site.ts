import { open, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { PagePath } from '../../core/site/paths';
import type { SiteFiles } from '../../core/site/read-site';
import { sha256 } from '../../data/blobs';
import { invalid } from '../errors';
import { reachOf } from '../outside/reach';
import { type LiveReading, readLive } from './live/read-live';
import { walkFolder } from './read-folder';
import { readZip } from './read-zip';

/** The files of a site before they are in any store: in a folder, or unpacked from a ZIP into memory. */
export interface OpenSite extends SiteFiles {
  /** Sentences for the owner about what was left alone. */
  readonly notes: readonly string[];
  /** Where each file lies on this machine; nothing for a ZIP. */
  readonly fileOf?: (path: PagePath) => string;
  /** Hash of each file when it was last read: what is written over must still be that. */
  readonly seen: ReadonlyMap<PagePath, string>;
  /** What the server of a live site said of it. */
  readonly live?: Omit<LiveReading, 'notes'>;
}

/**
 * Opens a folder or a ZIP, and reads no file yet; of a live address all files are fetched.
 * @throws Refusal when it is none of them, or breaks a limit
 */
export async function openSite(name: string): Promise<OpenSite> {
  if (/^https?:\/\//i.test(name)) return openLive(name);
  const found = await stat(name).catch(() => undefined);
  if (!found) throw invalid(`There is nothing at ${name}. Name the site's folder, or a ZIP of it.`);
  return found.isDirectory() ? openFolder(name) : openZip(await readFile(name));
}

async function openFolder(root: string): Promise<OpenSite> {
  const files = new Map<PagePath, string>();
  const notes = await walkFolder(root, async (path, file) => void files.set(path, file));
  const fileOf = (path: PagePath): string => files.get(path) ?? join(root, path);
  const seen = new Map<PagePath, string>();
  const read = async (path: PagePath) => {
    const bytes = await readFile(fileOf(path));
    seen.set(path, sha256(bytes));
    return bytes;
  };
  return {
    paths: [...files.keys()],
    notes,
    fileOf,
    seen,
    read,
    head: (path, bytes) => readHead(fileOf(path), bytes),
  };
}

/** The site at an address, whole in memory: whoever names it at a command line may ask every machine that it names. */
async function openLive(address: string): Promise<OpenSite> {
  const files = new Map<PagePath, Buffer>();
  const { notes, ...live } = await readLive(
    reachOf(() => true),
    address,
    { onFile: async (path, bytes) => void files.set(path, bytes) },
  );
  return {
    paths: [...files.keys()],
    notes,
    seen: new Map(),
    live,
    read: async (path) => files.get(path) ?? Buffer.alloc(0),
  };
}

async function openZip(bytes: Buffer): Promise<OpenSite> {
  const files = new Map<PagePath, Buffer>();
  await readZip(bytes, async (path, content) => void files.set(path, content));
  return {
    paths: [...files.keys()],
    notes: [],
    seen: new Map(),
    read: async (path) => files.get(path) ?? Buffer.alloc(0),
  };
}

export async function readHead(file: string, bytes: number): Promise<Uint8Array> {
  const handle = await open(file);
  try {
    const head = Buffer.alloc(bytes);
    const { bytesRead } = await handle.read(head, 0, bytes, 0);
    return head.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}
