import { readFile } from 'node:fs/promises';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { backUp } from '../../src/services/backup/back-up';
import { restore, type Verified, verify } from '../../src/services/backup/restore';
import { type Command, type Input, type Output, UsageError } from '../support/command';

/** Beside the built program. */
const journal = fileURLToPath(new URL('../migrations/meta/_journal.json', import.meta.url));

const phraseHelp =
  'The pass phrase that seals the secrets is read from the file that --phrase-file names (its first line), or from STALL_BACKUP_PHRASE. On the\ncommand line it would be seen by everybody on the machine.';
const options = { data: { type: 'string' }, 'phrase-file': { type: 'string' } } as const;

const dataFolder = ({ flags }: Input): string =>
  resolve(String(flags.data ?? process.env.STALL_DATA ?? 'data'));

async function phraseFrom({ flags }: Input): Promise<string | undefined> {
  const file = flags['phrase-file'];
  if (file === undefined) return process.env.STALL_BACKUP_PHRASE || undefined;
  const text = await readFile(String(file), 'utf8').catch(() => {
    throw new UsageError(`the file ${String(file)} cannot be read`);
  });
  return text.split(/\r?\n/)[0] ?? '';
}

async function knownMigrations(): Promise<number> {
  const { entries } = JSON.parse(await readFile(journal, 'utf8')) as { entries: unknown[] };
  return entries.length;
}

const bytes = (n: number): string => (n >= 1e9 ? `${(n / 1e9).toFixed(1)} GB` : `${(n / 1e6).toFixed(1)} MB`);

export const backup: Command = {
  name: 'backup',
  about: 'Makes a backup of a data folder, while the shop goes on selling.',
  usage: 'backup FILE [--data DIR] [--phrase-file F | --without-secrets]',
  help: `FILE is there whole or not at all, and nothing is written over. It holds the database as it is at one moment, all files, and the\nsecrets, sealed. ${phraseHelp}\n--without-secrets leaves them out: whoever restores has new ones, everybody signs in anew, and links in letters sent before are over.`,
  options: { ...options, 'without-secrets': { type: 'boolean' } },
  needs: ['FILE'],
  async run(input, out) {
    const phrase = input.flags['without-secrets'] ? undefined : await phraseFrom(input);
    if (phrase === undefined && !input.flags['without-secrets'])
      throw new UsageError(
        'name a pass phrase with --phrase-file, or leave the secrets out with --without-secrets',
      );
    const [file = ''] = input.args;
    const made = await backUp(dataFolder(input), resolve(file), { phrase, onProgress: out.progress });
    out.give(made);
    out.say(
      `${file}: the database (${bytes(made.database.bytes)}) and ${made.blobs.count} files (${bytes(made.blobs.bytes)}) as of ${made.at}${made.secrets ? ', with the secrets, sealed' : ', without the secrets'}.`,
    );
    return 0;
  },
};

export const verifyBackup: Command = {
  name: 'verify',
  about: 'Reads a backup to its end and checks all of it.',
  usage: 'verify FILE [--phrase-file F]',
  help: `Nothing is kept, and no data is touched. With the pass phrase it is tried whether that opens the secrets. ${phraseHelp}`,
  options: { 'phrase-file': options['phrase-file'] },
  needs: ['FILE'],
  run: (input, out) =>
    looked(input, out, (file, phrase, migrations) =>
      verify(file, { phrase, migrations, onProgress: out.progress }),
    ),
};

export const restoreBackup: Command = {
  name: 'restore',
  about: 'Puts a backup into a new data folder.',
  usage: 'restore FILE [--data DIR] [--phrase-file F]',
  help: `DIR has to be empty or not to be there. All of the backup is checked before any of it is put there. ${phraseHelp}`,
  options,
  needs: ['FILE'],
  run: (input, out) =>
    looked(input, out, (file, phrase, migrations) =>
      restore(file, dataFolder(input), { phrase, migrations, onProgress: out.progress }),
    ),
};

async function looked(
  input: Input,
  out: Output,
  work: (file: string, phrase: string | undefined, migrations: number) => Promise<Verified>,
): Promise<0 | 1> {
  const [file = ''] = input.args;
  const found = await work(resolve(file), await phraseFrom(input), await knownMigrations());
  out.give(found);
  out.say(`${file}: whole. The database and ${found.blobs.count} files as of ${found.at}.`);
  if (found.secrets && !found.opened) {
    out.warn(
      'The secrets were not opened: no pass phrase was named. Without them everybody signs in anew, and links in letters are over.',
    );
    return 1;
  }
  if (!found.secrets)
    out.warn('It holds no secrets: everybody signs in anew, and links in letters are over.');
  return 0;
}
