/** The shelf and the sheet. */
import type { PersonId } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import { Definition, type Finding } from '@north-pebble/core/workflow';
import { z } from 'zod';

export type ShelfRow = {
  id: string;
  name: string;
  area: string;
  purpose: string;
  liveVersion: number | null;
  open: number;
  stuck: number;
  typicalDays: number | null;
  hasDraft: boolean;
};

export type AskableRow = { id: string; name: string; area: string; purpose: string };

export type DraftView = { definition: Definition; revision: number; savedAt: Instant; savedBy: string };

export type SheetView = {
  id: string;
  /** Grows with every save, discard and publish; what a save must have seen. */
  revision: number;
  live: { version: number; definition: Definition; publishedAt: Instant; publishedBy: string; open: number } | null;
  draft: DraftView | null;
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
export type FindingsProblem = { findings: Finding[] };

export type MailView = {
  id: string;
  at: string;
  from: string;
  to: string;
  subject: string;
  text: string;
};
export type MailroomView = {
  mails: MailView[];
  reachable: boolean;
  waiting: { to: PersonId; subject: string; attempts: number }[];
};
