/** People looked for, who stands in for whom, and the planner. */
import { PersonId } from '@north-pebble/core/people';
import { NearDate } from '@north-pebble/core/time';
import { z } from 'zod';

export const SetCover = z
  .object({
    /** Oneself when nobody is said; somebody else only by HR operations. */
    person: PersonId.nullish(),
    by: z.string().min(1, 'Choose who stands in.').pipe(PersonId),
    from: NearDate,
    to: NearDate,
    /** All of them when nothing is said. */
    workflows: z.array(z.string().min(1).max(40)).min(1, 'Choose a workflow, or all of them.').max(200).nullish(),
  })
  .refine(cover => cover.from <= cover.to, { path: ['to'], message: 'The last day comes before the first.' });
export type SetCover = z.infer<typeof SetCover>;

export const FindPeople = z.object({ words: z.string().max(100).default('') });
export const WhoseCover = z.object({ person: PersonId.optional() });
const Short = z.string().min(1).max(40);

/** Whose days are looked at: one’s own teams where nothing is said. */
export const WhoseDays = z.object({
  place: Short.optional(),
  department: Short.optional(),
  /** Everybody under this person. */
  line: PersonId.optional(),
  house: z.literal('yes').optional(),
  /** Only those whose name has these letters. */
  words: z.string().max(100).optional(),
});
export type WhoseDays = z.infer<typeof WhoseDays>;

/** Both days included. */
export const LookAtPlanner = WhoseDays.extend({ from: NearDate, to: NearDate });
export type LookAtPlanner = z.infer<typeof LookAtPlanner>;

/** So many rows at most are asked for at once. */
export const mostPlannerRows = 500;
export const LookAtPlannerRows = LookAtPlanner.extend({
  /** These alone, as a list with commas. */
  only: z.string().max(2000).optional(),
  skip: z.coerce.number().int().min(0).max(1_000_000).default(0),
  take: z.coerce.number().int().min(1).max(mostPlannerRows).default(100),
});
export type LookAtPlannerRows = z.infer<typeof LookAtPlannerRows>;
