import { defineConfig } from 'vitest/config';

/** The core's own tests, with the same random terms each time, so that a change is caught each time or never. */
export default defineConfig({
  test: {
    include: ['core/src/**/*.test.ts'],
    // It reads the sources as text, and a changed copy is written anew.
    exclude: ['core/src/testing/examples.test.ts'],
    setupFiles: ['scripts/property-seed.mjs'],
    testTimeout: 30_000,
  },
});
