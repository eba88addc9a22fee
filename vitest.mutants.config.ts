import { BaseSequencer, type TestSpecification } from 'vitest/node';
import { defineConfig } from 'vitest/config';

const folder = process.env['COFFER_MUTANTS'] ?? '';

/** How many folders a test shares with what is changed. */
function shared(test: string): number {
  const from = test.slice(test.indexOf('/core/src/') + '/core/src/'.length).split('/');
  const other = from.findIndex((part, at) => part !== folder.split('/')[at]);
  return other < 0 ? from.length : other;
}

/** The tests beside what is changed come first: they catch most changes, and the first that fails ends the run. */
class NearFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    return (await super.sort(files)).sort((a, b) => shared(b.moduleId) - shared(a.moduleId));
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
