// Mutation testing of the core, a folder at a time: ./coffer hunt --mutants [FOLDER].
const folder = process.env['COFFER_MUTANTS'] ?? '';
const below = folder === '' ? '' : `${folder}/`;

/** @type {import('@stryker-mutator/api/core').PartialStrykerOptions} */
export default {
  testRunner: 'vitest',
  vitest: { configFile: 'vitest.mutants.config.ts' },
  mutate: [`core/src/${below}**/*.ts`, '!**/*.test.ts', '!core/src/testing/**', '!core/src/index.ts'],
  ignorePatterns: ['dist', 'demo', 'docs', 'web', 'server', 'e2e', 'bench', 'cli', '.coffer'],
  // Words of explanations are read by people, and not worth a test a word.
  mutator: { excludedMutations: ['StringLiteral'] },
  // What runs once as the program starts would have to be started anew for each change.
  ignoreStatic: true,
  coverageAnalysis: 'perTest',
  incremental: true,
  incrementalFile: `.coffer/mutants/${folder === '' ? 'core' : folder.replaceAll('/', '-')}.json`,
  tempDirName: '.coffer/mutants/work',
  reporters: ['clear-text', 'progress-append-only'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  concurrency: 2,
  timeoutMS: 4_000,
  disableTypeChecks: false,
};
