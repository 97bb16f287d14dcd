import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { text } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { tmpdir } from 'node:os';
import { createGunzip } from 'node:zlib';
import { createClient } from '@libsql/client';
import { extract, type Entry } from 'tar-stream';
import { conflict, invalid, isRefusal, missing } from '../errors';
import { type BackupManifest, blobName, DATABASE, hashOf, MANIFEST, manifestSchema, SECRETS } from './format';
import { unseal } from './seal';

export interface RestoreOptions {
  readonly phrase?: string | undefined;
  /** How many migrations this program knows: a backup of a later one is refused. */
  readonly migrations: number;
  readonly onProgress?: (what: string, done: number, all: number) => void;
}

/** What a look at a backup found, beside that all of it is whole. */
export interface Verified extends BackupManifest {
  /** The secrets were opened with the pass phrase that was given. */
  readonly opened: boolean;
}

/**
 * Puts a backup into an empty data folder: checked first, all of it, then moved there.
 * @throws Refusal where the folder holds data, or the backup is damaged, cut off, or of a later program
 */
export async function restore(file: string, data: string, options: RestoreOptions): Promise<Verified> {
  const target = resolve(data);
  if ((await readdir(target).catch(() => [])).length > 0)
    throw conflict(`${data} is not empty. Name a new folder: a restore never writes over data.`);
  await mkdir(dirname(target), { recursive: true });
  const beside = await mkdtemp(join(dirname(target), '.restore-'));
  try {
    const verified = await unpackTo(beside, file, options);
    await rm(target, { recursive: true, force: true });
    await rename(beside, target);
    return verified;
  } finally {
    await rm(beside, { recursive: true, force: true });
  }
}

/** Reads a backup to its end and checks all of it, database and all; nothing of it is kept. @throws Refusal that says what is wrong */
export async function verify(file: string, options: RestoreOptions): Promise<Verified> {
  const beside = await mkdtemp(join(tmpdir(), 'stall-verify-'));
  try {
    return await unpackTo(beside, file, options);
  } finally {
    await rm(beside, { recursive: true, force: true });
  }
}

async function unpackTo(to: string, file: string, options: RestoreOptions): Promise<Verified> {
  if (!(await stat(file).catch(() => undefined))) throw missing(`There is no file ${file}.`);
  const found = await unpacked(to, file, options).catch((error: unknown) => {
    if (isRefusal(error)) throw error;
    throw invalid(
      `${file} is no backup, or is damaged: it cannot be read to its end (${messageOf(error)}). Take an earlier one.`,
    );
  });
  const { manifest } = found;
  if (!manifest)
    throw invalid(`${file} was cut off: what comes last in a backup is missing. Take an earlier one.`);
  if (found.database?.sha256 !== manifest.database.sha256)
    throw invalid('The database in the backup is damaged. Take an earlier one.');
  if (found.blobs !== manifest.blobs.count)
    throw invalid(`The backup holds ${found.blobs} files of ${manifest.blobs.count}. Take an earlier one.`);
  if (manifest.migrations > options.migrations)
    throw conflict('This backup was made by a later release of Green Stall. Install that, or one after it.');
  await checkDatabase(join(to, DATABASE));
  return { ...manifest, opened: await openSecrets(to, found.secrets, options.phrase) };
}

const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

interface Found {
  manifest?: BackupManifest;
  database?: { sha256: string };
  secrets?: string;
  blobs: number;
}

/** Takes out what a backup may hold, by its name, and nothing else: whatever another name says is not looked at. */
async function unpacked(to: string, file: string, { onProgress = () => {} }: RestoreOptions): Promise<Found> {
  const found: Found = { blobs: 0 };
  const archive = extract();
  const reading = pipeline(createReadStream(file), createGunzip(), archive);
  // Told where its end is awaited.
  reading.catch(() => {});
  for await (const entry of archive) {
    await takeEntry(to, entry, found);
    onProgress('file', found.blobs, found.blobs + 1);
  }
  await reading;
  return found;
}

async function takeEntry(to: string, entry: Entry, found: Found): Promise<void> {
  const { name, type } = entry.header;
  const hash = hashOf(name);
  if (type !== 'file' && type !== 'contiguous-file')
    throw invalid(`The backup holds ${name}, which is no file. It was not made by Green Stall.`);
  if (name === MANIFEST) found.manifest = manifestSchema.parse(JSON.parse(await text(entry)));
  else if (name === SECRETS) found.secrets = await text(entry);
  else if (name === DATABASE) found.database = { sha256: await keep(entry, join(to, DATABASE)) };
  else if (hash !== undefined) await keepBlob(to, entry, hash, found);
  else
    throw invalid(`The backup holds ${name}, which does not belong there. It was not made by Green Stall.`);
}

async function keepBlob(to: string, entry: Entry, hash: string, found: Found): Promise<void> {
  const is = await keep(entry, join(to, blobName(hash)));
  if (is !== hash)
    throw invalid(`The file ${hash.slice(0, 12)} in the backup is damaged. Take an earlier one.`);
  found.blobs++;
}

/** @returns SHA-256 of what was written */
async function keep(entry: Entry, path: string): Promise<string> {
  await mkdir(dirname(path), { recursive: true });
  const hashed = createHash('sha256');
  entry.on('data', (chunk: Uint8Array) => void hashed.update(chunk));
  await pipeline(entry, createWriteStream(path, { flags: 'wx', mode: 0o600 }));
  return hashed.digest('hex');
}

async function checkDatabase(file: string): Promise<void> {
  const client = createClient({ url: `file:${file}` });
  try {
    const { rows } = await client.execute('PRAGMA integrity_check');
    if (rows.length !== 1 || Object.values(rows[0] ?? {})[0] !== 'ok')
      throw invalid('The database in the backup is damaged inside. Take an earlier one.');
  } finally {
    client.close();
  }
}

/** @returns whether the secrets were put back */
async function openSecrets(
  to: string,
  sealed: string | undefined,
  phrase: string | undefined,
): Promise<boolean> {
  if (sealed === undefined || phrase === undefined) return false;
  await writeFile(join(to, 'secrets.json'), await unseal(sealed, phrase), { mode: 0o600 });
  return true;
}
