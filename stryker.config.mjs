/** `npm run mutate`: breaks the rules of leave, people, counting back, execution and access line by line, and sees which tests notice. */
export default {
  // Mocha keeps the tests in one process from mutant to mutant, where Jest would load them anew each time.
  testRunner: 'mocha',
  testRunnerNodeArgs: ['--no-experimental-require-module', '--import', './scripts/mutation/register.mjs'],
  mochaOptions: { spec: ['core/{access,consequences,countback,facts,leave,people,proof,time}/**/*.test.ts', 'core/workflow/**/*.test.ts', 'core/testing/**/*.test.ts'], ignore: ['core/workflow/{language,drafting,mail,plain}/**'], ui: 'bdd' },
  mutate: [
    'core/{leave,people,countback}/**/*.ts',
    'core/workflow/execution/**/*.ts',
    'server/access/**/*.ts',
    '!**/*.test.ts',
    '!**/index.ts',
    'server/access/index.ts',
  ],
  // Sentences are held by the tests of words; here it is about rules.
  mutator: { excludedMutations: ['StringLiteral'] },
  coverageAnalysis: 'perTest',
  ignoreStatic: true,
  disableTypeChecks: false,
  // Its rewriting of TypeScript's settings wants an older TypeScript; nothing here is compiled by it.
  tsconfigFile: 'none',
  ignorePatterns: ['/.data', '/.types', '/build', '/web/dist', '/docs', '/e2e', '/reports', '/test-results'],
  tempDirName: '.data/stryker',
  concurrency: 2,
  timeoutMS: 8_000,
  timeoutFactor: 0.3,
  reporters: ['clear-text', 'json', 'progress-append-only'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false, reportMutants: false },
  jsonReporter: { fileName: '.data/mutation.json' },
  incremental: true,
  incrementalFile: '.data/mutation-incremental.json',
  cleanTempDir: 'always',
  symlinkNodeModules: true,
};
