/** What is sent about the register of papers. */
import { PersonId } from '@north-pebble/core/people';
import { z } from 'zod';

export const FindPapers = z.object({
  words: z.string().trim().max(100).default(''),
  kind: z.string().max(80).default(''),
  /** Only those that run out in this month, as in `2026-02`; those that ran out before it stand in the month of today. */
  month: z.union([z.string().regex(/^\d{4}-\d{2}$/), z.literal('')]).default(''),
  /** `now`: what is needed today; `all`: also what was replaced or thrown away. */
  which: z.enum(['now', 'all']).default('now'),
});
export type FindPapers = z.infer<typeof FindPapers>;

export const PaperRulesInput = z.object({
  kind: z.string().trim().min(1, 'Say which papers.').max(80),
  askBefore: z.number().int().min(1, 'At least one day.').max(400, 'At most 400 days.'),
  workflow: z.string().max(40).nullable(),
  remindBefore: z.array(z.number().int().min(0).max(400)).max(6, 'At most six reminders.'),
  keepAfter: z.number().int().min(0).max(4000, 'At most 4,000 days.'),
});
export type PaperRulesInput = z.infer<typeof PaperRulesInput>;

/** Whose a paper is, once they are on file. */
export const PaperHolder = z.object({ person: PersonId });
