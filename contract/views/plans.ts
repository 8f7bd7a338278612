/** Plans counted back from a date: of one request, of all that are open, and what moving a date would do. */
import { PersonId } from '@north-pebble/core/people';
import { CivilDate, Instant } from '@north-pebble/core/time';
import { z } from 'zod';
import { list } from './values.ts';

const TaskState = z.enum(['late', 'tight', 'fine']);
export const PlanState = z.enum([...TaskState.options, 'ready']);
export type PlanState = z.infer<typeof PlanState>;

export const PlanDaysView = z.strictObject({
  earliestStart: CivilDate,
  earliestFinish: CivilDate,
  latestStart: CivilDate,
  latestFinish: CivilDate,
  /** Working days to spare; below 0 when it is late. */
  slack: z.number(),
});

export const PlanLineView = z.strictObject({
  step: z.string(),
  number: z.string(),
  /** `Lays out the kit`, `Decision`. */
  what: z.string(),
  /** Who has it, had it, or is to have it: a name, or the rule in words. */
  holder: z.string(),
  people: list(PersonId),
  state: z.enum([...TaskState.options, 'done', 'not needed']),
  doneAt: Instant.nullable(),
  days: PlanDaysView.nullable(),
  inHand: z.boolean(),
  /** Working days that are left of it. */
  left: z.number(),
  after: list(z.string()),
  /** Why its earliest and latest days are what they are. */
  why: z.strictObject({ earliest: z.string(), latest: z.string() }).nullable(),
});
export type PlanLineView = z.infer<typeof PlanLineView>;

export const PlanView = z.strictObject({
  date: CivilDate,
  /** What the date is called: `Start date`. */
  label: z.string(),
  placeName: z.string(),
  today: CivilDate,
  /** Working days left before the date. */
  toGo: z.number(),
  /** Days on which nobody works at the place, from the first day that is drawn to the date. */
  freeDays: list(CivilDate),
  state: PlanState,
  slack: z.number().nullable(),
  lines: z.array(PlanLineView),
  /** The steps that decide, in the order of time. */
  chain: list(z.string()),
  /** In words: what would make it right, and what decides. */
  says: list(z.strictObject({ tone: z.enum(['late', 'tight', 'fine']), title: z.string(), text: z.string() })),
  /** Who was told that it is not ready. */
  told: z.strictObject({ at: Instant, names: list(z.string()) }).nullable(),
});
export type PlanView = z.infer<typeof PlanView>;

/** A request that counts back, in the list of all. */
export const PlanRow = z.strictObject({
  request: z.string(),
  title: z.string(),
  workflowName: z.string(),
  /** The person that it is about, where they are on file, else the asker. */
  personName: z.string(),
  label: z.string(),
  date: CivilDate,
  placeName: z.string(),
  toGo: z.number(),
  state: PlanState,
  slack: z.number().nullable(),
  done: z.number(),
  of: z.number(),
  /** What decides, in words; nothing when it is ready. */
  decides: z.string().nullable(),
  lines: z.array(PlanLineView),
  told: z.boolean(),
});
export type PlanRow = z.infer<typeof PlanRow>;

export const PlansView = z.strictObject({
  today: CivilDate,
  rows: z.array(PlanRow),
  /** How many more there are than are shown. */
  more: z.number(),
  /** Those whose plan cannot be worked out, and why. */
  unknown: z.array(z.strictObject({ request: z.string(), title: z.string(), why: z.string() })),
});
export type PlansView = z.infer<typeof PlansView>;

/** What moving the date would do, before it is sent. */
export const DateMoveView = z.strictObject({
  before: CivilDate.nullable(),
  after: CivilDate,
  /** Why it may not be; nothing when it may. */
  fault: z.string().nullable(),
  /** What is worth a second look. */
  notes: list(z.string()),
  lines: z.array(
    z.strictObject({
      step: z.string(),
      number: z.string(),
      what: z.string(),
      holder: z.string(),
      before: PlanDaysView.nullable(),
      after: PlanDaysView.nullable(),
      stateBefore: PlanLineView.shape.state,
      stateAfter: PlanLineView.shape.state,
    }),
  ),
  stateBefore: PlanState.nullable(),
  stateAfter: PlanState.nullable(),
  told: list(z.string()),
  /** What else follows, in words: waits that go on at another moment, what is taken back outside after another day. */
  follows: list(z.string()),
});
export type DateMoveView = z.infer<typeof DateMoveView>;
