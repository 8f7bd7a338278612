/** What is sent about rounds of review. */
import { reviewers, unansweredWays } from '@north-pebble/core/access';
import { NearDate } from '@north-pebble/core/time';
import { z } from 'zod';
import { ConnectionName } from './connections.ts';

export const StartReview = z
  .object({
    connection: ConnectionName,
    groups: z.array(z.string().trim().min(1).max(200)).min(1, 'Choose at least one group.').max(50),
    by: z.enum(reviewers),
    /** The last day on which it is answered. */
    due: NearDate,
    unanswered: z.enum(unansweredWays),
  })
  .strict();
export type StartReview = z.infer<typeof StartReview>;

export const AnswerReview = z
  .object({
    items: z.array(z.number().int().positive()).min(1, 'Choose at least one.').max(2000),
    answer: z.enum(['keep', 'remove']),
    note: z.string().trim().max(500).default(''),
  })
  .strict();
export type AnswerReview = z.infer<typeof AnswerReview>;
