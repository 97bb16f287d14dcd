import fc from 'fast-check';
import { acts } from './acts';
import { makeTemplate, Stage } from './stage';

export interface ModelRun {
  /** Sequences that were walked. */
  readonly runs: number;
  /** Steps in all of them. */
  readonly steps: number;
  /** What was found first, shrunk to the fewest steps that show it; nothing where the books agree. */
  readonly fault: string | undefined;
  /** The sequence that found it, counted from one. */
  readonly foundAt: number | undefined;
}

/** Most steps of one sequence, where nothing else is asked for. */
const MOST_STEPS = 40;

/** Walks many shoppers and an owner through the till at random; after every step the books are held against the provider's ledger. */
export async function runModel(asked: {
  readonly runs: number;
  readonly most?: number;
  readonly seed?: number;
  /** Looks for the fewest steps that show a fault. */
  readonly shrink?: boolean;
  /** Ends after this long, in milliseconds. */
  readonly within?: number;
}): Promise<ModelRun> {
  const template = await makeTemplate();
  let walked = 0;
  let steps = 0;
  const walk = fc.asyncProperty(
    fc.commands([acts], { size: 'max', maxCommands: asked.most ?? MOST_STEPS }),
    async (sequence) => {
      walked++;
      const stage = await new Stage(template).begin();
      const counted = [...sequence];
      steps += counted.length;
      try {
        await fc.asyncModelRun(() => ({ model: {}, real: stage }), sequence);
      } finally {
        await stage.end();
      }
    },
  );
  try {
    const found = await fc.check(walk, {
      numRuns: asked.runs,
      ...(asked.seed !== undefined && { seed: asked.seed }),
      endOnFailure: !asked.shrink,
      ...(asked.within && { interruptAfterTimeLimit: asked.within }),
    });
    const error = found.errorInstance;
    return {
      runs: found.failed ? found.numRuns : walked,
      steps,
      foundAt: found.failed ? found.numRuns : undefined,
      fault: found.failed
        ? `${error instanceof Error ? error.message : String(error)}\nseed ${found.seed}, path ${found.counterexamplePath}\n${String(found.counterexample)}`
        : undefined,
    };
  } finally {
    await template.end();
  }
}
