/** Hold: waits until a date, for working time, for a document, or for other requests. */
import { z } from 'zod';
import { Formula, Id } from '../../../form/index.ts';
import { WorkingAmount } from '../../../time/index.ts';
import { noLeads, type Shape, when } from './parts.ts';

export const Until = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('date'), formula: Formula }),
  z.object({ kind: z.literal('before'), workingDays: z.number().int().min(0).max(400), field: Id }),
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
