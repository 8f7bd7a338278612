import { z } from 'zod';

/** One of the words that are offered; more than a dozen are not listed in what is said. */
export const oneOf = (options: readonly string[]) =>
  z.string().refine(text => options.includes(text), `Choose one of: ${options.slice(0, 12).join(', ')}.`);
