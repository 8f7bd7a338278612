/** What the server is given about leave: what HR lets pass, and what is looked for among everybody’s balances. */
import { LeaveSpan, standingColumns } from '@north-pebble/core/leave';
import { PersonId } from '@north-pebble/core/people';
import { NearDate } from '@north-pebble/core/time';
import { z } from 'zod';

const Id = z.string().trim().min(1).max(40);

/** Leave of somebody that is let pass though a limit of its type would stop it. */
export const NewPass = z
  .strictObject({
    person: PersonId,
    type: Id,
    from: NearDate,
    to: NearDate,
    reason: z.string().trim().min(1, 'Say why it is let pass.').max(1000),
  })
  .refine(({ from, to }) => from <= to, { path: ['to'], message: 'The last day is before the first.' });
export type NewPass = z.infer<typeof NewPass>;

export const FindStandings = z.strictObject({
  type: Id.optional(),
  words: z.string().max(200).optional(),
  place: Id.optional(),
  department: Id.optional(),
  plan: z.string().max(200).optional(),
  only: z.enum(['below zero', 'lapsing', 'much left']).optional(),
  sort: z.enum(['name', 'lapsesOn', ...standingColumns]).optional(),
  down: z.literal('yes').optional(),
});
export type FindStandings = z.infer<typeof FindStandings>;

/** A calendar to subscribe to: of oneself, one’s teams, or a place or department as a whole. */
export const NewFeed = z
  .strictObject({ of: z.enum(['self', 'team', 'place', 'department']), group: Id.nullable() })
  .refine(({ of, group }) => (of === 'place' || of === 'department') === (group !== null), {
    path: ['group'],
    message: 'Say which one.',
  });
export type NewFeed = z.infer<typeof NewFeed>;

export const FindYearEnd = z.strictObject({ type: Id.optional(), until: NearDate.optional() });

/** The leave years that are closed: of a type, all that ended by a day. */
export const CloseYear = z.strictObject({
  type: Id,
  until: NearDate,
  /** How many were looked at. */
  years: z.number().int().min(1).max(200_000),
});
export type CloseYear = z.infer<typeof CloseYear>;

export const NewPayExport = z
  .strictObject({ from: NearDate, to: NearDate })
  .refine(({ from, to }) => from <= to, { path: ['to'], message: 'The last day is before the first.' });
export type NewPayExport = z.infer<typeof NewPayExport>;

/** Spans that somebody thinks of, to be compared; nothing is asked for. */
export const TrySpans = z.strictObject({ type: Id, spans: z.array(LeaveSpan).min(1).max(8) });
export type TrySpans = z.infer<typeof TrySpans>;
