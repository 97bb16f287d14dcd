import { execFile } from 'node:child_process';
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Ctx } from '../services/context';
import { kept, type KeepRule } from '../services/backup/keep';

/** Where backups of each night go, and how many are kept. */
export interface NightlyBackup {
  readonly dir: string;
  /** A file with the pass phrase; without one the secrets are left out. */
  readonly phraseFile: string | undefined;
  readonly keep: KeepRule;
}

/** No earlier than this hour of the night (UTC), and no sooner than so long after the last; chosen by hand. */
const HOUR = 2;
const APART_MS = 20 * 3_600_000;

/** "stall-20261202T031500Z.backup": the moment of it in the basic format of ISO 8601. */
export const backupName = (at: Date): string => `stall-${at.toISOString().replace(/[-:]|\.\d+/g, '')}.backup`;

/** The moment that a name says; nothing for any other file, which is not ours to take away. */
export function momentOf(name: string): Date | undefined {
  const [, y, mo, d, h, mi, s] = /^stall-(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z\.backup$/.exec(name) ?? [];
  const at = new Date(`${y}-${mo}-${d}T${h}:${mi}:${s}Z`);
  return Number.isNaN(at.getTime()) ? undefined : at;
}

/**
 * Makes the backup of the night if it is due, and takes away what the rule does not keep. Called now and then.
 * @param make makes one at that file; throws where it fails: then nothing is taken away
 * @returns the file, where one was made
 */
export async function backUpByNight(
  { now, log }: Pick<Ctx, 'now' | 'log'>,
  nightly: NightlyBackup,
  make: (file: string) => Promise<void>,
): Promise<string | undefined> {
  const at = now();
  const before = await momentsIn(nightly.dir);
  const last = Math.max(0, ...before.map(({ at }) => at.getTime()));
  if (at.getUTCHours() < HOUR || at.getTime() - last < APART_MS) return undefined;
  const file = join(nightly.dir, backupName(at));
  await make(file);
  log.info({ file }, 'the backup of the night is made');
  const there = await momentsIn(nightly.dir);
  const keep = kept(
    there.map((b) => b.at),
    nightly.keep,
  );
  for (const old of there) if (!keep.has(old.at)) await rm(join(nightly.dir, old.name), { force: true });
  return file;
}

async function momentsIn(dir: string): Promise<{ readonly name: string; readonly at: Date }[]> {
  const names = await readdir(dir).catch(() => []);
  return names.flatMap((name) => {
    const at = momentOf(name);
    return at ? [{ name, at }] : [];
  });
}

/** By a program of its own: copying a large database would hold everybody who asks this one. */
export const backUpInProcess =
  (program: string, data: string, phraseFile: string | undefined) =>
  (file: string): Promise<void> =>
    new Promise((done, fail) => {
      const secrets = phraseFile === undefined ? ['--without-secrets'] : ['--phrase-file', phraseFile];
      execFile(process.execPath, [program, 'backup', file, '--data', data, ...secrets], (error, _, told) =>
        error ? fail(new Error(told.trim() || error.message)) : done(),
      );
    });
