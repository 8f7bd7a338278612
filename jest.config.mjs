import { availableParallelism } from 'node:os';

// Jest runs every *.test.ts beside the code it is about. SWC only strips types; `tsc -b` checks them.
const esModules = [
  'lezer-feel',
  '@lezer/.*',
  'feelin',
  'min-dash',
  'temporal-polyfill',
  'temporal-utils',
  'temporal-spec',
  '@bpmn-io/.*',
  'luxon',
  'bpmn-moddle',
  'moddle',
  'moddle-xml',
  'saxen',
  'file-type',
  'strtok3',
  'token-types',
  'uint8array-extras',
  '@tokenizer/inflate',
  '@borewit/text-codec',
  '@tanstack/(?:react-table|table-core|react-store|store)',
];
export default {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/{core,contract,server,standins,demo,web,scripts,bench}/**/*.test.{ts,tsx}'],
  moduleFileExtensions: ['ts', 'tsx', 'js', 'mjs', 'json'],
  transform: {
    '\\.(ts|tsx|mjs|js)$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2023',
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: [`/node_modules/(?!(${esModules.join('|')})/)`],
  // D3 is served as ES modules only, under a name that Jest never transforms; its bundled form is the same code.
  moduleNameMapper: {
    '^(d3-[a-z-]+)$': '<rootDir>/node_modules/$1/dist/$1.min.js',
    '^fast-check$': '<rootDir>/jest.seed.mjs',
  },
  modulePathIgnorePatterns: ['<rootDir>/.types', '<rootDir>/.data', '<rootDir>/web/dist'],
  setupFiles: ['<rootDir>/jest.page.mjs'],
  globalSetup: '<rootDir>/jest.setup.mjs',
  globalTeardown: '<rootDir>/jest.teardown.mjs',
  // Half of the tests wait for a database or a page: three workers for two cores.
  maxWorkers: availableParallelism() + 1,
  testTimeout: 120_000,
};
