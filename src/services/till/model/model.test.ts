import { expect, it } from 'vitest';
import { runModel } from './run';

/** MODEL_RUNS and SEED walk more of them, or the same ones again. */
const runs = Number(process.env.MODEL_RUNS ?? 100);
const seed = process.env.SEED ? Number(process.env.SEED) : undefined;

it('many shoppers and an owner at random: after every step the books agree', {
  timeout: 600_000,
}, async () => {
  const { fault, steps } = await runModel({ runs, shrink: true, ...(seed !== undefined && { seed }) });
  expect(fault).toBeUndefined();
  expect(steps).toBeGreaterThan(runs * 5);
});
