/** The shelf and the sheet. */
import type { ReferenceList } from '@north-pebble/core/form';
import type { Adjustment, LeaveEntry, LeaveType, NamedPlan } from '@north-pebble/core/leave';
import type { Away, PersonId } from '@north-pebble/core/people';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import { Definition, type Finding } from '@north-pebble/core/workflow';
import { z } from 'zod';

/** Who may do what with one workflow, by person; everybody with the right to design when nothing is said. */
export const Permissions = z.object({
  edit: z.array(z.string().max(40)).max(200),
  publish: z.array(z.string().max(40)).max(200),
  see: z.array(z.string().max(40)).max(200),
});
export type Permissions = z.infer<typeof Permissions>;
/** Nothing: every designer may. */
export const SetPermissions = z.object({ permissions: Permissions.nullable() });

export type ShelfRow = {
  id: string;
  name: string;
  area: string;
  purpose: string;
  tags: string[];
  /** The workflow in one sentence, made from its definition. */
  sentence: string;
  /** How many findings stop the draft, or the live version when there is none, and how many warn. */
  findings: { stops: number; warns: number } | null;
  /** Whether they are being worked out for how things stand now. */
  checking: boolean;
  archived: boolean;
  liveVersion: number | null;
  open: number;
  stuck: number;
  typicalDays: number | null;
  hasDraft: boolean;
};

export type AskableRow = { id: string; name: string; area: string; purpose: string };

export type DraftView = { definition: Definition; revision: number; savedAt: Instant; savedBy: string };

/** How far a draft has come, and who saved it last: what an open sheet looks for. */
export type DraftMark = { revision: number; savedBy: string | null; savedAt: Instant | null };

export type SheetView = {
  id: string;
  /** Grows with every save, discard and publish; what a save must have seen. */
  revision: number;
  live: { version: number; definition: Definition; publishedAt: Instant; publishedBy: string; open: number } | null;
  draft: DraftView | null;
  archivedAt: Instant | null;
  permissions: Permissions | null;
  may: { edit: boolean; publish: boolean };
  versions: { version: number; publishedAt: Instant; publishedBy: string; comment: string; open: number }[];
};

/** `revision` is the one that the designer had in front of them; another's newer one is never overwritten. */
export const SaveSheet = z.object({ revision: z.number().int().nonnegative(), definition: Definition });
export type SaveSheet = z.infer<typeof SaveSheet>;

export const Publish = z.object({
  revision: z.number().int().nonnegative(),
  comment: z.string().trim().min(1, 'Say in a few words what changes.').max(500),
});
export type Publish = z.infer<typeof Publish>;

export type Published = { version: number };

/** A new workflow from a definition: a starter, a copy, a file, or nearly nothing. */
export type Begun = { id: string };

export const Archive = z.object({ archived: z.boolean() });
export const TakeBack = z.object({ revision: z.number().int().nonnegative(), version: z.number().int().positive() });
export type TakeBack = z.infer<typeof TakeBack>;
export const Move = z.object({
  requests: z.array(z.string().max(40)).min(1).max(1000),
  reason: z.string().trim().min(1, 'Say why they are moved.').max(500),
});
export type Move = z.infer<typeof Move>;

/** An open request on an older version, and why it does not fit the live one. */
export type Movable = {
  request: string;
  title: string;
  askerName: string;
  version: number;
  standing: string;
  obstacles: string[];
};
export type MovedView = { moved: string[]; refused: { request: string; why: string }[] };

/** What a rehearsal needs to know about one person. */
export type RehearsalView = {
  types: LeaveType[];
  plans: NamedPlan[];
  entries: LeaveEntry[];
  adjustments: Adjustment[];
  away: Away[];
};
/** What the sheet checks a definition against, besides the directory. */
export type SurroundingsView = {
  lists: ReferenceList[];
  leaveTypes: { id: string; name: string }[];
  workflows: { id: string; name: string }[];
  /** Names of the connections that are set up. */
  connections: string[];
  today: CivilDate;
};
export type FindingsProblem = { findings: Finding[] };

export type MailView = {
  id: string;
  at: string;
  from: string;
  to: string;
  /** Where a reply decides; nothing when it cannot be answered. */
  replyTo?: string;
  subject: string;
  text: string;
};

/** A reply as the recipient of a mail, in the demo only. */
export const AnswerMail = z.object({
  id: z.string().min(1).max(300),
  text: z.string().trim().min(1, 'Write something.').max(20_000),
});
export type AnswerMail = z.infer<typeof AnswerMail>;

export type MailroomView = {
  mails: MailView[];
  reachable: boolean;
  waiting: { to: PersonId; subject: string; attempts: number }[];
};
