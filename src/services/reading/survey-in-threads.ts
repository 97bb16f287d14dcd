import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { PagePath } from '../../core/site/paths';
import type { SurveyAll } from '../../core/site/read-site';
import type { Surveyed } from '../../core/site/survey-file';
import type { SurveyTask } from './survey-worker';

/** Pages a thread takes at a time: few enough that progress moves, many enough that handing over costs nothing. */
const BATCH = 24;
/** Sites smaller than this are read sooner than threads start. */
const FEW = 60;

/** The built worker beside whichever program this is; there is none when the sources run by themselves (tests). */
const worker = fileURLToPath(new URL('../workers/survey.js', import.meta.url));

/**
 * A way to read pages on all cores: each thread reads its files itself, so nothing but what was found travels back.
 * Nothing where threads would not help; the site is then read in this one.
 */
export function surveyInThreads(
  pages: number,
  fileOf: ((path: PagePath) => string) | undefined,
): SurveyAll | undefined {
  if (!fileOf || pages < FEW || availableParallelism() < 2 || !existsSync(worker)) return undefined;
  return async (paths, files, onPage) => {
    const pool = new Piscina({
      filename: worker,
      minThreads: availableParallelism(),
      maxThreads: availableParallelism(),
      workerData: { paths: files.paths },
      concurrentTasksPerWorker: 1,
    });
    try {
      const out: Surveyed[][] = [];
      const batches = Array.from({ length: Math.ceil(paths.length / BATCH) }, (_, n) =>
        paths.slice(n * BATCH, (n + 1) * BATCH),
      );
      let done = 0;
      await Promise.all(
        batches.map(async (batch, n) => {
          const task: SurveyTask = { pages: batch.map((path) => [path, fileOf(path)] as const) };
          out[n] = (await pool.run(task)) as Surveyed[];
          done += batch.length;
          await onPage(done, paths.length);
        }),
      );
      return out.flat();
    } finally {
      await pool.destroy();
    }
  };
}
