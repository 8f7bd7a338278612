/** Do: a person or a pool works a checklist and fills the step’s own fields. */
import { z } from 'zod';
import { Id } from '../../../form/index.ts';
import { PeopleRule } from '../../../people/index.ts';
import { Guest } from './guest.ts';
import { formulasOfRule, Go, handTo, InPlan, Limit, type Shape, when, whenAway } from './parts.ts';

export const Do = z.object({
  verb: z.literal('Do'),
  id: Id,
  when,
  who: PeopleRule,
  /** The first to take it does it; otherwise everybody found does. */
  pool: z.literal(true).optional(),
  handTo,
  whenAway,
  task: z.string().trim().min(1, 'says nothing to do').max(200),
  checklist: z
    .array(z.object({ id: Id, label: z.string().trim().min(1).max(200) }))
    .max(40)
    .optional(),
  limit: Limit.nullable(),
  plan: InPlan.optional(),
  /** Somebody without an account fills in sections; whoever holds the step looks after it. */
  guest: Guest.optional(),
  /** Where “could not” leads; without it, it cannot be said. */
  couldNot: Go.optional(),
});
export type Do = z.infer<typeof Do>;

export const doShape: Shape<Do> = {
  leads: step => (step.couldNot ? [{ go: step.couldNot, label: 'could not', path: ['couldNot'] }] : []),
  goesOn: () => true,
  formulas: step => formulasOfRule(step.who),
};
