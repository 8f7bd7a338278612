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
/** Both days included; a whole place or department for those who may look at one. */
export const LookAtPlanner = z.object({
  from: NearDate,
  to: NearDate,
  place: z.string().min(1).max(40).optional(),
  department: z.string().min(1).max(40).optional(),
});
export type LookAtPlanner = z.infer<typeof LookAtPlanner>;
