import { BaseSequencer, type TestSpecification } from 'vitest/node';
import { defineConfig } from 'vitest/config';

const folder = process.env['COFFER_MUTANTS'] ?? '';

/** The tests beside what is changed come first: they catch most changes, and the first that fails ends the run. */
class NearFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const far = ({ moduleId }: TestSpecification): number =>
      moduleId.includes(`/core/src/${folder}`) ? 0 : 1;
    return (await super.sort(files)).sort((a, b) => far(a) - far(b));
  }
}

/** The core's own tests, with the same random terms each time, so that a change is caught each time or never. */
export default defineConfig({
  test: {
    include: ['core/src/**/*.test.ts'],
    // It reads the sources as text, and a changed copy is written anew.
    exclude: ['core/src/testing/examples.test.ts'],
    setupFiles: ['scripts/fewer-runs.mjs', 'scripts/property-seed.mjs'],
    sequence: { sequencer: NearFirst },
    isolate: false,
    testTimeout: 30_000,
  },
});
