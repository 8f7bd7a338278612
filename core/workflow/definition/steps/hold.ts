/** Hold: waits until a date, for working time, for a document, for the end of an absence, or for other requests. */
import { z } from 'zod';
import { Formula, Id } from '../../../form/index.ts';
import { WorkingAmount } from '../../../time/index.ts';
import { noLeads, type Shape, when } from './parts.ts';

/** A time of day at the place of the person, as in `17:00`; the beginning of the day when nothing is said. */
const at = z
  .string()
  .regex(/^(?:[01]\d|2[0-3]):[0-5]\d$/, 'is no time of day, as in 17:00')
  .optional();

/** Whoever is waited for is reminded so often, each time after so much working time. */
export const HoldRemind = z.object({ every: WorkingAmount, atMost: z.number().int().min(1).max(20) });
export type HoldRemind = z.infer<typeof HoldRemind>;
const remind = HoldRemind.optional();

export const Until = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('date'), formula: Formula, at }),
  z.object({ kind: z.literal('before'), workingDays: z.number().int().min(0).max(400), field: Id, at }),
  z.object({ kind: z.literal('time'), amount: WorkingAmount }),
  z.object({ kind: z.literal('document'), field: Id, remind }),
  /** Until the last day of an absence without an end is told. */
  z.object({ kind: z.literal('last day'), field: Id, remind }),
  /** Until every request that this one opened has come to its end. */
  z.object({ kind: z.literal('requests') }),
]);
export type Until = z.infer<typeof Until>;

/** What whoever asked hands in, and is reminded of. */
export type UntilHandedIn = Extract<Until, { kind: 'document' | 'last day' }>;
export const isHandedIn = (until: Until): until is UntilHandedIn =>
  until.kind === 'document' || until.kind === 'last day';

export const Hold = z.object({ verb: z.literal('Hold'), id: Id, when, until: Until });
export type Hold = z.infer<typeof Hold>;

export const holdShape: Shape<Hold> = {
  leads: noLeads,
  goesOn: () => true,
  formulas: ({ until }) =>
    until.kind === 'date' ? [{ formula: until.formula, wanted: 'date', path: ['until', 'formula'] }] : [],
};
