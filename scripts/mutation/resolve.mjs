/** Tests import from Jest; in a mutation run they stay in one process, which mocha runs over and over. */
const instead = {
  '@jest/globals': new URL('./globals.mjs', import.meta.url).href,
  'fast-check': new URL('./fastCheck.mjs', import.meta.url).href,
};

export const resolve = (name, context, next) =>
  Object.hasOwn(instead, name) && !context.parentURL?.includes('/scripts/mutation/')
    ? { url: instead[name], shortCircuit: true }
    : next(name, context);
