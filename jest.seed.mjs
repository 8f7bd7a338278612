/**
 * Property tests keep one seed and at most so many runs, so that what lands is what was run, and soon. `npm run soak` takes
 * new seeds, and all the runs that a test asks for.
 */
import real from './node_modules/fast-check/lib/cjs/fast-check.js';

const isSoak = process.env.NP_SEED !== undefined;
const mostRuns = 100;

real.configureGlobal({ seed: Number(process.env.NP_SEED ?? 20260202) });

export * from './node_modules/fast-check/lib/cjs/fast-check.js';
export default {
  ...(real.default ?? real),
  assert: (property, parameters = {}) =>
    real.assert(
      property,
      isSoak || parameters.numRuns === undefined
        ? parameters
        : { ...parameters, numRuns: Math.min(parameters.numRuns, mostRuns) },
    ),
};
