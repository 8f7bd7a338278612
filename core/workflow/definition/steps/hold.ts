/** Hold: waits until a date, for working time, for a document, or for other requests. */
import { z } from 'zod';
import { Formula, Id } from '../../../form/index.ts';
import { WorkingAmount } from '../../../time/index.ts';
import { noLeads, type Shape, when } from './parts.ts';

/** A time of day at the place of the person, as in `17:00`; the beginning of the day when nothing is said. */
const at = z
  .string()
  .regex(/^(?:[01]\d|2[0-3]):[0-5]\d$/, 'is no time of day, as in 17:00')
  .optional();

export const Until = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('date'), formula: Formula, at }),
  z.object({ kind: z.literal('before'), workingDays: z.number().int().min(0).max(400), field: Id, at }),
  z.object({ kind: z.literal('time'), amount: WorkingAmount }),
  z.object({ kind: z.literal('document'), field: Id }),
  /** Until every request that this one opened has come to its end. */
  z.object({ kind: z.literal('requests') }),
]);
export type Until = z.infer<typeof Until>;

export const Hold = z.object({ verb: z.literal('Hold'), id: Id, when, until: Until });
export type Hold = z.infer<typeof Hold>;

export const holdShape: Shape<Hold> = {
  leads: noLeads,
  goesOn: () => true,
  formulas: ({ until }) =>
    until.kind === 'date' ? [{ formula: until.formula, wanted: 'date', path: ['until', 'formula'] }] : [],
};
