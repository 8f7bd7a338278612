/** What waits for a person. */
import type { PersonId } from '@north-pebble/core/people';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import type { Outcome } from '@north-pebble/core/workflow';

export type DeskItem = {
  request: string;
  /** What is to be done: decide, do a task, reply to a question, rework or complete one's own request. */
  kind: 'decide' | 'do' | 'reply' | 'rework' | 'hand in' | 'stuck';
  workflow: string;
  workflowName: string;
  again: boolean;
  /** What was approved is asked to be changed or cancelled. */
  afterwards: 'change' | 'cancel' | null;
  asker: PersonId;
  askerName: string;
  /** `4½ days of annual leave`. */
  what: string;
  /** `Mon 9 to Fri 13 February · balance after 7½`. */
  facts: string[];
  /** For whom the reader stands in. */
  coverFor: string | null;
  /** Who stands in for the reader; both see the item. */
  coveredBy: string | null;
  /** Set aside by the reader until a day. */
  aside: { until: CivilDate; note: string | null } | null;
  /** A question that the asker has not answered; the clock stands still. */
  question: string | null;
  due: Instant | null;
  /** The role to which it came, when not to the reader in person. */
  role: string | null;
  /** What is needed to answer it together with others like it: nothing to fill in, and the same outcomes. */
  together: {
    seen: number;
    task: string;
    step: string;
    outcomes: Pick<Outcome, 'id' | 'label' | 'tone' | 'note'>[];
  } | null;
};

export type DeskView = {
  now: Instant;
  zone: string;
  items: DeskItem[];
  done: { at: Instant; request: string; text: string }[];
  /** How much the reader did in each of the last weeks, the current one last. */
  weeks: { from: CivilDate; done: number }[];
};

/** How much waits, told by itself whenever it changes. */
export type DeskCount = { waiting: number };
