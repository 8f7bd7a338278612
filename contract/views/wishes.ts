/** Wishes for the same days, as they are seen. */
import { HalfSpan } from '@north-pebble/core/leave';
import { PersonId } from '@north-pebble/core/people';
import { CivilDate } from '@north-pebble/core/time';
import { z } from 'zod';

const list = <T extends z.ZodType>(of: T) => z.array(of).readonly();

const WishRound = z.strictObject({
  id: z.number(),
  name: z.string(),
  type: z.string(),
  typeName: z.string(),
  /** Of whom they are, in words. */
  where: z.string(),
  from: CivilDate,
  to: CivilDate,
  closes: CivilDate,
  mostAway: z.number().nullable(),
  state: z.enum(['open', 'closed', 'decided']),
  /** The hash of what the lots are drawn from, told from the first; and that itself, once wishes are closed. */
  seal: z.string(),
  seed: z.string().nullable(),
  /** One’s own, for whoever the round is for. */
  own: list(HalfSpan).nullable(),
  /** What one was given, once it is decided. */
  given: HalfSpan.nullable(),
  /** For HR: how many it is for, and how many have said what they wish. */
  people: z.number().nullable(),
  wished: z.number().nullable(),
});

export const WishRoundsView = z.strictObject({
  today: CivilDate,
  rounds: list(WishRound),
  /** For whoever makes them. */
  choices: z
    .strictObject({
      types: list(z.strictObject({ id: z.string(), name: z.string() })),
      places: list(z.strictObject({ id: z.string(), name: z.string() })),
      departments: list(z.strictObject({ id: z.string(), name: z.string() })),
    })
    .nullable(),
});
export type WishRoundsView = z.infer<typeof WishRoundsView>;

/** The wishes of a round compared, in whose turn it is; for HR. */
export const WishesCompared = z.strictObject({
  round: WishRound,
  /** The same days of the year before. */
  before: z.strictObject({ from: CivilDate, to: CivilDate }),
  rows: list(
    z.strictObject({
      person: PersonId,
      name: z.string(),
      /** Days that they had of these days in the year before. */
      had: z.number(),
      lot: z.string(),
      wishes: list(
        z.strictObject({
          span: HalfSpan,
          label: z.string(),
          days: z.number(),
          /** Why it cannot be had beside those before; nothing where it can, or where an earlier one of theirs is had. */
          why: z.string().nullable(),
        }),
      ),
      /** Which is proposed; nothing where none can be had. */
      proposed: z.number().nullable(),
      /** Which was given, once it is decided. */
      given: HalfSpan.nullable(),
    }),
  ),
  /** Those who have wished for nothing. */
  silent: list(z.strictObject({ person: PersonId, name: z.string() })),
});
export type WishesCompared = z.infer<typeof WishesCompared>;
