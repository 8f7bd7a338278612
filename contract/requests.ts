/** Asking, deciding, and one request as its readers see it. */
import type { AccessLevel, Answer, Answers, Change, FieldFault, ReferenceList } from '@north-pebble/core/form';
import { type BalanceAhead, type DayReason, LeaveSpan } from '@north-pebble/core/leave';
import { type PersonId, PersonId as PersonIdSchema } from '@north-pebble/core/people';
import type { AheadStep } from '@north-pebble/core/proof';
import { type CivilDate, type Instant, NearDate } from '@north-pebble/core/time';
import {
  Command,
  type Definition,
  type FigureValues,
  GivenAnswers,
  type RequestState,
  type Task,
  type TrailLine,
} from '@north-pebble/core/workflow';
import { z } from 'zod';

/** How many letters of typing are kept at one place. */
const mostUnsent = 60_000;

const CommandId = z.uuid('A command needs an id of its own.');

export const Submit = z.object({
  id: CommandId,
  workflow: z.string().min(1).max(40),
  /** For whom it is asked, when not for oneself. */
  subject: z.string().min(1).max(40).nullish(),
  answers: GivenAnswers,
});
export type Submit = z.infer<typeof Submit>;

/** HR books leave for somebody: also for days that have passed, with a reason. */
export const BookLeave = z.object({
  id: CommandId,
  person: PersonIdSchema,
  type: z.string().min(1).max(40),
  span: LeaveSpan,
  reason: z.string().trim().min(1, 'Say why.').max(1000),
});
export type BookLeave = z.infer<typeof BookLeave>;

export const SendCommand = z.object({ id: CommandId, command: Command });
export type SendCommand = z.infer<typeof SendCommand>;

export const PreviewInput = z.object({
  workflow: z.string().min(1).max(40),
  /** The request that is being changed, when it is not a new one. */
  request: z.string().max(40).nullish(),
  subject: z.string().min(1).max(40).nullish(),
  answers: GivenAnswers,
  /** Fields that the asker has typed in; the others take what is known. */
  touched: z.array(z.string().max(80)).max(500).optional(),
});
export type PreviewInput = z.infer<typeof PreviewInput>;

/** The answers to "Why?" about the days and the balance. */
export type LeaveReasons = {
  days: DayReason[];
  /** Nothing for readers who may not see the balance. */
  balance: BalanceAhead | null;
  /** What is worth knowing before it is sent. */
  notes: string[];
};

/** One choice of a list, as a form offers it. */
export type PersonChoice = { id: PersonId; name: string };

export type PreviewView = {
  /** What stands in the fields, with everything that is known filled in. */
  answers: Answers;
  /** The fields that are asked for these answers, and what may be done with each. */
  fields: { id: string; level: AccessLevel }[];
  faults: FieldFault[];
  figures: FigureValues;
  leave: LeaveReasons | null;
  /** Who of the team is away in the span. */
  others: string[];
  /** What would happen after sending, if everybody agrees; nothing while there are faults. */
  ahead: AheadView | null;
};

/** Who comes next, in turn, and how it ends. */
export type AheadView = {
  steps: {
    number: string;
    verb: AheadStep['verb'];
    people: { name: string; reasons: readonly string[] }[];
    due: Instant | null;
    waits: string | null;
  }[];
  ends: string | null;
};

export const SaveDraft = z.object({
  answers: GivenAnswers.refine(answers => JSON.stringify(answers).length <= mostUnsent, 'That is too much to be kept.'),
});
export type SaveDraft = z.infer<typeof SaveDraft>;

export type LeaveTypeChoice = {
  id: string;
  name: string;
  hasBalance: boolean;
  /** Whether it may be asked for with times. */
  times?: boolean;
};

/** How long the latest requests of a workflow took from asking to the end, in days. */
export type UsualTime = { median: number; nineInTen: number; of: number };

export type AskView = {
  workflow: string;
  version: number;
  definition: Definition;
  leaveTypes: LeaveTypeChoice[];
  /** The reference lists that its fields pick from. */
  lists: readonly ReferenceList[];
  people: PersonChoice[];
  /** For whom it may be asked besides oneself. */
  subjects: PersonChoice[];
  /** How long the latest of them took from asking to the end; nothing while there are too few. */
  usually: UsualTime | null;
  draft: { answers: Record<string, unknown>; savedAt: Instant } | null;
};

export type RequestRow = {
  id: string;
  title: string;
  workflow: string;
  asker: PersonId;
  askerName: string;
  status: RequestState['status'];
  /** In words: `waits for Tobias Fennimore`, `Approved`. */
  standing: string;
  workflowName: string;
  askedAt: Instant;
  closedAt: Instant | null;
};

/** The columns of the requests place, with their headings. */
export const requestColumns = {
  request: 'Request',
  what: 'What',
  workflow: 'Workflow',
  asker: 'Asked by',
  standing: 'Where it stands',
  asked: 'Asked',
  closed: 'Closed',
} as const;
export type RequestColumn = keyof typeof requestColumns;
const Columns = z.enum(Object.keys(requestColumns) as [RequestColumn, ...RequestColumn[]]);

/** Several values of one filter stand in the address side by side, with commas. */
const listOf = <T extends z.ZodType<string, string>>(one: T) =>
  z
    .string()
    .max(2000)
    .default('')
    .transform(text => text.split(',').filter(Boolean))
    .pipe(z.array(one));

export const FindRequests = z.object({
  whose: z.enum(['mine', 'held', 'team', 'care', 'all']).default('mine'),
  status: listOf(z.enum(['open', 'rework', 'stuck', 'closed', 'withdrawn'])),
  workflow: listOf(z.string().max(40)),
  words: z.string().trim().max(100).default(''),
  from: z.union([NearDate, z.literal('').transform(() => undefined)]).optional(),
  to: z.union([NearDate, z.literal('').transform(() => undefined)]).optional(),
  columns: listOf(Columns).transform(found =>
    found.length > 0 ? found : (Object.keys(requestColumns) as RequestColumn[]),
  ),
  /** Only those before this number: the next page. */
  before: z.coerce.number().int().positive().optional(),
});
export type FindRequests = z.infer<typeof FindRequests>;

/** `total` is counted with the first page only. */
export type FoundRequests = { rows: RequestRow[]; total: number | null; next: number | null };

/** Of which place the filters are. */
const SetPlace = z.enum(['requests', 'desk']);
export const NewSet = z.object({
  place: SetPlace.default('requests'),
  name: z.string().trim().min(1, 'Give it a name.').max(80),
  query: z.string().max(2000),
  shared: z.boolean(),
});
export type NewSet = z.infer<typeof NewSet>;
export type SavedSet = NewSet & { id: number; own: boolean; ownerName: string };

export type StuckRow = {
  request: string;
  version: number;
  title: string;
  workflowName: string;
  askerName: string;
  since: Instant;
  cause:
    | 'no holder'
    | 'no value'
    | 'holder gone'
    | 'past every limit'
    | 'timer failing'
    | 'mail not delivered'
    | 'not done outside';
  step: string;
  number: string;
  task?: string;
  outbox?: number;
  /** Of what was asked of a connection. */
  effect?: string;
  timer?: string;
  words: string;
  remedies: ('appoint' | 'try again' | 'give to' | 'send again' | 'done by hand' | 'ask again' | 'go on without')[];
};

/** What timers will do in the days ahead. */
export type ComingView = {
  days: { day: CivilDate; limits: number; reminders: number; others: number }[];
  next: {
    request: string;
    title: string;
    askerName: string;
    holderName: string;
    at: Instant;
    what: 'remind' | 'limit' | 'hold' | 'aside';
    /** What happens then, in words. */
    words: string;
  }[];
};

export const HelpEffect = z.object({ how: z.enum(['again', 'done']) });

/** Something that a connection was asked for and that is not there. */
export type OutsideView = {
  /** Nothing for what was asked for before effects came back. */
  key: string | null;
  number: string;
  what: string;
  state: 'on its way' | 'refused' | 'given up';
  reason: string | null;
};

export type RequestView = RequestRow & {
  outside: OutsideView[];
  definition: Definition;
  version: number;
  workflowVersion: number;
  answers: Answers;
  figures: FigureValues;
  /** The steps at which it stands. */
  at: readonly string[];
  subject: PersonId;
  subjectName: string;
  lists: readonly ReferenceList[];
  people: PersonChoice[];
  visited: readonly string[];
  tasks: (Task & { holderName: string })[];
  changes: readonly Change[];
  /** What the asker wants changed or cancelled after approval, while that is decided. */
  afterwards: 'change' | 'cancel' | null;
  /** Answers that were given and are not open to the reader: those that may be opened one at a time, and the rest. */
  closed: { field: string; sight: 'guarded' | 'withheld' }[];
  returned: { fields: readonly string[]; note: string | null; byName: string; at: Instant } | null;
  stuck: string | null;
  stuckAt: readonly { step: string; reason: string }[];
  closing: string | null;
  trail: TrailLine[];
  /** What the reader has typed and not sent yet, by what it is for. */
  unsent: Readonly<Record<string, unknown>>;
  leave: LeaveReasons | null;
  leaveTypes: LeaveTypeChoice[];
  team: TeamStrip | null;
  /** Told to whoever it is for, while it is open. */
  ahead: AheadView | null;
  usually: UsualTime | null;
  /** What the reader may do. */
  may: {
    /** The task that the reader may answer. */
    answer: string | null;
    /** Outcomes of its step that were chosen as often as they may be. */
    spent: readonly string[];
    /** The task that the reader may do, or take from its pool first. */
    work: { task: string; free: boolean } | null;
    /** The step for which the reader may hand something in. */
    handIn: string | null;
    rework: boolean;
    withdraw: boolean;
    tryAgain: boolean;
    /** The task that the reader may ask about, hand over or set aside. */
    pass: string | null;
    /** The task whose question the reader may reply to. */
    reply: string | null;
    /** The task that the reader may bring back onto the desk. */
    bringBack: string | null;
    change: boolean;
    cancel: boolean;
    correct: boolean;
    /** Whether the reader keeps the leave that is booked here: changes its dates or takes it back, with a reason. */
    keepLeave: boolean;
    /** The step for which the reader may name somebody. */
    appoint: string | null;
    /** Say of what was asked of a connection that it is done by hand, ask again, or go on without it. */
    helpOutside: boolean;
    comment: boolean;
  };
};

/** The days around a span and who of the team is away on them. */
export type TeamStrip = {
  days: string[];
  people: { name: string; asker: boolean; marks: ('free' | 'here' | 'am' | 'pm' | 'away' | 'held')[] }[];
  here: number[];
};

/** What was typed for a request and not sent yet; nothing when it was sent or emptied. */
export const Unsent = z
  .object({ value: z.json() })
  .refine(({ value }) => JSON.stringify(value).length <= mostUnsent, 'That is too much to be kept.');
export type Unsent = z.infer<typeof Unsent>;
export const UnsentWhat = z.string().min(1).max(80);

/** Opening one answer that only named readers see; it is recorded. */
export const Look = z.object({ id: CommandId, field: z.string().min(1).max(40) });
export type Look = z.infer<typeof Look>;
export type Looked = { answer: Answer };

export const NewFile = z.object({ name: z.string().trim().min(1, 'A file needs a name.').max(200) });

export type Sent = { request: string; version: number };
