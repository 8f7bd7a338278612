/** Wishes for the same days, as they are sent. */
import { HalfSpan } from '@north-pebble/core/leave';
import { NearDate, toDay } from '@north-pebble/core/time';
import { z } from 'zod';

const Id = z.string().min(1).max(40);

/** A round of wishes: for which days, of whom, and until when they are taken. */
export const NewWishRound = z
  .strictObject({
    name: z.string().trim().min(1, 'Write the name.').max(200),
    type: Id,
    place: Id.nullable(),
    department: Id.nullable(),
    from: NearDate,
    to: NearDate,
    closes: NearDate,
    mostAway: z.number().int().min(1, 'At least one.').max(10_000).nullable(),
  })
  .refine(({ from, to }) => from <= to, { path: ['to'], message: 'The last day is before the first.' })
  .refine(({ from, to }) => toDay(to) - toDay(from) < 366, { path: ['to'], message: 'At most a year at once.' })
  .refine(({ closes, from }) => closes < from, {
    path: ['closes'],
    message: 'Wishes close before the days that they are for.',
  });
export type NewWishRound = z.infer<typeof NewWishRound>;

/** One’s own wishes, the first one first; none where somebody wishes for nothing any more. */
export const OwnWishes = z.strictObject({ spans: z.array(HalfSpan).max(3, 'At most three.') });
export type OwnWishes = z.infer<typeof OwnWishes>;
