/** Decide: people choose an outcome. */
import { z } from 'zod';
import { Id } from '../../../form/index.ts';
import { PeopleRule } from '../../../people/index.ts';
import {
  AttachedFiles,
  formulasOfRule,
  handTo,
  InPlan,
  Limit,
  Outcome,
  Quorum,
  type Shape,
  when,
  whenAway,
} from './parts.ts';

export const Decide = z.object({
  verb: z.literal('Decide'),
  id: Id,
  when,
  who: PeopleRule,
  count: Quorum.optional(),
  /** The outcome that is taken when those who are asked can agree on none any more; without one, the step is blocked. */
  undecided: Id.optional(),
  whenAway,
  /** Whoever approved the step before is not asked again. */
  once: z.literal(true).optional(),
  /** The asker may hold it: it is not a decision about their own wish, but about its course. */
  askerMay: z.literal(true).optional(),
  handTo,
  limit: Limit.nullable(),
  plan: InPlan.optional(),
  /** Files that go along with the mail by which it can be decided. */
  attach: z.array(AttachedFiles).min(1).max(5).optional(),
  outcomes: z.array(Outcome).min(1, 'has no outcome').max(9),
});
export type Decide = z.infer<typeof Decide>;

export const decideShape: Shape<Decide> = {
  leads: step => step.outcomes.map((o, n) => ({ go: o.leads, label: o.label, path: ['outcomes', n, 'leads'] })),
  goesOn: () => false,
  formulas: step => formulasOfRule(step.who),
};
