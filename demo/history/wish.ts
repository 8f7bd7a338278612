/** What somebody will ask for and how it will go: settled before anything is played, so that a history is the same twice. */
import type { Answers } from '@north-pebble/core/form';
import type { HalfSpan } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';

/** A command of the asker, without the version that they see then. */
export type AskersDeed =
  | { kind: 'move date'; date: CivilDate; reason: string }
  | { kind: 'cancel after approval'; note: string };

export type Wish = {
  workflow: string;
  answers: Record<string, unknown>;
  /** For whom, when that is not the asker. */
  subject?: PersonId;
};

/** What a decider will say, and after how many hours. */
export type Fate = {
  outcome: 'approve' | 'send-back' | 'decline';
  hours: number;
  asked: boolean;
  /** Tasks that nobody has come to yet. */
  leaves?: readonly string[];
  /** The step at which it is declined; the first that decides when nothing is said. */
  declines?: string;
  /** How many parts a guest hands in; all of them when nothing is said. */
  handsIn?: number;
  /** What the asker does later, of themselves. */
  later?: readonly { at: number; command: AskersDeed }[];
};

export type Asking = { person: PersonId; at: number; wish: Wish; fate: Fate };

export const spanOf = (answers: Answers | Wish['answers']): HalfSpan | undefined => {
  const dates = answers.dates as HalfSpan | undefined;
  return typeof dates?.from === 'object' ? dates : undefined;
};
