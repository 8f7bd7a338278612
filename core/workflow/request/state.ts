/** The state of a request, as it is folded from its events. */
import { type Answers, type Change, isEmptyAnswer } from '../../form/index.ts';
import type { AskedInstead, LeaveSpan } from '../../leave/index.ts';
import { type Holder, isTheirOwn, type PersonId } from '../../people/index.ts';
import type { CivilDate, Instant } from '../../time/index.ts';
import type { FigureValues } from '../figures/evaluate.ts';
import type { Filled, HeldLetter, KeptLimit, OutsideAsker } from './events.ts';
import type { GuestStanding } from './guest.ts';
import type { Invitation } from './outgoing.ts';
import type { Ask, Reason } from './reason.ts';

export type Task = {
  readonly id: string;
  readonly step: string;
  readonly holder: PersonId;
  readonly coverFor: PersonId | null;
  readonly reasons: readonly Reason[];
  readonly given: Instant;
  readonly due: Instant | null;
  readonly dueReason: Reason | null;
  readonly reminders: number;
  /** Set once the limit has passed, so that it passes once. */
  readonly late: boolean;
  /** Of a pool, and whether its holder has taken it. */
  readonly pool?: 'free' | 'taken';
  readonly rest?: readonly Holder[];
  readonly remindAt?: Instant;
  /** A question to the asker; until the reply the clock stands still. */
  readonly question?: { readonly text: string; readonly by: PersonId; readonly at: Instant };
  /** Out of sight until a day. */
  readonly aside?: { readonly until: CivilDate; readonly back: Instant; readonly note: string | null };
  readonly lentBy?: PersonId;
  readonly meantFor?: PersonId;
  readonly had?: readonly PersonId[];
};

/** What stood approved when a change or a cancellation was asked for. */
export type Approved = {
  readonly what: 'change' | 'cancel';
  readonly closing: string;
  readonly answers: Answers;
  readonly figures: FigureValues;
  readonly leave: RequestState['leave'];
  readonly note: string | null;
};

export type Return = {
  readonly step: string;
  readonly outcome: string;
  /** Who may change it. */
  readonly to: PersonId | null;
  readonly fields: readonly string[];
  readonly resume: string;
  readonly note: string | null;
  readonly by: PersonId | null;
  readonly at: Instant;
};

/** An answer of one person at one step. */
export type Vote = { readonly person: PersonId; readonly outcome: string; readonly stoodIn?: true };

/** An answer that may still stand after a rework, with all that changed since it was given. */
export type Given = Vote & { readonly changed: readonly string[]; readonly round: number };

/** Asked for and not there: on its way, refused, or given up. */
export type Undelivered = {
  readonly step: string;
  readonly what: Ask;
  readonly key?: string;
  readonly refused?: string;
  readonly givenUp?: true;
};

/**
 * The number of the form in which states are stored now; `stored.ts` reads those of older ones. Since 3 it is kept when
 * each step was finished, which an older state does not tell: it is folded anew before it is worked with. Since 4 it
 * is kept what holders granted otherwise.
 */
export const stateForm = 4;

/** What a holder changed of what was asked for, and what they said to it. */
export type Otherwise = { readonly by: PersonId; readonly note: string | null; readonly changes: readonly Change[] };

export type RequestState = {
  readonly form: 2 | 3 | typeof stateForm;
  readonly request: string;
  /** How many events there are: the version that a command must have seen. */
  readonly version: number;
  /** How many there were when it last changed: a word or a look since then makes nobody come too late. */
  readonly changed: number;
  readonly status: 'new' | 'open' | 'rework' | 'stuck' | 'closed' | 'withdrawn';
  readonly asker: PersonId | null;
  /** Who asked for it from outside; the asker keeps it for them in the house. */
  readonly outside?: OutsideAsker;
  /** For whom it is asked; the asker as a rule. */
  readonly subject: PersonId | null;
  /** Who looks after it, once that is not the asker any more. */
  readonly owner?: PersonId;
  readonly answers: Answers;
  readonly figures: FigureValues;
  /** The steps at which the request stands: one, or one in each open lane besides the split around it. */
  readonly at: readonly string[];
  readonly tasks: readonly Task[];
  /** How many tasks have ever been given, so that each has a name of its own. */
  readonly given: number;
  readonly leave: {
    state: 'held' | 'booked';
    type: string;
    span: LeaveSpan;
    planner: boolean;
    reason?: string;
    /** What is asked for in its place, while a change of it is decided. */
    instead?: AskedInstead;
  } | null;
  /** Limits of the leave type that the dates do not keep to, as they were met when they were asked for. */
  readonly against?: readonly KeptLimit[];
  /** The last time it was sent back, and what was changed since. */
  readonly returned: Return | null;
  readonly changes: readonly Change[];
  /** What holders changed of what was asked for, since it was asked last. */
  readonly otherwise?: readonly Otherwise[];
  /** How often each outcome has sent it back, by `step/outcome`. */
  readonly rounds: Readonly<Record<string, number>>;
  /** How often it has come back changed. */
  readonly reworks: number;
  readonly visited: readonly string[];
  /** Answers of the current visit to a step, and out of how many. */
  readonly votes: Readonly<Record<string, readonly Vote[]>>;
  readonly asked: Readonly<Record<string, number>>;
  /** Every person’s last answer at a step. */
  readonly answered: Readonly<Record<string, readonly Given[]>>;
  /** Who settled a step, by step, the last to be settled last. */
  readonly settled: readonly {
    readonly step: string;
    readonly outcome: string;
    readonly people: readonly PersonId[];
    /** Those of them who answered in somebody else’s place. */
    readonly stoodIn?: readonly PersonId[];
  }[];
  /** When a step was last finished, by step: what people held, and what was skipped. */
  readonly finished?: Readonly<Record<string, Instant>>;
  /** Who was told that it is not ready, and when; gone when it is. */
  readonly alerted?: { readonly people: readonly PersonId[]; readonly at: Instant } | null;
  /** Lanes that are done, by split. */
  readonly lanes: Readonly<Record<string, readonly string[]>>;
  readonly holds: readonly {
    readonly step: string;
    readonly until: Instant | null;
    readonly reason: Reason;
    readonly reminders?: number;
    readonly remindAt?: Instant;
  }[];
  /** What was asked for outside and is not delivered, by step. */
  readonly undelivered: readonly Undelivered[];
  /** What was delivered outside and stands there, by the key of its effect. */
  /** Keys of the effects that put somebody on file. */
  readonly onFile?: readonly string[];
  readonly provided?: readonly { readonly step: string; readonly key: string; readonly what?: Ask }[];
  /** Messages that wait until what they tell of is done. */
  /** What calendars were asked to keep, by the step that asked; kept when it was taken back, since the next one counts on. */
  readonly invitations?: Readonly<
    Record<
      string,
      {
        readonly invitation: Invitation;
        readonly people: readonly PersonId[];
        readonly addresses: readonly string[];
        readonly live: boolean;
      }
    >
  >;
  readonly heldBack?: readonly ({ readonly message: string } & HeldLetter)[];
  /** Requests that this one opened and that have not ended, by key. */
  readonly opened: readonly string[];
  /** Guests who fill sections in, by step. */
  readonly guests?: Readonly<Record<string, GuestStanding>>;
  readonly closing: string | null;
  /** What was said with the last answer that had a note. */
  readonly reason: string | null;
  /** Set while a change or a cancellation after approval is on its way. */
  readonly approved?: Approved | null;
  readonly stuckAt: readonly { readonly step: string; readonly reason: Reason }[];
  /** The reason of the first place where it is stuck. */
  readonly stuck: Reason | null;
  /** The last thing that a person did, for telling someone who comes a moment too late. */
  readonly last: { by: PersonId; at: Instant; did: string } | null;
};

export const newRequest = (request: string): RequestState => ({
  form: stateForm,
  request,
  version: 0,
  changed: 0,
  status: 'new',
  asker: null,
  subject: null,
  answers: {},
  figures: {},
  at: [],
  tasks: [],
  given: 0,
  leave: null,
  returned: null,
  changes: [],
  rounds: {},
  reworks: 0,
  visited: [],
  votes: {},
  asked: {},
  answered: {},
  settled: [],
  lanes: {},
  holds: [],
  undelivered: [],
  opened: [],
  closing: null,
  reason: null,
  stuckAt: [],
  stuck: null,
  last: null,
});

/** In these a request still waits for something. */
export const openStatuses: readonly RequestState['status'][] = ['open', 'rework', 'stuck'];

export const isOpen = ({ status }: Pick<RequestState, 'status'>): boolean => openStatuses.includes(status);

/** Once a change of it is decided, nothing is asked for in its place any more. */
export function asBooked(leave: RequestState['leave']): RequestState['leave'] {
  if (!leave?.instead) return leave;
  const { instead: _, ...booked } = leave;
  return booked;
}

/** What a holder changed of what was there before they had it. */
export function changedBy(
  { otherwise = [], asker }: RequestState,
  { by, note, filled }: { by: PersonId | null; note: string | null; filled?: Filled | undefined },
): { otherwise?: readonly Otherwise[] } {
  const changes = (filled?.changes ?? []).filter(change => !isEmptyAnswer(change.before));
  return by === null || by === asker || changes.length === 0
    ? {}
    : { otherwise: [...otherwise, { by, note, changes }] };
}

/** Who looks after a request: whoever asked, until somebody else does. */
export const ownerOf = ({ owner, asker }: { readonly owner?: PersonId; readonly asker: PersonId | null }) =>
  owner ?? asker;

/** Whether somebody may answer and change as the asker does: the asker, the person concerned, and whoever looks after it. */
export const mayActForAsker = (
  state: Pick<RequestState, 'asker' | 'subject' | 'owner'>,
  person: PersonId | null,
): boolean => person !== null && (isTheirOwn(state, person) || person === ownerOf(state));
