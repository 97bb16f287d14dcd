import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { type SeenAll, type ShownAll, type StyleTask, StyledReader } from '../../core/site/styled-page';

/**
 * So long style sheets of one site may take, in milliseconds. Those of usual sites take a tenth of a second; a selector can be
 * written that takes for ever.
 */
const PATIENCE_MS = 6_000;
/** Memory of the thread, as that of the checks; beyond it nothing is answered. Chosen by hand. */
const resourceLimits = { maxOldGenerationSizeMb: 1_024 };

const worker = fileURLToPath(new URL('../workers/styles.js', import.meta.url));

/** How blocks of pages stand by their style sheets. */
export const shownInThread: ShownAll = (pages) => patiently(pages.map((of) => ({ ask: 'shown', of })));

/** What is seen of pages by their style sheets. */
export const seenInThread: SeenAll = (pages) => patiently(pages.map((of) => ({ ask: 'seen', of })));

/**
 * Answers from a thread of their own: strangers' sheets hold up nobody, and what takes too much of it stays without an answer. In
 * this thread where the sources run by themselves (tests).
 */
async function patiently<Answer>(tasks: readonly StyleTask[]): Promise<Answer[]> {
  if (!existsSync(worker)) {
    const reader = new StyledReader();
    return tasks.map((task) => reader.answer(task) as Answer);
  }
  const pool = new Piscina({ filename: worker, minThreads: 1, maxThreads: 1, resourceLimits });
  const signal = AbortSignal.timeout(PATIENCE_MS);
  const answers: Answer[] = [];
  try {
    for (const task of tasks) answers.push((await pool.run(task, { signal })) as Answer);
  } catch (error) {
    if (!signal.aborted && !isOutOfMemory(error)) throw error;
  } finally {
    await pool.destroy();
  }
  return answers;
}

const isOutOfMemory = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';
