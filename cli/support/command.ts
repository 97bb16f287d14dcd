import { parseArgs, type ParseArgsConfig } from 'node:util';

/** A verb of the command line: its own help, its options, and what it does. Exit status is what `run` returns. */
export interface Command {
  readonly name: string;
  /** One line for the list of commands. */
  readonly about: string;
  /** Below the usage line. */
  readonly help: string;
  readonly usage: string;
  readonly options: NonNullable<ParseArgsConfig['options']>;
  /** Names of the arguments that must be there, and those that may. */
  readonly needs: readonly string[];
  readonly may?: readonly string[];
  readonly run: (input: Input, out: Output) => Promise<Status>;
}

/** 0: done. 1: done, and something needs the owner's word (a placement lost, a fence half there). 2: not understood. 3: refused. */
export type Status = 0 | 1 | 2 | 3;

export interface Input {
  readonly args: readonly string[];
  readonly flags: Readonly<Record<string, string | boolean | undefined>>;
}

export interface Output {
  /** For people on standard output; nothing with --json. */
  readonly say: (line: string) => void;
  /** For programs: one JSON document on standard output, with --json only. */
  readonly give: (data: unknown) => void;
  /** For people on standard error: what is wrong, or needs a look. */
  readonly warn: (line: string) => void;
  readonly progress: (what: string, done: number, all: number) => void;
}

/** What was typed cannot be understood. */
export class UsageError extends Error {
  override name = 'UsageError';
}

export function readInput(
  command: Command,
  argv: readonly string[],
): Input & { json: boolean; help: boolean } {
  const parsed = parse(command, argv);
  const args = parsed.positionals;
  const help = parsed.values.help === true;
  const most = command.needs.length + (command.may?.length ?? 0);
  if (!help && args.length < command.needs.length)
    throw new UsageError(`${command.needs[args.length]} is missing`);
  if (!help && args.length > most) throw new UsageError(`"${args[most]}" is one argument too many`);
  return { args, flags: parsed.values as Input['flags'], json: parsed.values.json === true, help };
}

function parse(command: Command, argv: readonly string[]) {
  try {
    return parseArgs({
      args: [...argv],
      allowPositionals: true,
      options: { ...command.options, json: { type: 'boolean' }, help: { type: 'boolean', short: 'h' } },
    });
  } catch (error) {
    throw new UsageError(error instanceof Error ? (error.message.split('. ')[0] ?? '') : String(error));
  }
}

/**
 * A line as a terminal may print it: names and texts come from pages of strangers, and what tells a terminal to do things (ECMA-48 control
 * functions) or turns the direction of writing is shown as a sign.
 */
export const printable = (line: string): string =>
  line.replace(/[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]/g, '\ufffd');

/** Writes to a terminal, or to a pipe: the bar of progress is for eyes only. */
export function makeOutput(json: boolean): Output {
  const bar = process.stderr.isTTY === true;
  let last = 0;
  return {
    say: (line) => void (json || process.stdout.write(`${printable(line)}\n`)),
    give: (data) => void (json && process.stdout.write(`${JSON.stringify(data, null, 2)}\n`)),
    warn: (line) => void process.stderr.write(`${bar ? '\r\x1b[K' : ''}${printable(line)}\n`),
    progress(what, done, all) {
      if (!bar) return;
      const now = Date.now();
      if (done >= all) process.stderr.write('\r\x1b[K');
      else if (now - last > 100) {
        last = now;
        process.stderr.write(`\r\x1b[K${what} ${done} of ${all}`);
      }
    },
  };
}
