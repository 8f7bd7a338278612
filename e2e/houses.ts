/**
 * Which browser tests run in which house. Those of one house run in the order of their names: what moves the clock comes
 * last. A file that stands in no house stops the run.
 */
export const houses = {
  harbour: {
    port: 8431,
    tests: [
      'access',
      'applications',
      'begin',
      'designer',
      'desk',
      'directory',
      'faults',
      'floors',
      'house',
      'movingIn',
      'openPosts',
      'travel',
      'zv-leave',
      'zz-clock',
      'zz-grants',
      'zz-wishes',
    ],
  },
  station: {
    port: 8432,
    tests: ['guests', 'plans', 'records', 'reviews', 'sheet', 'story', 'zw-running', 'zy-changes', 'zz-days'],
  },
} as const;
export type HouseName = keyof typeof houses;

/** Where a house keeps its data, from the root of the project. */
export const houseFolder = (name: HouseName): string => `.data/e2e-${name}`;
