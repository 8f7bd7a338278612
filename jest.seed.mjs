/** Property tests keep one seed, so that what lands is what was run; `npm run soak` takes new ones. */
import fc from './node_modules/fast-check/lib/cjs/fast-check.js';

fc.configureGlobal({ seed: Number(process.env.NP_SEED ?? 20260202) });

export * from './node_modules/fast-check/lib/cjs/fast-check.js';
export default fc;
