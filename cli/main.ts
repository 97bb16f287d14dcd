import { messageOf } from '../src/core/result';
import { isRefusal } from '../src/services/errors';
import { backup, restoreBackup, verifyBackup } from './commands/backup';
import { check } from './commands/check';
import { look } from './commands/look';
import { menu } from './commands/menu';
import { newPassword } from './commands/new-password';
import { pitches } from './commands/pitches';
import { place } from './commands/place';
import { price } from './commands/price';
import { read } from './commands/read';
import { reanchor } from './commands/reanchor';
import { recover } from './commands/recover';
import { shopPages } from './commands/shop-pages';
import { strip } from './commands/strip';
import { schema, widgets } from './commands/widgets';
import { type Command, makeOutput, printable, readInput, type Status, UsageError } from './support/command';

const commands: readonly Command[] = [
  read,
  pitches,
  place,
  strip,
  reanchor,
  menu,
  look,
  check,
  shopPages,
  recover,
  widgets,
  schema,
  price,
  newPassword,
  backup,
  restoreBackup,
  verifyBackup,
];

const overview = `Usage: bin/stall COMMAND … [--json]

${commands.map((c) => `  ${c.name.padEnd(11)} ${c.about}`).join('\n')}

bin/stall COMMAND --help tells more of each. With --json, standard output is one JSON document.
Exit status: 0 done; 1 done, and something needs your word; 2 not understood; 3 refused. docs/cli.md has examples.
`;

async function main([name, ...argv]: readonly string[]): Promise<Status> {
  if (!name || name === '--help' || name === '-h' || name === 'help') {
    process.stdout.write(overview);
    return name ? 0 : 2;
  }
  const command = commands.find((c) => c.name === name);
  if (!command)
    throw new UsageError(
      `there is no command "${name}". There are: ${commands.map((c) => c.name).join(', ')}`,
    );
  try {
    const input = readInput(command, argv);
    if (input.help) {
      process.stdout.write(
        `Usage: bin/stall ${command.usage} [--json]\n\n${command.about}\n${command.help}\n`,
      );
      return 0;
    }
    return await command.run(input, makeOutput(input.json));
  } catch (error) {
    if (error instanceof UsageError)
      throw new UsageError(`${error.message}. Usage: bin/stall ${command.usage}`);
    throw error;
  }
}

const whole = (error: unknown): string => (error instanceof Error && error.stack) || String(error);

// A reader that has seen enough (| head) is no error.
process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 3));
main(process.argv.slice(2)).then(
  (status) => {
    process.exitCode = status;
  },
  (error: unknown) => {
    const expected = error instanceof UsageError || isRefusal(error);
    const says = expected ? messageOf(error) : `this should not have happened: ${whole(error)}`;
    process.stderr.write(`stall: ${expected ? printable(says) : says}\n`);
    process.exitCode = error instanceof UsageError ? 2 : 3;
  },
);
