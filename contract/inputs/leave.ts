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

export const FeedOf = z.enum(['self', 'team', 'place', 'department', 'line', 'house', 'set']);
export type FeedOf = z.infer<typeof FeedOf>;

/** A calendar to subscribe to: of oneself, one’s teams, or whoever can be looked at on the planner; of a set by its number. */
export const NewFeed = z
  .strictObject({ of: FeedOf, group: Id.nullable() })
  .refine(({ of, group }) => (of === 'self' || of === 'team') === (group === null), {
    path: ['group'],
    message: 'Say which one.',
  });
export type NewFeed = z.infer<typeof NewFeed>;

/** What somebody has when they leave on a day, before it is on file. */
export const AskLeaving = z.strictObject({ on: NearDate });
/** What somebody would have who joins on a day. */
export const AskJoining = z.strictObject({ plan: Id, joined: NearDate, share: z.coerce.number().min(0.01).max(1) });
export type AskJoining = z.infer<typeof AskJoining>;

/** A letter to each of those who are found, with what they have left. */
export const NewLetters = FindStandings.extend({
  id: z.uuid('Letters need an id of their own.'),
  /** How many were looked at. */
  people: z.number().int().min(1).max(200_000),
  note: z.string().trim().max(2000),
});
export type NewLetters = z.infer<typeof NewLetters>;

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
