/** What somebody holds who leaves, or moves on: to be handed over, taken away, given back. */
import { CivilDate, Instant } from '@north-pebble/core/time';
import { z } from 'zod';
import { list } from '../values.ts';

export const HoldsView = z.strictObject({
  person: z.string(),
  /** How many open tasks; which ones, for those who look after the person. */
  tasks: z.number(),
  taskRows: list(z.strictObject({ request: z.string(), title: z.string(), due: Instant.nullable() })),
  /** Accounts, groups and spaces that requests gave and that stand; until when, where they end by themselves. */
  access: list(
    z.strictObject({
      connection: z.string(),
      what: z.string(),
      request: z.string().nullable(),
      until: CivilDate.nullable(),
    }),
  ),
  /** Accesses that wait for their word. */
  reviews: z.number(),
  papers: list(z.strictObject({ kind: z.string(), expires: CivilDate.nullable() })),
});
export type HoldsView = z.infer<typeof HoldsView>;
