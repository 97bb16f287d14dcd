import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.ts', 'standins/**/*.test.ts', 'cli/**/*.test.ts', 'tools/**/*.test.ts'],
    testTimeout: 60_000,
    pool: 'forks',
  },
});
