/** What waits for a person. */
import type { PersonId } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';

export type DeskItem = {
  request: string;
  /** What is to be done: decide, do a task, rework or complete one's own request. */
  kind: 'decide' | 'do' | 'rework' | 'hand in' | 'stuck';
  again: boolean;
  asker: PersonId;
  askerName: string;
  /** `4½ days of annual leave`. */
  what: string;
  /** `Mon 9 to Fri 13 February · balance after 7½`. */
  facts: string[];
  coverFor: string | null;
  due: Instant | null;
};

export type DeskView = {
  now: Instant;
  zone: string;
  items: DeskItem[];
  done: { at: Instant; request: string; text: string }[];
};
