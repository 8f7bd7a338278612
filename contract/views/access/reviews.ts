/** Rounds of review: what waits for oneself, and how each round goes. */
import { CivilDate, Instant } from '@north-pebble/core/time';
import { z } from 'zod';
import { list } from '../values.ts';

export const ReviewItemView = z.strictObject({
  id: z.number(),
  review: z.number(),
  group: z.string(),
  account: z.string(),
  name: z.string(),
  /** The request that gave it, and its title, where the reader sees it. */
  request: z.string().nullable(),
  lastUsed: z.string().nullable(),
  due: CivilDate,
  reviewer: z.string(),
  /** Who was asked before it went up. */
  before: z.string().nullable(),
  state: z.enum(['open', 'kept', 'to be taken away', 'taken away', 'refused']),
  note: z.string().nullable(),
  answeredBy: z.string().nullable(),
  answeredAt: Instant.nullable(),
  reason: z.string().nullable(),
});
export type ReviewItemView = z.infer<typeof ReviewItemView>;

export const ReviewView = z.strictObject({
  id: z.number(),
  connection: z.string(),
  groups: list(z.string()),
  by: z.enum(['owner', 'manager']),
  unanswered: z.enum(['remove', 'up']),
  due: CivilDate,
  startedBy: z.string(),
  startedAt: Instant,
  endedAt: Instant.nullable(),
  counts: z.strictObject({ all: z.number(), open: z.number(), kept: z.number(), removed: z.number() }),
});
export type ReviewView = z.infer<typeof ReviewView>;

export const ReviewsView = z.strictObject({
  /** What waits for the reader. */
  mine: list(ReviewItemView),
  reviews: list(ReviewView),
  /** Groups that may be reviewed, by connection. */
  offers: list(z.strictObject({ connection: z.string(), groups: list(z.string()) })),
  mayStart: z.boolean(),
});
export type ReviewsView = z.infer<typeof ReviewsView>;
export const ReviewItemViews = list(ReviewItemView);
