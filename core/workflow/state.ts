/** The state of a request, folded from its events. */
import type { LeaveSpan } from '../leave/index.ts';
import type { PersonId } from '../people/index.ts';
import type { Instant } from '../time/index.ts';
import type { Answers, Change } from './answers.ts';
import type { FigureValues } from './evaluate.ts';
import type { RequestEvent } from './events.ts';

export type Task = {
  readonly id: string;
  readonly step: string;
  readonly holder: PersonId;
  readonly coverFor: PersonId | null;
  readonly reasons: readonly string[];
  readonly given: Instant;
  readonly due: Instant | null;
  readonly dueReason: string | null;
  readonly reminders: number;
  /** Set once the limit has passed, so that it passes once. */
  readonly late: boolean;
};

export type Return = {
  readonly step: string;
  readonly outcome: string;
  readonly fields: readonly string[];
  readonly resume: string;
  readonly note: string | null;
  readonly by: PersonId | null;
  readonly at: Instant;
};

export type RequestState = {
  readonly request: string;
  /** How many events there are: the version that a command must have seen. */
  readonly version: number;
  readonly status: 'new' | 'open' | 'rework' | 'stuck' | 'closed' | 'withdrawn';
  readonly asker: PersonId | null;
  readonly answers: Answers;
  readonly figures: FigureValues;
  /** The step at which the request stands. */
  readonly at: string | null;
  readonly tasks: readonly Task[];
  /** How many tasks have ever been given, so that each has a name of its own. */
  readonly given: number;
  readonly leave: { state: 'held' | 'booked'; type: string; span: LeaveSpan; planner: boolean } | null;
  /** The last time it was sent back, and what the asker changed since. */
  readonly returned: Return | null;
  readonly changes: readonly Change[];
  /** How often each outcome has sent it back, by `step/outcome`. */
  readonly rounds: Readonly<Record<string, number>>;
  readonly visited: readonly string[];
  readonly closing: string | null;
  readonly stuck: string | null;
  /** The last thing that a person did, for telling someone who comes a moment too late. */
  readonly last: { by: PersonId; at: Instant; did: string } | null;
};

export const newRequest = (request: string): RequestState => ({
  request,
  version: 0,
  status: 'new',
  asker: null,
  answers: {},
  figures: {},
  at: null,
  tasks: [],
  given: 0,
  leave: null,
  returned: null,
  changes: [],
  rounds: {},
  visited: [],
  closing: null,
  stuck: null,
  last: null,
});

/** In these a request still waits for something. */
export const openStatuses: readonly RequestState['status'][] = ['open', 'rework', 'stuck'];

export const isOpen = ({ status }: Pick<RequestState, 'status'>): boolean => openStatuses.includes(status);

const did: Partial<Record<RequestEvent['kind'], string>> = {
  asked: 'sent',
  answered: 'answered',
  'sent back': 'sent back',
  reworked: 'changed',
  withdrawn: 'withdrew',
  'tried again': 'moved on',
};

/** The state after one more event. */
export function reduce(before: RequestState, event: RequestEvent): RequestState {
  const last = event.by && did[event.kind] ? { by: event.by, at: event.at, did: did[event.kind]! } : before.last;
  const state = { ...before, version: before.version + 1, last };
  switch (event.kind) {
    case 'asked':
      return { ...state, status: 'open', asker: event.asker, answers: event.answers, figures: event.figures };
    case 'held':
    case 'booked':
      return { ...state, leave: { state: event.kind, type: event.type, span: event.span, planner: event.planner } };
    case 'released':
      return { ...state, leave: null };
    case 'entered':
      return {
        ...state,
        status: 'open',
        at: event.step,
        visited: state.visited.includes(event.step) ? state.visited : [...state.visited, event.step],
      };
    case 'given': {
      const task: Task = {
        id: event.task,
        step: event.step,
        holder: event.holder,
        coverFor: event.coverFor,
        reasons: event.reasons,
        given: event.at,
        due: event.due,
        dueReason: event.dueReason,
        reminders: 0,
        late: false,
      };
      return { ...state, tasks: [...state.tasks, task], given: state.given + 1 };
    }
    case 'answered':
    case 'ended':
      return { ...state, tasks: state.tasks.filter(t => t.id !== event.task) };
    case 'reminded':
      return { ...state, tasks: changeTask(state, event.task, t => ({ reminders: t.reminders + 1 })) };
    case 'passed limit':
      return { ...state, tasks: changeTask(state, event.task, () => ({ late: true })) };
    case 'sent back': {
      const key = `${event.step}/${event.outcome}`;
      return {
        ...state,
        status: 'rework',
        returned: {
          step: event.step,
          outcome: event.outcome,
          fields: event.fields,
          resume: event.resume,
          note: event.note,
          by: event.by,
          at: event.at,
        },
        changes: [],
        rounds: { ...state.rounds, [key]: (state.rounds[key] ?? 0) + 1 },
      };
    }
    case 'reworked':
      return {
        ...state,
        status: 'open',
        answers: event.answers,
        figures: event.figures,
        changes: event.changes,
        visited: [],
      };
    case 'stuck':
      return { ...state, status: 'stuck', at: event.step, stuck: event.reason };
    case 'tried again':
      return { ...state, status: 'open', stuck: null };
    case 'withdrawn':
      return { ...state, status: 'withdrawn', at: null };
    case 'closed':
      return { ...state, status: 'closed', closing: event.closing, at: null };
    case 'skipped':
    case 'chose':
    case 'told':
      return state;
  }
}

const changeTask = (state: RequestState, id: string, change: (task: Task) => Partial<Task>): Task[] =>
  state.tasks.map(t => (t.id === id ? { ...t, ...change(t) } : t));

export const fold = (request: string, events: readonly RequestEvent[]): RequestState =>
  events.reduce(reduce, newRequest(request));
