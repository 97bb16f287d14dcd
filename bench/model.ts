import { entryAt } from '../src/core/entries';
import { spawn } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { build, type Plugin } from 'esbuild';
import type { ModelRun } from '../src/services/till/model/run';
import { type Fault, faults } from './model-faults';
import { figure, type Figure, type Measurement } from './support/figure';

const RUNS = 2_000;
/** Walked side by side, each half with a seed of its own: a seed that was never tried finds what others did not. */
const AT_ONCE = 2;

/**
 * The till's model over 2,000 sequences as it is, and with each fault that it once had put back: what is named is how many
 * sequences it took until the fault was found.
 */
export const model: Measurement = async () => {
  const seed = Date.now() % 2 ** 31;
  const whole = await bundle('model', undefined);
  const halves = await Promise.all(
    Array.from({ length: AT_ONCE }, (_, n) => walk(whole, RUNS / AT_ONCE, seed + n)),
  );
  const bad = halves.flatMap((h) => h.fault ?? []);
  const steps = halves.reduce((n, h) => n + h.steps, 0);
  return [
    figure(
      `${RUNS} sequences of shoppers and an owner, ${steps} steps, seed ${seed}`,
      bad.length === 0 ? 'the books agree' : bad.join(' '),
      '',
      '',
      'after every step',
    ),
    ...(await inTurns(faults, AT_ONCE, (fault, n) => findFault(fault, n))),
  ];
};

async function findFault(fault: Fault, n: number): Promise<Figure> {
  const { foundAt, fault: found } = await walk(await bundle(`fault-${n}`, fault), RUNS, 1 + n);
  process.stderr.write(`  ${foundAt === undefined ? 'NOT FOUND' : `found by ${foundAt}`}: ${fault.what}\n`);
  return figure(
    `put back: ${fault.what}`,
    foundAt === undefined ? 'NOT FOUND' : `found by sequence ${foundAt}`,
    '',
    // The first sentence says what was found; the steps to it are long.
    found?.split('\n')[0]?.slice(0, 90) ?? '',
    `within ${RUNS}`,
  );
}

async function inTurns<T, R>(
  all: readonly T[],
  atOnce: number,
  work: (one: T, n: number) => Promise<R>,
): Promise<R[]> {
  const out: R[] = [];
  let next = 0;
  const worker = async () => {
    for (let n = next++; n < all.length; n = next++) out[n] = await work(entryAt(all, n), n);
  };
  await Promise.all(Array.from({ length: atOnce }, worker));
  return out;
}

/** The model as one file, with a fault put back into its source. @throws when the text of the fault is not there just once. */
async function bundle(name: string, fault: Fault | undefined): Promise<string> {
  const outfile = resolve('dist/bench', `${name}.js`);
  const patched = fault && resolve(fault.file);
  const plugin: Plugin = {
    name: 'fault',
    setup(b) {
      b.onLoad({ filter: /\.ts$/ }, async ({ path }) => {
        if (!fault || path !== patched) return undefined;
        const source = await readFile(path, 'utf8');
        if (source.split(fault.from).length !== 2)
          throw new Error(
            `${fault.what}: its text stands ${source.split(fault.from).length - 1} times in ${fault.file}`,
          );
        return { contents: source.replace(fault.from, () => fault.to), loader: 'ts' };
      });
    },
  };
  await build({
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    logLevel: 'error',
    entryPoints: [join('bench', 'model-child.ts')],
    outfile,
    plugins: [plugin],
  });
  return outfile;
}

function walk(file: string, runs: number, seed: number): Promise<ModelRun> {
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [file, String(runs), String(seed)], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let out = '';
    child.stdout.on('data', (chunk: Buffer) => {
      out += chunk;
    });
    child.on('close', (code) => {
      try {
        done(JSON.parse(out) as ModelRun);
      } catch {
        failed(new Error(`the model ended with ${code} and said nothing`));
      }
    });
  });
}
