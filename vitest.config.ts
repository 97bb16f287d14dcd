import { defineConfig } from 'vitest/config';

const shared = {
  setupFiles: ['tools/test-seed.ts'],
  testTimeout: 60_000,
  pool: 'forks' as const,
};

export default defineConfig({
  test: {
    // Machines here have two cores; the usual leaves one idle.
    maxWorkers: 2,
    projects: [
      {
        test: {
          ...shared,
          name: 'plain',
          include: ['src', 'bench', 'standins', 'cli', 'tools'].map((dir) => `${dir}/**/*.test.ts`),
          exclude: ['**/*.dom.test.ts', 'tools/recipes.test.ts', '**/node_modules/**'],
          // Each test makes a world of its own; what modules remember is kept by ids that no other test has. Reading them anew for each
          // file would take longer than the tests.
          isolate: false,
        },
      },
      {
        // Asks the compiler, which takes a gigabyte: bin/test runs it by itself, while the types are checked.
        test: { ...shared, name: 'recipes', testTimeout: 180_000, include: ['tools/recipes.test.ts'] },
      },
      {
        test: {
          ...shared,
          name: 'dom',
          setupFiles: [...shared.setupFiles, 'tools/test-kinds.ts'],
          include: ['src/**/*.dom.test.ts', 'src/**/*.dom.test.tsx'],
          environment: 'jsdom',
          // A window of its own to each file: elements are defined once in it.
          isolate: true,
        },
      },
    ],
  },
});
