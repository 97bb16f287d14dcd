import { mkdir, readFile, readdir, rm, rmdir, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { z } from 'zod';
import { sha256, writeDurably } from '../../data/blobs';

export { sha256 };
import type { Manifest } from '../../data/schema/site';
import { conflict } from '../errors';

/**
 * Publishing into a folder. Each file is replaced atomically; all of them together by a journal: what was there and
 * what is to be there is made safe first, then the journal is written, then the files, and the journal goes last.
 * Cut off anywhere (a crash, a full disk, the power), the journal tells what to do: finish, or put everything back.
 *
 * A file that is neither as it was last known nor as it is wanted was changed by somebody else. It is never touched.
 */
export interface InPlace {
  readonly folder: string;
  /** A folder of its own for the journal, outside the site. */
  readonly journal: string;
  /** Bytes by hash, of `from` and of `to`. Kept by the caller, or put into the journal's own store by {@link stage}. */
  readonly read: (hash: string) => Promise<Uint8Array>;
}

const journalFile = z.object({
  version: z.literal(1),
  folder: z.string(),
  changes: z.array(z.object({ path: z.string(), from: z.string().nullable(), to: z.string().nullable() })),
  /** What the caller needs to finish its own part when it comes back. */
  note: z.unknown(),
});
export type Journal = z.infer<typeof journalFile>;

const FILE = 'journal.json';

/**
 * Brings a folder from one manifest to another. First every file to be touched is compared with what was last known
 * there. The journal stays until {@link forgetJournal}: the caller records what was published in between.
 * @throws Refusal naming the foreign changes; nothing has been written then.
 */
export async function writeInPlace(
  place: InPlace,
  from: Manifest,
  to: Manifest,
  note: unknown = null,
): Promise<void> {
  if (await readJournal(place.journal))
    throw conflict(
      'An earlier publishing was cut off and is not finished yet. Finish it or put it back first.',
    );
  const changes = [...new Set([...Object.keys(from), ...Object.keys(to)])]
    .filter((p) => from[p] !== to[p])
    .map((path) => ({ path, from: from[path] ?? null, to: to[path] ?? null }));
  refuseForeign(
    await foreignIn(place.folder, changes),
    'Nothing was published, so that no work is lost. Read the site again first.',
  );
  await mkdir(place.journal, { recursive: true });
  for (const c of changes) for (const hash of [c.from, c.to]) if (hash) await stage(place, hash);
  const journal: Journal = { version: 1, folder: place.folder, changes, note };
  await writeDurably(join(place.journal, FILE), Buffer.from(JSON.stringify(journal)));
  await carryOut(place, journal, 'to');
}

/** Finishes what a journal began, or puts everything back as it was; done twice, it is done once. @throws Refusal naming foreign changes */
export async function recover(place: InPlace, way: 'finish' | 'undo'): Promise<Journal | undefined> {
  const journal = await readJournal(place.journal);
  if (!journal) {
    await forgetJournal(place.journal);
    return undefined;
  }
  refuseForeign(
    await foreignIn(place.folder, journal.changes),
    `The publishing that was cut off could not be ${way === 'finish' ? 'finished' : 'put back'}: look at ${journal.changes.length === 1 ? 'this file' : 'these files'} and remove or restore what was changed.`,
  );
  await sweepParts(place.folder, journal.changes);
  await carryOut(place, journal, way === 'finish' ? 'to' : 'from');
  return journal;
}

/** The end of a publishing: nothing is left to finish. */
export const forgetJournal = (journal: string): Promise<void> =>
  rm(journal, { recursive: true, force: true });

export async function readJournal(journal: string): Promise<Journal | undefined> {
  const text = await readFile(join(journal, FILE), 'utf8').catch(() => undefined);
  return text === undefined ? undefined : journalFile.parse(JSON.parse(text));
}

/** Journals below a folder, one folder to each. */
export const journalsIn = async (dir: string): Promise<string[]> =>
  (await readdir(dir).catch(() => [])).map((name) => join(dir, name));

type Change = Journal['changes'][number];

async function carryOut(place: InPlace, { changes }: Journal, which: 'from' | 'to'): Promise<void> {
  const wanted = new Set(changes.flatMap((c) => (c[which] ? [c.path] : [])));
  for (const change of changes) {
    const hash = change[which];
    const target = join(place.folder, change.path);
    if ((await hashAt(target)) === hash) continue;
    if (hash) {
      await mkdir(dirname(target), { recursive: true });
      await writeDurably(target, await readFile(join(place.journal, hash)));
    } else {
      await rm(target, { force: true });
      await removeEmpty(place.folder, dirname(change.path), wanted);
    }
  }
}

/** Halves of files that a writing cut off has left beside their targets (writeDurably names them). */
async function sweepParts(folder: string, changes: readonly Change[]): Promise<void> {
  for (const { path } of changes) {
    const target = join(folder, path);
    for (const name of await readdir(dirname(target)).catch(() => [])) {
      if (name.startsWith(`${basename(target)}.`) && /\.[0-9a-f]{8}\.part$/.test(name))
        await rm(join(dirname(target), name), { force: true });
    }
  }
}

/** Files that are neither as they were nor as they shall be. */
async function foreignIn(folder: string, changes: readonly Change[]): Promise<string[]> {
  const foreign: string[] = [];
  for (const c of changes) {
    const found = await hashAt(join(folder, c.path));
    if (found !== c.from && found !== c.to) foreign.push(c.path);
  }
  return foreign;
}

function refuseForeign(foreign: readonly string[], what: string): void {
  if (foreign.length === 0) return;
  const names = `${foreign.slice(0, 3).join(', ')}${foreign.length > 3 ? ` and ${foreign.length - 3} more` : ''}`;
  throw conflict(`${names} changed on the live site since Green Stall read it. ${what}`, { foreign });
}

/** Puts bytes beside the journal, so that finishing and undoing need nothing else. */
async function stage(place: InPlace, hash: string): Promise<void> {
  const target = join(place.journal, hash);
  if (
    await stat(target).then(
      () => true,
      () => false,
    )
  )
    return;
  await writeDurably(target, await place.read(hash));
}

const hashAt = (path: string): Promise<string | null> => readFile(path).then(sha256, () => null);

/** A folder made for a page of ours goes with it, when nothing else is in it. */
async function removeEmpty(root: string, dir: string, wanted: ReadonlySet<string>): Promise<void> {
  if (dir === '.' || [...wanted].some((p) => p.startsWith(`${dir}/`))) return;
  const gone = await rmdir(join(root, dir)).then(
    () => true,
    () => false,
  );
  if (gone) await removeEmpty(root, dirname(dir), wanted);
}
