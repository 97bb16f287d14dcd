import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, readFile, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Bytes by their SHA-256. What is stored is never changed; equal files are stored once. */
export interface BlobStore {
  readonly put: (bytes: Uint8Array) => Promise<string>;
  /** As put, and tells whether the bytes were not here before: who fails later can take back what only they brought. */
  readonly putNew: (bytes: Uint8Array) => Promise<{ hash: string; isNew: boolean }>;
  /** Takes in bytes as they come, so that a large file is never in memory. @throws TooLarge, having kept nothing. */
  readonly putStream: (
    bytes: AsyncIterable<Uint8Array>,
    most: number,
  ) => Promise<{ hash: string; size: number }>;
  readonly remove: (hash: string) => Promise<void>;
  /** @throws when the blob is not there: a manifest names only what was put. */
  readonly get: (hash: string) => Promise<Buffer>;
  /** Where a blob lies on this machine, for threads that read it themselves. */
  readonly fileOf: (hash: string) => string;
}

/** More bytes came than are taken. */
export class TooLarge extends Error {
  override name = 'TooLarge';
}

export function folderBlobs(root: string): BlobStore {
  const place = (hash: string) => join(root, hash.slice(0, 2), hash);
  const putNew = async (bytes: Uint8Array) => {
    const hash = sha256(bytes);
    const path = place(hash);
    if (await exists(path)) return { hash, isNew: false };
    await mkdir(dirname(path), { recursive: true });
    await writeDurably(path, bytes);
    return { hash, isNew: true };
  };
  const putStream = async (bytes: AsyncIterable<Uint8Array>, most: number) => {
    await mkdir(root, { recursive: true });
    const beside = join(root, `${randomUUID()}.part`);
    const hashed = createHash('sha256');
    let size = 0;
    const file = await open(beside, 'wx');
    try {
      for await (const chunk of bytes) {
        size += chunk.length;
        if (size > most) throw new TooLarge();
        hashed.update(chunk);
        await file.writeFile(chunk);
      }
      await file.sync();
      await file.close();
      const hash = hashed.digest('hex');
      await mkdir(dirname(place(hash)), { recursive: true });
      await rename(beside, place(hash));
      return { hash, size };
    } catch (error) {
      await file.close().catch(() => {});
      await rm(beside, { force: true });
      throw error;
    }
  };
  return {
    putNew,
    putStream,
    put: async (bytes) => (await putNew(bytes)).hash,
    fileOf: place,
    remove: (hash) => rm(place(hash), { force: true }),
    async get(hash) {
      if (!/^[0-9a-f]{64}$/.test(hash)) throw new RangeError('not a SHA-256');
      return readFile(place(hash));
    },
  };
}

/** Writes beside the target, syncs, renames: after a crash there is the old file or the new one, never half of one. */
export async function writeDurably(path: string, bytes: Uint8Array): Promise<void> {
  const beside = `${path}.${randomUUID().slice(0, 8)}.part`;
  const mode = await stat(path).then(
    (s) => s.mode & 0o777,
    () => undefined,
  );
  const file = await open(beside, 'w', mode);
  try {
    await file.writeFile(bytes);
    await file.sync();
  } finally {
    await file.close();
  }
  await rename(beside, path);
}

const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );
