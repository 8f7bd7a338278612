/** The seals of the trail: each is made of an event and of the seal before it, so that a change by hand shows. */
import type { RequestEvent } from '@north-pebble/core/workflow';
import type { Keys } from './keys.ts';

/** What the seal of an event is made of. @param before the seal of the event before, nothing for the first one */
export const sealedText = (before: string | null, request: string, seq: number, event: RequestEvent): string =>
  `${before ?? ''}\n${request}\n${seq}\n${JSON.stringify(event)}`;

export const sealOf = (keys: Keys, before: string | null, request: string, seq: number, event: RequestEvent): string =>
  keys.seal(sealedText(before, request, seq, event));

/** What of a request stands in columns, to be sought and counted by, beside what its first event says. */
export type SealedRow = {
  readonly id: string | null;
  readonly workflow: string;
  readonly workflowVersion: number;
  /** Nothing when it is the asker. */
  readonly subject: string | null;
  readonly status: string;
  readonly closing: string | null;
  readonly title: string;
  readonly closedAt: string | null;
  readonly head: string | null;
};

/** What the seal of a request's row is made of: its newest event among it, so that no row of before takes its place. */
export const rowText = (row: SealedRow): string =>
  JSON.stringify([
    row.id,
    row.workflow,
    row.workflowVersion,
    row.subject,
    row.status,
    row.closing,
    row.title,
    row.closedAt,
    row.head,
  ]);
