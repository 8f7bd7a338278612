/**
 * A guest: somebody named in a request who has no account, and fills in sections of the form by a personal link. Whoever
 * holds the step sees where they are, answers them, gives sections back, and finishes the step when all is in.
 */
import { z } from 'zod';
import { Id } from '../../../form/index.ts';

/** A link is good for so many days when nothing is said, and for so many at most. */
export const usualLinkDays = 30;
export const mostLinkDays = 180;

export const Guest = z
  .object({
    /** The field with their name, and the one with the address that the link goes to. */
    name: Id,
    mail: Id,
    /** Sections of the form in the order in which they are filled in. */
    sections: z.array(Id).min(1, 'gives no section to fill in').max(30),
    /** Days for which a link is good. */
    days: z.number().int().min(1).max(mostLinkDays).optional(),
    /** Reminded every so many days while something is missing. */
    remind: z
      .object({ everyDays: z.number().int().min(1).max(30), atMost: z.number().int().min(1).max(20) })
      .strict()
      .optional(),
    /** It goes on by itself once all is in, and waits for nobody to look through it. */
    goesOn: z.literal(true).optional(),
    /** A message of the workflow that comes with the link, instead of the house’s own words. */
    message: Id.optional(),
  })
  .strict();
export type Guest = z.infer<typeof Guest>;
