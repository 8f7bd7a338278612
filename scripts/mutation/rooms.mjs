/** The rooms whose rules are broken, and the tests that hold them. */
export const rooms = {
  countback: {
    code: ['core/countback/*.ts'],
    tests: ['core/countback/*.test.ts', 'core/workflow/planning/**/*.test.ts'],
  },
  people: {
    code: ['core/people/*.ts'],
    tests: ['core/people/*.test.ts', 'core/access/**/*.test.ts', 'core/workflow/commands/*.test.ts'],
  },
  leave: {
    code: ['core/leave/**/*.ts'],
    tests: ['core/leave/**/*.test.ts', 'core/workflow/commands/leaveRules.test.ts', 'core/consequences/*.test.ts'],
  },
  execution: {
    code: ['core/workflow/execution/*.ts'],
    tests: [
      'core/workflow/commands/*.test.ts',
      'core/workflow/execution/*.test.ts',
      'core/workflow/request/**/*.test.ts',
    ],
  },
  access: { code: ['server/access/index.ts'], tests: ['server/access/rights.test.ts'] },
};
