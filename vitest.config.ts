import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.ts', 'standins/**/*.test.ts', 'cli/**/*.test.ts', 'tools/**/*.test.ts'],
    setupFiles: ['tools/test-seed.ts'],
    testTimeout: 60_000,
    pool: 'forks',
    // Machines here have two cores; the usual leaves one idle.
    maxWorkers: 2,
  },
});
