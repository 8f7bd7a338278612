/**
 * `npm run mutate`: breaks the rules of a room line by line, and sees which tests notice. Each room has the tests that hold
 * its rules, its own first; NP_ROOM names it.
 */
import { rooms } from './scripts/mutation/rooms.mjs';

const room = rooms[process.env.NP_ROOM ?? 'countback'];

export default {
  // Mocha keeps the tests in one process from mutant to mutant, where Jest would load them anew each time.
  testRunner: 'mocha',
  testRunnerNodeArgs: ['--no-experimental-require-module', '--import', './scripts/mutation/register.mjs'],
  mochaOptions: { spec: room.tests, ui: 'bdd' },
  mutate: [...room.code, '!**/*.test.ts'],
  // Sentences are held by the tests of words; here it is about rules.
  mutator: { excludedMutations: ['StringLiteral'] },
  coverageAnalysis: 'perTest',
  // What is worked out once, when a module is read, would need all of it read anew.
  ignoreStatic: true,
  disableTypeChecks: false,
  // Its rewriting of TypeScript's settings wants an older TypeScript; nothing here is compiled by it.
  tsconfigFile: 'none',
  ignorePatterns: ['/.data', '/.types', '/build', '/web', '/docs', '/e2e', '/demo', '/bench'],
  tempDirName: '.data/stryker',
  timeoutMS: 4_000,
  timeoutFactor: 0.5,
  reporters: ['clear-text', 'json', 'progress-append-only'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false, reportMutants: false },
  jsonReporter: { fileName: `.data/mutation-${process.env.NP_ROOM ?? 'countback'}.json` },
  cleanTempDir: 'always',
  symlinkNodeModules: true,
};
