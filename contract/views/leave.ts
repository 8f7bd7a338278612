/** Balances, the answers to "Why?" about leave, and the planner. */
import {
  type BalanceAhead,
  type DayReason,
  LeastPresence,
  LeaveSpan,
  LeaveType,
  NamedPlan,
  type StatementOf,
} from '@north-pebble/core/leave';
import { PersonId } from '@north-pebble/core/people';
import { CivilDate, Instant } from '@north-pebble/core/time';
import { z } from 'zod';

import { FeedOf } from '../inputs/leave.ts';
import { Named } from './values.ts';

const Unit = z.enum(['days', 'hours']);
const Line = z.strictObject({
  date: CivilDate,
  kind: z.enum(['accrued', 'carried', 'lapsed', 'adjustment', 'taken', 'restated', 'brought along', 'opening']),
  amount: z.number(),
  balance: z.number(),
  reason: z.string(),
  until: CivilDate.exactOptional(),
  days: z.array(z.strictObject({ date: CivilDate, amount: z.number() })).exactOptional(),
  request: z.string().exactOptional(),
  held: z.literal(true).exactOptional(),
  unit: Unit.exactOptional(),
  change: z.number().exactOptional(),
});
const Expiring = z.array(z.strictObject({ amount: z.number(), on: CivilDate }));

export const StatementView: z.ZodType<StatementOf> = z.strictObject({
  balance: z.number(),
  expiring: Expiring,
  lines: z.array(Line),
  unit: Unit,
  plan: z.string(),
});

const DayReasonView: z.ZodType<DayReason> = z.strictObject({
  date: z.string(),
  days: z.number(),
  minutes: z.number(),
  reason: z.string(),
});
const BalanceAheadView: z.ZodType<BalanceAhead> = z.strictObject({
  amount: z.number(),
  fits: z.boolean(),
  free: z.number(),
  after: z.number(),
  lowest: z.strictObject({ balance: z.number(), on: CivilDate }),
  unit: Unit,
  now: z.number(),
  held: z.number(),
  expiring: Expiring,
  lines: z.array(Line),
});

/** The answers to "Why?" about the days and the balance. */
export const LeaveReasons = z.strictObject({
  days: z.array(DayReasonView),
  /** Nothing for readers who may not see the balance. */
  balance: BalanceAheadView.nullable(),
  /** What is worth knowing before it is sent. */
  notes: z.array(z.string()),
});
export type LeaveReasons = z.infer<typeof LeaveReasons>;

export const BalanceView = z.strictObject({
  person: PersonId,
  name: z.string(),
  today: CivilDate,
  types: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      held: z.number(),
      /** What the house before said of it, where the statement begins with that. */
      opening: z
        .strictObject({
          on: CivilDate,
          own: z.number(),
          carried: z.number(),
          lapses: CivilDate.nullable(),
          source: z.string(),
        })
        .nullable(),
      statement: StatementView,
      /** The same statement up to the end of the calendar year, with everything booked. */
      ahead: StatementView,
    }),
  ),
  /** Leave types that take from no balance. */
  others: z.array(z.string()),
  /** Leave that was decided elsewhere, for those who keep records. */
  elsewhere: z.array(z.strictObject({ id: z.string(), type: z.string(), span: LeaveSpan, says: z.string() })),
  /** What the reader may book for this person; nothing for those who may not. */
  bookable: z.array(z.strictObject({ id: z.string(), name: z.string(), hasBalance: z.boolean() })),
});
export type BalanceView = z.infer<typeof BalanceView>;

export const PlannerView = z.strictObject({
  from: CivilDate,
  to: CivilDate,
  today: CivilDate,
  /** What the reader may look at as a whole; nothing for whoever sees their own teams only. */
  groups: z.array(
    z.strictObject({ id: z.string(), name: z.string(), kind: z.enum(['place', 'department', 'line', 'house']) }),
  ),
  /** Where a least number is needed of those who are shown: how many are here on each day; nothing where none are needed. */
  presence: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      needed: z.number(),
      here: z.array(z.number().nullable()),
      /** Open requests for days with too few, for those who look after who asks: granted, they stay so. */
      asked: z.array(z.strictObject({ request: z.string(), name: z.string(), from: CivilDate, to: CivilDate })),
    }),
  ),
  /** In the order in which their people stand in the rows. */
  teams: z.array(
    z.strictObject({
      name: z.string(),
      people: z.number(),
      /** People at work in the morning or afternoon of each day. */
      here: z.array(z.number()),
      /** Which of `presence` is about just these people. */
      presence: z.string().nullable(),
    }),
  ),
});
export type PlannerView = z.infer<typeof PlannerView>;

/** Absence of somebody, or a line of the planner that is none. */
export const PlannerBar = z.strictObject({
  /** The first and last half day, counted from the morning of the first day shown; both inside what is shown. */
  first: z.number().int(),
  last: z.number().int(),
  kind: z.enum(['booked', 'asked', 'elsewhere', 'other']),
  label: z.string(),
  /** For those who may read it. */
  request: z.string().exactOptional(),
  /** It waits for the reader’s answer. */
  waits: z.literal(true).exactOptional(),
});
export type PlannerBar = z.infer<typeof PlannerBar>;

/** Some rows of the planner, one after another. */
export const PlannerRows = z.strictObject({
  /** A letter for each half day: `w` to work, `-` not worked, `h` holiday. */
  shades: z.array(z.string()),
  rows: z.array(z.strictObject({ id: PersonId, name: z.string(), shade: z.number().int(), bars: z.array(PlannerBar) })),
});
export type PlannerRows = z.infer<typeof PlannerRows>;

/** Absence in some days, the first so many of it. */
export const PlannerAway = z.strictObject({
  all: z.number().int(),
  rows: z.array(
    z.strictObject({
      id: PersonId,
      name: z.string(),
      from: CivilDate,
      to: CivilDate,
      kind: PlannerBar.shape.kind,
      label: z.string(),
      request: z.string().exactOptional(),
    }),
  ),
});
export type PlannerAway = z.infer<typeof PlannerAway>;

/** The days around a span and who of the team is away on them. */
export const TeamStrip = z.strictObject({
  days: z.array(z.string()),
  people: z.array(
    z.strictObject({
      name: z.string(),
      asker: z.boolean(),
      marks: z.array(z.enum(['free', 'here', 'am', 'pm', 'away', 'held'])),
    }),
  ),
  here: z.array(z.number()),
});
export type TeamStrip = z.infer<typeof TeamStrip>;

export const LeaveTypeChoice = z.strictObject({
  id: z.string(),
  name: z.string(),
  hasBalance: z.boolean(),
  /** Whether it may be asked for with times. */
  times: z.boolean().optional(),
  /** Whether its last day may be told later. */
  openEnd: z.boolean().optional(),
});
export type LeaveTypeChoice = z.infer<typeof LeaveTypeChoice>;

/** What every leave type and plan says through time, and how many are needed where. */
export const LeaveRulesView = z.strictObject({
  today: CivilDate,
  mayKeep: z.boolean(),
  types: z.array(LeaveType),
  /** With how many people have each today. */
  plans: z.array(NamedPlan.extend({ people: z.number() })),
  /** With how many people there are of each today. */
  /** How many are there, and the days ahead on which fewer are rostered than are needed, though nobody is away. */
  presence: z.array(
    LeastPresence.extend({
      there: z.number(),
      short: z.strictObject({ days: z.number(), first: CivilDate }).nullable(),
    }),
  ),
  places: z.array(Named),
  departments: z.array(Named),
});
export type LeaveRulesView = z.infer<typeof LeaveRulesView>;

export const PassesView = z.array(
  z.strictObject({
    id: z.number(),
    type: z.string(),
    from: CivilDate,
    to: CivilDate,
    by: z.string(),
    at: Instant,
    reason: z.string(),
  }),
);
export type PassesView = z.infer<typeof PassesView>;

const amount = z.number();
/** Everybody’s balances of one type whom the reader may see. */
export const StandingsView = z.strictObject({
  today: CivilDate,
  type: z.string(),
  types: z.array(Named),
  places: z.array(Named),
  departments: z.array(Named),
  plans: z.array(z.string()),
  rows: z.array(
    z.strictObject({
      person: PersonId,
      name: z.string(),
      place: z.string(),
      department: z.string(),
      unit: Unit,
      plan: z.string(),
      from: CivilDate,
      to: CivilDate,
      carried: amount,
      entitled: amount,
      adjusted: amount,
      taken: amount,
      planned: amount,
      held: amount,
      lapsed: amount,
      lapsing: amount,
      lapsesOn: CivilDate.nullable(),
      /** What lapses as the leave year turns, where it lapses only for whoever was told. */
      atTurn: amount,
      now: amount,
      free: amount,
    }),
  ),
});
export type StandingsView = z.infer<typeof StandingsView>;

/** Calendars of one’s own; their addresses are told once, when they are made. */
export const FeedsView = z.array(
  z.strictObject({
    id: z.number(),
    of: FeedOf,
    group: z.string().nullable(),
    name: z.string(),
    madeAt: Instant,
    readAt: Instant.nullable(),
  }),
);
export type FeedsView = z.infer<typeof FeedsView>;
export const FeedMade = z.strictObject({ id: z.number(), address: z.string() });
export type FeedMade = z.infer<typeof FeedMade>;

/** What is left to be paid, or owed, when somebody leaves on a day. */
export const LeavingView = z.strictObject({
  person: PersonId,
  name: z.string(),
  on: CivilDate,
  types: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      unit: Unit,
      plan: z.string(),
      entitled: z.number(),
      balance: z.number(),
    }),
  ),
  /** Leave that goes on after the last day. */
  after: z.array(z.strictObject({ request: z.string(), label: z.string() })),
});
export type LeavingView = z.infer<typeof LeavingView>;

export const JoiningView = z.strictObject({
  unit: Unit,
  years: z.array(z.strictObject({ until: CivilDate, amount: z.number() })),
});
export type JoiningView = z.infer<typeof JoiningView>;

/** Leave years that ended by a day: what is carried and what lapses, and whether they are closed. */
export const YearEndView = z.strictObject({
  today: CivilDate,
  type: z.string(),
  types: z.array(Named),
  until: CivilDate,
  rows: z.array(
    z.strictObject({
      person: PersonId,
      name: z.string(),
      on: CivilDate,
      unit: Unit,
      plan: z.string(),
      balance: z.number(),
      carried: z.number(),
      lapses: z.number(),
      /** Open requests for days in it. */
      open: z.number(),
      closed: z.strictObject({ by: z.string(), at: Instant }).nullable(),
    }),
  ),
});
export type YearEndView = z.infer<typeof YearEndView>;

export const PayExportsView = z.array(
  z.strictObject({ id: z.number(), from: CivilDate, to: CivilDate, by: z.string(), at: Instant }),
);
export type PayExportsView = z.infer<typeof PayExportsView>;

/** What each of some spans would take, and what would be left. */
export const TriedView = z.array(
  z.strictObject({
    /** Nothing where it cannot be worked out; the sentence says why. */
    amount: z.number().nullable(),
    unit: Unit,
    fits: z.boolean(),
    after: z.number().nullable(),
    lowest: z.strictObject({ balance: z.number(), on: CivilDate }).nullable(),
    says: z.array(z.string()),
  }),
);
export type TriedView = z.infer<typeof TriedView>;
