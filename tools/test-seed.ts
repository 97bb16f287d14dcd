import fc from 'fast-check';

/**
 * Properties are tried with the same cases in every run, so that a red run means a change and not luck.
 * `SEED=<number>` tries others: worth doing now and then, and before a law is believed.
 */
fc.configureGlobal({ seed: Number(process.env.SEED) || 20261126 });
