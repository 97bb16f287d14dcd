import { spawn } from 'node:child_process';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { figure, median, type Measurement } from './support/figure';
import { ask, stop } from './support/installation';

const RUNS = 5;
const PORT = 4920;

/** bin/demo on a machine where all is installed, built and seeded, to the first page that is answered; against Node.js doing nothing. */
export const start: Measurement = async () => {
  const dir = await mkdtemp(join(tmpdir(), 'stall-start-'));
  const times: number[] = [];
  for (let run = 0; run <= RUNS; run++) {
    const began = performance.now();
    const child = spawn('bin/demo', ['--data', join(dir, 'data'), '--port', String(PORT)], {
      stdio: 'ignore',
    });
    for (;;) {
      const answer = await ask(`http://localhost:${PORT}/sign-in`).catch(() => undefined);
      if (answer?.status === 200) break;
      await new Promise((soon) => setTimeout(soon, 20));
    }
    // The first run makes the data and does not count.
    if (run > 0) times.push(performance.now() - began);
    if (run === RUNS) await stop(child, dir);
    else {
      child.kill('SIGTERM');
      await new Promise((soon) => setTimeout(soon, 1200));
    }
  }
  const began = performance.now();
  await new Promise((done) => spawn(process.execPath, ['-e', '0']).on('exit', done));
  const bare = performance.now() - began;
  return [
    figure(
      'bin/demo, warm, to the first page',
      `${(median(times) / 1000).toFixed(2)} s`,
      `node -e 0: ${(bare / 1000).toFixed(2)} s`,
      (median(times) / bare).toFixed(0),
    ),
  ];
};
