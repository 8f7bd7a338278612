/** What a directory holds against what it should, and what mends it. */
import { Instant } from '@north-pebble/core/time';
import { z } from 'zod';

export const DifferenceRow = z.strictObject({
  key: z.string(),
  what: z.string(),
  cause: z.string(),
  /** What the connection would be asked for; nothing where people must look. */
  mends: z.string().nullable(),
  /** How far mending is, where it was asked for. */
  mending: z.enum(['on its way', 'done', 'refused']).nullable(),
  reason: z.string().nullable(),
});
export type DifferenceRow = z.infer<typeof DifferenceRow>;

export const DifferencesView = z.strictObject({
  connection: z.string(),
  /** Nothing before the first comparison. */
  state: z.enum(['running', 'done', 'stopped', 'failed']).nullable(),
  startedAt: Instant.nullable(),
  doneAt: Instant.nullable(),
  read: z.number(),
  total: z.number(),
  fault: z.string().nullable(),
  rows: z.array(DifferenceRow),
  /** How many more there are than are kept. */
  more: z.number(),
});
export type DifferencesView = z.infer<typeof DifferencesView>;

/** Those that are mended, by their keys; all of them where nothing is said. */
export const Mend = z.strictObject({ keys: z.array(z.string().max(300)).min(1).max(2000).optional() });
export type Mend = z.infer<typeof Mend>;
