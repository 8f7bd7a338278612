/** What can happen to a request. Events are only ever added; everything known about a request is folded from them. */
import type { LeaveSpan } from '../leave/index.ts';
import type { PersonId } from '../people/index.ts';
import type { Instant } from '../time/index.ts';
import type { Answers, Change } from './answers.ts';
import type { FigureValues } from './evaluate.ts';

export type Happening =
  | { kind: 'asked'; asker: PersonId; answers: Answers; figures: FigureValues }
  | { kind: 'held' | 'booked'; type: string; span: LeaveSpan; planner: boolean }
  | { kind: 'released'; reason: string }
  | { kind: 'entered'; step: string }
  | { kind: 'skipped'; step: string; reason: string }
  | { kind: 'chose'; step: string; row: string | null; reason: string }
  | {
      kind: 'given';
      step: string;
      task: string;
      holder: PersonId;
      coverFor: PersonId | null;
      reasons: readonly string[];
      due: Instant | null;
      dueReason: string | null;
    }
  | { kind: 'answered'; step: string; task: string; outcome: string; note: string | null; coverFor: PersonId | null }
  | { kind: 'ended'; task: string; reason: string }
  | { kind: 'reminded'; task: string }
  | { kind: 'passed limit'; task: string; next: string }
  | { kind: 'sent back'; step: string; outcome: string; fields: readonly string[]; resume: string; note: string | null }
  | { kind: 'reworked'; answers: Answers; figures: FigureValues; changes: readonly Change[] }
  | { kind: 'told'; people: readonly PersonId[]; message: string }
  | { kind: 'stuck'; step: string; reason: string }
  | { kind: 'tried again' }
  | { kind: 'withdrawn'; note: string | null }
  | { kind: 'closed'; closing: string };

/** `by` is nobody when North Pebble acts on its own. */
export type RequestEvent = Happening & { readonly at: Instant; readonly by: PersonId | null };
export type EventOf<Kind extends Happening['kind']> = Extract<RequestEvent, { kind: Kind }>;

/** What is to be done outside the request, described; the server carries it out after the events are stored. */
export type Effect =
  | { kind: 'mail'; key: string; to: PersonId; subject: string; body: string }
  | { kind: 'timer'; key: string; task: string; what: 'remind' | 'limit'; at: Instant };
