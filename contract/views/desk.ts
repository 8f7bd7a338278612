/** What waits for a person. */
import { PersonId } from '@north-pebble/core/people';
import { CivilDate, Instant } from '@north-pebble/core/time';
import { z } from 'zod';

const Offered = z.strictObject({
  id: z.string(),
  label: z.string(),
  tone: z.enum(['good', 'rework', 'bad']),
  note: z.enum(['none', 'may', 'must']),
});

export const DeskItem = z.strictObject({
  request: z.string(),
  /** What is to be done: decide, do a task, reply to a question, rework or complete one's own request. */
  kind: z.enum(['decide', 'do', 'reply', 'rework', 'hand in', 'stuck', 'not ready']),
  workflow: z.string(),
  workflowName: z.string(),
  again: z.boolean(),
  /** What was approved is asked to be changed or cancelled. */
  afterwards: z.enum(['change', 'cancel']).nullable(),
  asker: PersonId,
  askerName: z.string(),
  /** The person concerned, where that is somebody else. */
  concernedName: z.string().nullable(),
  /** `4½ days of annual leave`. */
  what: z.string(),
  /** `Mon 9 to Fri 13 February · balance after 7½`. */
  facts: z.array(z.string()),
  /** For whom the reader stands in. */
  coverFor: z.string().nullable(),
  /** Who stands in for the reader; both see the item. */
  coveredBy: z.string().nullable(),
  /** Set aside by the reader until a day. */
  aside: z.strictObject({ until: CivilDate, note: z.string().nullable() }).nullable(),
  /** A question that the asker has not answered; the clock stands still. */
  question: z.string().nullable(),
  due: Instant.nullable(),
  /** The role to which it came, when not to the reader in person. */
  role: z.string().nullable(),
  /** What is needed to answer it together with others like it: nothing to fill in, and the same outcomes. */
  batch: z
    .strictObject({ seen: z.number(), task: z.string(), step: z.string(), outcomes: z.array(Offered) })
    .nullable(),
});
export type DeskItem = z.infer<typeof DeskItem>;

export const DeskView = z.strictObject({
  now: Instant,
  zone: z.string(),
  items: z.array(DeskItem),
  done: z.array(z.strictObject({ at: Instant, request: z.string(), text: z.string() })),
  /** How much the reader did in each of the last weeks, the current one last. */
  weeks: z.array(z.strictObject({ from: CivilDate, done: z.number() })),
});
export type DeskView = z.infer<typeof DeskView>;

/** How much waits, told by itself whenever it changes. */
export const DeskCount = z.strictObject({ waiting: z.number() });
export type DeskCount = z.infer<typeof DeskCount>;
