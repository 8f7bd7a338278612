/** Asking, deciding, and one request as its readers see it. */
import type { AccessLevel, Answers, Change, FieldFault, ReferenceList } from '@north-pebble/core/form';
import type { BalanceAhead, DayReason } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import {
  Command,
  type Definition,
  type FigureValues,
  type RequestState,
  type Task,
  type TrailLine,
} from '@north-pebble/core/workflow';
import { z } from 'zod';

const CommandId = z.uuid('A command needs an id of its own.');

export const Submit = z.object({
  id: CommandId,
  workflow: z.string().min(1),
  /** For whom it is asked, when not for oneself. */
  subject: z.string().min(1).max(40).nullish(),
  answers: z.record(z.string(), z.unknown()),
});
export type Submit = z.infer<typeof Submit>;

export const SendCommand = z.object({ id: CommandId, command: Command });
export type SendCommand = z.infer<typeof SendCommand>;

export const PreviewInput = z.object({
  workflow: z.string().min(1),
  /** The request that is being changed, when it is not a new one. */
  request: z.string().nullish(),
  subject: z.string().min(1).max(40).nullish(),
  answers: z.record(z.string(), z.unknown()),
  /** Fields that the asker has typed in; the others take what is known. */
  touched: z.array(z.string()).max(500).optional(),
});
export type PreviewInput = z.infer<typeof PreviewInput>;

/** The answers to "Why?" about the days and the balance. */
export type LeaveReasons = {
  days: DayReason[];
  balance: BalanceAhead | null;
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
};

export const SaveDraft = z.object({ answers: z.record(z.string(), z.unknown()) });
export type SaveDraft = z.infer<typeof SaveDraft>;

export type LeaveTypeChoice = { id: string; name: string; hasBalance: boolean };

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
  askedAt: Instant;
};

export type RequestView = RequestRow & {
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
  returned: { fields: readonly string[]; note: string | null; byName: string; at: Instant } | null;
  stuck: string | null;
  stuckAt: readonly { step: string; reason: string }[];
  closing: string | null;
  trail: TrailLine[];
  leave: LeaveReasons | null;
  leaveTypes: LeaveTypeChoice[];
  team: TeamStrip | null;
  /** What the reader may do. */
  may: {
    /** The task that the reader may answer. */
    answer: string | null;
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
    /** The step for which the reader may name somebody. */
    appoint: string | null;
    comment: boolean;
  };
};

/** The days around a span and who of the team is away on them. */
export type TeamStrip = {
  days: string[];
  people: { name: string; asker: boolean; marks: ('free' | 'here' | 'am' | 'pm' | 'away' | 'held')[] }[];
  here: number[];
};

export type Sent = { request: string; version: number };
