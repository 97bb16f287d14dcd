import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { copyFile, link, mkdir, mkdtemp, open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { createClient } from '@libsql/client';
import { pack, type Pack } from 'tar-stream';
import { conflict, missing } from '../errors';
import { type BackupManifest, blobName, DATABASE, FORMAT, hashOf, MANIFEST, SECRETS } from './format';
import { seal } from './seal';

export interface BackupOptions {
  /** Seals the secrets; without one they are left out, and whoever restores signs in anew. */
  readonly phrase?: string | undefined;
  readonly now?: () => Date;
  readonly onProgress?: (what: string, done: number, all: number) => void;
}

/**
 * Makes a backup of a data folder while the shop goes on selling: the database as it is at one moment (a copy by SQLite itself, which
 * reads beside whoever writes), and all files that it may refer to. The file is there whole or not at all.
 * @throws Refusal where there is no data, or the file is there already
 */
export async function backUp(
  data: string,
  file: string,
  options: BackupOptions = {},
): Promise<BackupManifest> {
  const { phrase, now = () => new Date(), onProgress = () => {} } = options;
  const source = join(data, DATABASE);
  if (!(await isThere(source)))
    throw missing(`There is no ${DATABASE} in ${data}. Name the data folder with --data DIR.`);
  if (await isThere(file))
    throw conflict(`${file} is there already. Name another file: a backup never writes over one.`);
  await mkdir(dirname(resolve(file)), { recursive: true });
  // Within the data folder: files are linked there, which takes no room, and no time.
  const beside = await mkdtemp(join(data, 'backup-'));
  const part = `${file}.part`;
  try {
    const at = now();
    // Files first, then the database, then files that came meanwhile: nothing it refers to can be missing, whatever is taken away beside.
    await linkBlobs(join(data, 'blobs'), join(beside, 'blobs'));
    await copyDatabase(source, join(beside, DATABASE));
    await linkBlobs(join(data, 'blobs'), join(beside, 'blobs'));
    const secrets =
      phrase === undefined ? undefined : await seal(await readFile(join(data, 'secrets.json')), phrase);
    const manifest = await writeArchive(beside, part, { at, secrets, onProgress });
    await rename(part, file);
    return manifest;
  } finally {
    await rm(beside, { recursive: true, force: true });
    await rm(part, { force: true });
  }
}

const isThere = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );

/** SQLite writes a whole new database of one moment (VACUUM INTO, sqlite.org/lang_vacuum.html), while others write. */
async function copyDatabase(from: string, to: string): Promise<void> {
  const client = createClient({ url: `file:${from}`, timeout: 30_000 });
  try {
    await client.execute({ sql: 'VACUUM INTO ?', args: [to] });
  } finally {
    client.close();
  }
}

async function blobsIn(root: string): Promise<string[]> {
  const folders = await readdir(root).catch(() => []);
  const files = await Promise.all(
    folders
      .filter((f) => /^[0-9a-f]{2}$/.test(f))
      .map(async (f) => (await readdir(join(root, f))).map((name) => `${f}/${name}`)),
  );
  return files.flat().filter((name) => hashOf(`blobs/${name}`) !== undefined);
}

async function linkBlobs(from: string, to: string): Promise<void> {
  for (const name of await blobsIn(from)) {
    const target = join(to, name);
    if (await isThere(target)) continue;
    await mkdir(dirname(target), { recursive: true });
    await link(join(from, name), target).catch(async (error: NodeJS.ErrnoException) => {
      // Taken away since it was listed: nothing refers to it any more.
      if (error.code === 'ENOENT') return;
      // A file system without links.
      await copyFile(join(from, name), target);
    });
  }
}

interface Archive {
  readonly at: Date;
  readonly secrets: string | undefined;
  readonly onProgress: NonNullable<BackupOptions['onProgress']>;
}

async function writeArchive(
  from: string,
  to: string,
  { at, secrets, onProgress }: Archive,
): Promise<BackupManifest> {
  const archive = pack();
  const out = createWriteStream(to, { flags: 'wx', mode: 0o600 });
  // Pictures and films are packed already: the lowest level takes a third of the time.
  const written = pipeline(archive, createGzip({ level: 1 }), out);
  const fill = async (): Promise<BackupManifest> => {
    const database = await addFile(archive, DATABASE, join(from, DATABASE));
    if (secrets !== undefined) archive.entry({ name: SECRETS, mode: 0o600 }, secrets);
    const names = await blobsIn(join(from, 'blobs'));
    let bytes = 0;
    for (const [n, name] of names.entries()) {
      const added = await addFile(archive, blobName(name.slice(3)), join(from, 'blobs', name));
      bytes += added.bytes;
      onProgress('file', n + 1, names.length);
    }
    const manifest: BackupManifest = {
      format: FORMAT,
      at: at.toISOString(),
      migrations: await migrationsIn(join(from, DATABASE)),
      database,
      blobs: { count: names.length, bytes },
      secrets: secrets !== undefined,
    };
    archive.entry({ name: MANIFEST }, JSON.stringify(manifest, null, 2));
    archive.finalize();
    return manifest;
  };
  const [manifest] = await Promise.all([
    fill().catch((error: unknown) => {
      archive.destroy(error instanceof Error ? error : new Error(String(error)));
      throw error;
    }),
    written,
  ]);
  await sync(to);
  return manifest;
}

async function addFile(
  archive: Pack,
  name: string,
  file: string,
): Promise<{ sha256: string; bytes: number }> {
  const { size } = await stat(file);
  const hashed = createHash('sha256');
  const entry = archive.entry({ name, size, mode: 0o600 });
  const source = createReadStream(file);
  source.on('data', (chunk) => void hashed.update(chunk));
  await pipeline(source, entry);
  return { sha256: hashed.digest('hex'), bytes: size };
}

export async function migrationsIn(database: string): Promise<number> {
  const client = createClient({ url: `file:${database}` });
  try {
    const { rows } = await client.execute('SELECT count(*) AS n FROM __drizzle_migrations');
    return Number(rows[0]?.n ?? 0);
  } finally {
    client.close();
  }
}

async function sync(file: string): Promise<void> {
  const handle = await open(file, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}
