import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'unit',
          // What a file imports stays for the next: reading it anew for each costs as much as the tests.
          isolate: false,
          testTimeout: 30_000,
          globalSetup: ['cli/src/testing/built.ts'],
          setupFiles: ['scripts/property-seed.mjs'],
          include: [
            'core/src/**/*.test.ts',
            'contract/src/**/*.test.ts',
            'cli/src/**/*.test.ts',
            'web/src/**/*.test.ts',
          ],
          // Components are drawn by the builder that compiles them.
          exclude: ['**/*.dom.test.ts'],
        },
      },
      {
        test: {
          name: 'server',
          isolate: false,
          include: ['server/src/**/*.test.ts'],
          exclude: ['server/src/**/*.alone.test.ts'],
          globalSetup: ['server/src/testing/templates.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      {
        test: {
          // What others are kept waiting: nothing else runs meanwhile.
          name: 'alone',
          include: ['server/src/**/*.alone.test.ts'],
          fileParallelism: false,
          globalSetup: ['server/src/testing/templates.ts'],
          testTimeout: 300_000,
          hookTimeout: 60_000,
        },
      },
    ],
  },
});
