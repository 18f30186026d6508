// Small mutations of the code, each tried against the tests that run through it:
// npm run mutants -- src/core/deploy/swap.ts
export default {
  testRunner: 'vitest',
  plugins: ['@stryker-mutator/vitest-runner'],
  // Threads are begun by the name of their file: no test says by its imports that it runs through them.
  vitest: { configFile: 'vitest.mutants.config.ts', related: false },
  // Only tests that reach the mutated line are run.
  coverageAnalysis: 'perTest',
  reporters: ['clear-text', 'progress-append-only', 'json'],
  jsonReporter: { fileName: '.satchel/mutants.json' },
  clearTextReporter: { allowColor: false, allowEmojis: false, logTests: false },
  // What is known of code and tests that are as they were is not tried again.
  incremental: true,
  incrementalFile: '.satchel/mutantsBefore.json',
  tempDirName: '.satchel/mutants',
  ignorePatterns: ['.next', '.satchel', 'test-results', 'docs'],
  // Words for the player are looked at by eye, not by mutation.
  mutator: { excludedMutations: ['StringLiteral'] },
  thresholds: { high: 95, low: 85, break: 85 },
  concurrency: 2,
  // A mutation that goes round for ever is waited for.
  timeoutMS: 10_000,
  // All nearby tests once, on a machine that does other work, too.
  dryRunTimeoutMinutes: 30,
};
