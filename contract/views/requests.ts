/** Asking, deciding, and one request as its readers see it. */
import { AccessLevel } from '@north-pebble/core/form';
import { PersonId } from '@north-pebble/core/people';
import { CivilDate, Instant } from '@north-pebble/core/time';
import { Definition } from '@north-pebble/core/workflow';
import { z } from 'zod';
import { NewSet } from '../inputs/requests.ts';
import { FieldFaults } from '../problem.ts';
import { LeaveReasons, LeaveTypeChoice, TeamStrip } from './leave.ts';
import { PlanView } from './plans.ts';
import { AnswerValue, AnswerValues, byName, Figures, File, List, list, Tone } from './values.ts';

/** One choice of a list, as a form offers it. */
export const PersonChoice = z.strictObject({ id: PersonId, name: z.string() });
export type PersonChoice = z.infer<typeof PersonChoice>;

/** Who comes next, in turn, and how it ends. */
export const AheadView = z.strictObject({
  steps: z.array(
    z.strictObject({
      number: z.string(),
      verb: z.enum(['Decide', 'Do', 'Hold']),
      people: z.array(z.strictObject({ name: z.string(), reasons: list(z.string()) })),
      due: Instant.nullable(),
      waits: z.string().nullable(),
    }),
  ),
  ends: z.string().nullable(),
});
export type AheadView = z.infer<typeof AheadView>;

export const PreviewView = z.strictObject({
  /** What stands in the fields, with everything that is known filled in. */
  answers: AnswerValues,
  /** The fields that are asked for these answers, and what may be done with each. */
  fields: z.array(z.strictObject({ id: z.string(), level: AccessLevel })),
  faults: FieldFaults,
  figures: Figures,
  leave: LeaveReasons.nullable(),
  /** Who of the team is away in the span. */
  others: z.array(z.string()),
  /** What would happen after sending, if everybody agrees; nothing while there are faults. */
  ahead: AheadView.nullable(),
});
export type PreviewView = z.infer<typeof PreviewView>;

/** How long the latest requests of a workflow took from asking to the end, in days. */
export const UsualTime = z.strictObject({ median: z.number(), nineInTen: z.number(), of: z.number() });
export type UsualTime = z.infer<typeof UsualTime>;

export const AskView = z.strictObject({
  workflow: z.string(),
  version: z.number(),
  definition: Definition,
  leaveTypes: z.array(LeaveTypeChoice),
  /** The reference lists that its fields pick from. */
  lists: list(List),
  people: z.array(PersonChoice),
  /** For whom it may be asked besides oneself. */
  subjects: z.array(PersonChoice),
  /** How long the latest of them took from asking to the end; nothing while there are too few. */
  usually: UsualTime.nullable(),
  draft: z.strictObject({ answers: z.record(z.string(), z.unknown()), savedAt: Instant }).nullable(),
});
export type AskView = z.infer<typeof AskView>;

const row = {
  id: z.string(),
  title: z.string(),
  workflow: z.string(),
  asker: PersonId,
  askerName: z.string(),
  status: z.enum(['new', 'open', 'rework', 'stuck', 'closed', 'withdrawn']),
  /** In words: `waits for Tobias Fennimore`, `Approved`. */
  standing: z.string(),
  workflowName: z.string(),
  askedAt: Instant,
  closedAt: Instant.nullable(),
};
const Outcome = z.strictObject({
  id: z.string(),
  label: z.string(),
  tone: z.enum(['good', 'rework', 'bad']),
  note: z.enum(['none', 'may', 'must']),
});
export const RequestRow = z.strictObject({
  ...row,
  /** What the reader may see of the fields and figures that are shown as columns, in words. */
  cells: z.record(z.string(), z.string()).optional(),
  /** What the reader may answer there at once, with several like it. */
  decide: z
    .strictObject({ task: z.string(), seen: z.number(), step: z.string(), outcomes: z.array(Outcome) })
    .nullable()
    .optional(),
});
export type RequestRow = z.infer<typeof RequestRow>;
export const RequestRows = z.array(RequestRow);

/** `total` is counted with the first page only. */
export const FoundRequests = z.strictObject({
  rows: z.array(RequestRow),
  total: z.number().nullable(),
  next: z.number().nullable(),
});
export type FoundRequests = z.infer<typeof FoundRequests>;

/** Requests added up: `sums` by what is added up, one for each currency, with how many requests hold one; the same for all. */
const Sums = z.record(
  z.string(),
  z.array(z.strictObject({ currency: z.string().nullable(), sum: z.number(), held: z.number() })),
);
export const VolumeView = z.strictObject({
  rows: z.array(z.strictObject({ group: z.string(), requests: z.number(), sums: Sums })),
  total: z.strictObject({ requests: z.number(), sums: Sums }),
  /** By what requests of this workflow can be told apart, and what of them can be added up. */
  by: z.array(z.strictObject({ id: z.string(), label: z.string() })),
  of: z.array(z.strictObject({ id: z.string(), label: z.string() })),
  /** Where there were more than are looked at, how many were. */
  lookedAt: z.number().nullable(),
});
export type VolumeView = z.infer<typeof VolumeView>;

/** What a list of one workflow can be narrowed and widened by. */
export const ListShape = z.strictObject({
  steps: z.array(z.strictObject({ id: z.string(), words: z.string(), open: z.number() })),
  columns: z.array(z.strictObject({ id: z.string(), label: z.string() })),
});
export type ListShape = z.infer<typeof ListShape>;

export const SavedSet = z.strictObject({
  ...NewSet.shape,
  role: z.string().nullable(),
  /** How many are in it for the reader, where it was given to a role of theirs. */
  count: z.number().nullable(),
  place: z.enum(['requests', 'desk', 'people', 'balances', 'planner']),
  id: z.number(),
  own: z.boolean(),
  ownerName: z.string(),
});
export type SavedSet = z.infer<typeof SavedSet>;
export const SavedSets = z.array(SavedSet);

export const StuckRow = z.strictObject({
  request: z.string(),
  version: z.number(),
  title: z.string(),
  workflowName: z.string(),
  askerName: z.string(),
  since: Instant,
  cause: z.enum([
    'no holder',
    'no value',
    'days have passed',
    'holder gone',
    'past every limit',
    'timer failing',
    'step failing',
    'mail not delivered',
    'not done outside',
  ]),
  step: z.string(),
  number: z.string(),
  task: z.string().exactOptional(),
  outbox: z.number().exactOptional(),
  /** Of what was asked of a connection. */
  effect: z.string().exactOptional(),
  timer: z.string().exactOptional(),
  words: z.string(),
  remedies: z.array(
    z.enum([
      ...(['appoint', 'try again', 'give to', 'send again', 'done by hand', 'ask again', 'go on without'] as const),
      ...(['book past', 'let end'] as const),
    ]),
  ),
});
export type StuckRow = z.infer<typeof StuckRow>;
export const StuckRows = z.array(StuckRow);

/** What timers will do in the days ahead. */
export const ComingView = z.strictObject({
  days: z.array(z.strictObject({ day: CivilDate, limits: z.number(), reminders: z.number(), others: z.number() })),
  next: z.array(
    z.strictObject({
      request: z.string(),
      title: z.string(),
      askerName: z.string(),
      holderName: z.string(),
      at: Instant,
      what: z.enum(['remind', 'limit', 'hold', 'aside', 'alert', 'guest', 'facts', 'leave']),
      /** What happens then, in words. */
      words: z.string(),
    }),
  ),
});
export type ComingView = z.infer<typeof ComingView>;

/** Something that a connection was asked for and that is not there. */
export const OutsideView = z.strictObject({
  /** Nothing for what was asked for before effects came back. */
  key: z.string().nullable(),
  number: z.string(),
  what: z.string(),
  state: z.enum(['on its way', 'refused', 'given up']),
  reason: z.string().nullable(),
});
export type OutsideView = z.infer<typeof OutsideView>;

/** A task of a request, as far as its readers are concerned. */
export const TaskView = z.strictObject({
  id: z.string(),
  step: z.string(),
  holder: PersonId,
  holderName: z.string(),
  coverFor: PersonId.nullable(),
  reasons: list(z.string()),
  given: Instant,
  due: Instant.nullable(),
  dueReason: z.string().nullable(),
  /** Of a pool, and whether its holder has taken it. */
  pool: z.enum(['free', 'taken']).exactOptional(),
  /** A question to the asker; until the reply the clock stands still. */
  question: z.strictObject({ text: z.string(), by: PersonId, at: Instant }).exactOptional(),
  /** Out of sight until a day. */
  aside: z.strictObject({ until: CivilDate, back: Instant, note: z.string().nullable() }).exactOptional(),
  lentBy: PersonId.exactOptional(),
  meantFor: PersonId.exactOptional(),
});
export type TaskView = z.infer<typeof TaskView>;

export const TrailLineView = z.strictObject({
  at: Instant,
  /** Nobody when North Pebble acted on its own. */
  by: PersonId.nullable(),
  who: z.string(),
  text: z.string(),
  note: z.string().nullable(),
  why: list(z.string()),
  changes: list(z.strictObject({ label: z.string(), before: z.string(), after: z.string() })),
  /** Files that came with a comment: whoever reads it may open them. */
  files: list(File),
  tone: Tone,
});

const ChangeView = z.strictObject({ field: z.string(), before: AnswerValue, after: AnswerValue });

/** What the reader may do. */
const MayView = z.strictObject({
  /** The task that the reader may answer. */
  answer: z.string().nullable(),
  /** Outcomes of its step that were chosen as often as they may be. */
  spent: list(z.string()),
  /** The task that the reader may do, or take from its pool first. */
  work: z.strictObject({ task: z.string(), free: z.boolean() }).nullable(),
  /** The step for which the reader may hand something in. */
  /** Steps that wait for what the reader can hand in. */
  handIn: z.array(z.string()),
  rework: z.boolean(),
  /** HR operations may with a reason. */
  withdraw: z.boolean(),
  changeOwner: z.boolean(),
  tryAgain: z.boolean(),
  /** The task that the reader may ask about, hand over or set aside. */
  pass: z.string().nullable(),
  /** The task whose question the reader may reply to. */
  reply: z.string().nullable(),
  /** The task that the reader may bring back onto the desk. */
  bringBack: z.string().nullable(),
  change: z.boolean(),
  cancel: z.boolean(),
  moveDate: z.boolean(),
  correct: z.boolean(),
  /** Whether the reader keeps the leave that is booked here: changes its dates or takes it back, with a reason. */
  keepLeave: z.boolean(),
  /** Leave whose days have passed: to book it, or to let it end. */
  decidePast: z.boolean(),
  /** The step for which the reader may name somebody. */
  appoint: z.string().nullable(),
  /** Say of what was asked of a connection that it is done by hand, ask again, or go on without it. */
  helpOutside: z.boolean(),
  comment: z.boolean(),
});

export const RequestView = z.strictObject({
  ...row,
  outside: z.array(OutsideView),
  definition: Definition,
  version: z.number(),
  workflowVersion: z.number(),
  answers: AnswerValues,
  figures: Figures,
  /** What changes of facts counted anew of it, oldest first. */
  restated: list(
    z.strictObject({
      before: z.number(),
      after: z.number(),
      unit: z.enum(['days', 'hours']),
      at: z.string(),
      cause: z.string(),
    }),
  ),
  /** What the dates do not keep to of the rules of the leave type, and who let it pass; nothing where dates are not shown. */
  against: list(z.strictObject({ words: z.string(), passed: z.string().nullable() })),
  /** The steps at which it stands. */
  at: list(z.string()),
  subject: PersonId,
  subjectName: z.string(),
  /** Who looks after it: whoever asked, until somebody else does. */
  owner: PersonId,
  ownerName: z.string(),
  lists: list(List),
  people: z.array(PersonChoice),
  visited: list(z.string()),
  tasks: z.array(TaskView),
  changes: list(ChangeView),
  /** What the asker wants changed or cancelled after approval, while that is decided. */
  afterwards: z.enum(['change', 'cancel']).nullable(),
  /** Answers that were given and are not open to the reader: those that may be opened one at a time, and the rest. */
  closed: z.array(z.strictObject({ field: z.string(), sight: z.enum(['guarded', 'withheld']) })),
  returned: z
    .strictObject({ fields: list(z.string()), note: z.string().nullable(), byName: z.string(), at: Instant })
    .nullable(),
  stuck: z.string().nullable(),
  stuckAt: list(z.strictObject({ step: z.string(), reason: z.string() })),
  closing: z.string().nullable(),
  trail: z.array(TrailLineView),
  /** What the reader has typed and not sent yet, by what it is for. */
  unsent: byName(z.unknown()),
  leave: LeaveReasons.nullable(),
  leaveTypes: z.array(LeaveTypeChoice),
  team: TeamStrip.nullable(),
  /** Told to whoever it is for, while it is open. */
  ahead: AheadView.nullable(),
  usually: UsualTime.nullable(),
  /** The plan counted back from its date, where it has one. */
  plan: PlanView.nullable(),
  /** Why there is no plan, where there should be one. */
  planMissing: z.string().nullable(),
  may: MayView,
});
export type RequestView = z.infer<typeof RequestView>;

export const Looked = z.strictObject({ answer: AnswerValue });
export type Looked = z.infer<typeof Looked>;
export const Sent = z.strictObject({ request: z.string(), version: z.number() });
export type Sent = z.infer<typeof Sent>;
