import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { ThreadStart } from '../context';
import { threadLimits } from './thread-limits';
import type { Answer, Ask } from './check-worker';
import type { Helper } from './written-pages';

/** How long a helper is kept that nobody asks anything, in milliseconds: large sites are read whole but once. */
const IDLE_MS = 20_000;

/**
 * A second thread that writes pages while the first does, for sites that have many. It is started when it is first asked, and ended when it
 * has rested. Nothing where there is but one core.
 */
export function helperThread(start: ThreadStart): Helper | undefined {
  if (availableParallelism() < 2) return undefined;
  let worker: Worker | undefined;
  let idle: NodeJS.Timeout | undefined;
  let asked = 0;
  const end = () => {
    void worker?.terminate();
    worker = undefined;
  };
  return (site, paths) =>
    new Promise((resolve, reject) => {
      worker ??= new Worker(fileURLToPath(import.meta.url), {
        workerData: { ...start, isHelper: true },
        resourceLimits: threadLimits,
      });
      const thread = worker;
      const id = ++asked;
      const done = () => {
        thread.off('message', hear);
        thread.off('error', fail);
        clearTimeout(idle);
        idle = setTimeout(end, IDLE_MS).unref();
      };
      const hear = (answer: Answer) => {
        if (answer.id !== id) return;
        done();
        if ('pages' in answer) resolve(answer.pages);
        else reject(new Error('error' in answer ? answer.error : 'the helper did not answer'));
      };
      const fail = (error: Error) => {
        done();
        worker = undefined;
        reject(error);
      };
      thread.on('message', hear);
      thread.on('error', fail);
      thread.postMessage({ id, do: 'pages', site, paths } satisfies Ask);
    });
}
