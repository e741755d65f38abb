/** Mutants of the core: `npm run mutants [-- FILES]`. scripts/mutants.mjs draws the sample; one given by hand is taken as it is. */
export default {
  // All tests once, also beside other work.
  dryRunTimeoutMinutes: 20,
  testRunner: 'jest',
  jest: { projectType: 'custom', configFile: 'jest.mutants.config.mjs', enableFindRelatedTests: true },
  coverageAnalysis: 'perTest',
  // What is worked out once when a file is read would need every test anew for each.
  ignoreStatic: true,
  concurrency: 2,
  timeoutMS: 20_000,
  ignorePatterns: ['.next', '.local', 'dist', 'e2e', 'docs', 'public', 'test-results', 'samples'],
  tempDirName: '.local/mutants',
  reporters: ['clear-text', 'json'],
  jsonReporter: { fileName: 'test-results/mutants.json' },
  clearTextReporter: { allowColor: false, reportTests: false, reportScoreTable: true },
  // Words and working texts are read by people, not by tests; a mutated word is no fault of the sums.
  mutator: { excludedMutations: ['StringLiteral'] },
};
