import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      'src/**/*.test.ts',
      'bench/**/*.test.ts',
      'standins/**/*.test.ts',
      'cli/**/*.test.ts',
      'tools/**/*.test.ts',
    ],
    setupFiles: ['tools/test-seed.ts'],
    testTimeout: 60_000,
    pool: 'forks',
    // Machines here have two cores; the usual leaves one idle.
    maxWorkers: 2,
    // Each test makes a world of its own; what modules remember is kept by ids that no other test has. Reading them anew for each file would
    // take longer than the tests.
    isolate: false,
  },
});
