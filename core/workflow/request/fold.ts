/** A request folded from its events, one after another. */
import { type Answer, sameAnswer } from '../../form/index.ts';
import { isAmount } from '../../formula/index.ts';
import type { Filled, RequestEvent } from './events.ts';
import type { GuestStanding } from './guest.ts';
import type { Ask } from './reason.ts';
import {
  asBooked,
  changedBy,
  type Given,
  isOpen,
  newRequest,
  ownerOf,
  type RequestState,
  type Task,
  type Undelivered,
  type Vote,
} from './state.ts';

const did: Partial<Record<RequestEvent['kind'], string>> = {
  asked: 'sent',
  answered: 'answered',
  done: 'did',
  'could not': 'gave back',
  taken: 'took',
  'sent back': 'sent back',
  reworked: 'changed',
  withdrawn: 'withdrew',
  questioned: 'asked about',
  replied: 'replied on',
  'handed over': 'handed over',
  'set aside': 'set aside',
  appointed: 'appointed somebody for',
  corrected: 'corrected',
  'called back': 'called somebody back from',
  reopened: 'reopened',
  cancelled: 'cancelled',
  voided: 'voided',
  'let end': 'ended',
  'tried again': 'moved on',
  'date moved': 'moved the date of',
};

/** What passes between a guest and whoever looks after them changes nothing for those at other steps. */
const ofGuests: readonly RequestEvent['kind'][] = [
  'invited',
  'link ended',
  'section in',
  'section back',
  'consent withdrawn',
  'guest asked',
  'guest answered',
  'guest reminded',
];

/** What comes back from outside makes nobody come too late, unless it fills fields. */
const beside: ReadonlySet<RequestEvent['kind']> = new Set([
  ...ofGuests,
  ...(['commented', 'looked', 'refused', 'undone', 'let out', 'came back', 'calendar answered'] as const),
]);
const changesNothing = (event: RequestEvent): boolean =>
  beside.has(event.kind) || (event.kind === 'delivered' && event.filled === undefined);

/** The state after one more event. */
export function reduce(before: RequestState, event: RequestEvent): RequestState {
  const last = event.by && did[event.kind] ? { by: event.by, at: event.at, did: did[event.kind]! } : before.last;
  const version = before.version + 1;
  const changed = changesNothing(event) ? before.changed : version;
  const after = apply({ ...before, version, changed, last }, event);
  const finished = finishedBy(before, event);
  if (finished !== null) put(after, { finished: { ...after.finished, [finished]: event.at } });
  if (!isOpen(after)) return after;
  const stuck = after.stuckAt[0]?.reason ?? null;
  const status = stuck !== null ? 'stuck' : after.returned ? 'rework' : 'open';
  return after.status === status && after.stuck === stuck ? after : put(after, { status, stuck });
}

/** The step that an event finishes, where people hold it. */
function finishedBy(before: RequestState, event: RequestEvent): string | null {
  if (event.kind === 'done' || event.kind === 'settled') return event.step;
  if (event.kind === 'waited' && event.reason.code === 'all handed in') return event.step;
  return event.kind === 'answered' && !(event.step in before.asked) ? event.step : null;
}

/** The one copy that an event makes; it is changed in place until it is given out, and never after. */
type Draft = { -readonly [K in keyof RequestState]: RequestState[K] };
const put = (draft: Draft, change: Partial<Draft>): Draft => Object.assign(draft, change);

const leaveOf = ({
  kind,
  type,
  span,
  planner,
  reason,
}: Extract<RequestEvent, { kind: 'held' | 'booked' }>): NonNullable<RequestState['leave']> => ({
  ...{ state: kind, type, span, planner },
  ...(reason ? { reason } : {}),
});

function apply(state: Draft, event: RequestEvent): Draft {
  switch (event.kind) {
    case 'asked':
      return put(state, {
        status: 'open',
        asker: event.asker,
        subject: event.subject ?? event.asker,
        ...(event.outside ? { outside: event.outside } : {}),
        answers: event.answers,
        figures: event.figures,
      });
    case 'held':
      if (state.leave?.state === 'booked') {
        const { type, span } = event;
        return put(state, { leave: { ...state.leave, instead: { type, span } } });
      }
      return put(state, { leave: leaveOf(event) });
    case 'booked':
      return put(state, { leave: leaveOf(event) });
    case 'against rules':
      return put(state, { against: event.limits });
    case 'released':
      return put(state, { leave: null });
    case 'entered':
      return entered(leave(state, event.from ?? state.at), event.step);
    case 'given':
      return given(state, event);
    case 'answered': {
      const stoodIn =
        event.coverFor !== null || state.tasks.find(task => task.id === event.task)?.meantFor !== undefined;
      const vote: Vote = { person: event.by!, outcome: event.outcome, ...(stoodIn ? { stoodIn: true as const } : {}) };
      const counted = voted(reasoned(state, event.note), event.step, vote, event.filled);
      const changed = put(counted, { tasks: without(state, event.task), ...changedBy(state, event) });
      const after = fill(changed, event.filled);
      // Where nobody counts, the first answer settles.
      return event.step in state.asked ? after : settled(after, event.step, event.outcome, [vote]);
    }
    case 'kept':
      return voted(state, event.step, { person: event.holder, outcome: event.outcome });
    case 'settled': {
      const votes = (state.votes[event.step] ?? []).filter(v => v.outcome === event.outcome);
      return settled(state, event.step, event.outcome, votes);
    }
    case 'taken':
      return put(state, { tasks: changeTask(state, event.task, () => ({ pool: 'taken' })) });
    case 'put back':
      return put(state, { tasks: without(state, event.task) });
    case 'done': {
      const votes = event.by ? [{ person: event.by, outcome: 'done' }] : [];
      const own = put(state, { tasks: without(state, event.task), ...changedBy(state, event) });
      return fill(settled(own, event.step, 'done', votes), event.filled);
    }
    case 'could not':
      return put(reasoned(state, event.note), { tasks: without(state, event.task) });
    case 'ended': {
      const asked = event.of ? { ...state.asked, [event.of.step]: event.of.people } : state.asked;
      return put(state, { tasks: without(state, event.task), asked });
    }
    case 'reminded': {
      const { remindAt } = event;
      return put(state, { tasks: changeTask(state, event.task, t => ({ reminders: t.reminders + 1, remindAt })) });
    }
    case 'questioned': {
      const question = { text: event.question, by: event.by!, at: event.at };
      return put(state, { tasks: changeTask(state, event.task, () => ({ question })) });
    }
    case 'replied': {
      const { due, dueReason, remindAt } = event;
      return put(state, {
        tasks: changeTask(state, event.task, () => ({ question: undefined, due, dueReason, remindAt })),
      });
    }
    case 'handed over':
      return put(state, { tasks: without(state, event.task) });
    case 'set aside': {
      if (event.to) return put(state, { tasks: without(state, event.task) });
      const aside = { until: event.until, back: event.back, note: event.note };
      return put(state, { tasks: changeTask(state, event.task, () => ({ aside })) });
    }
    case 'owner changed': {
      const { returned } = state;
      const goesAlong = returned !== null && returned.to === ownerOf(state);
      return put(state, { owner: event.to, ...(goesAlong ? { returned: { ...returned, to: event.to } } : {}) });
    }
    case 'brought back': {
      const lent = state.tasks.find(t => t.id === event.task)?.lentBy;
      if (lent) return put(state, { tasks: without(state, event.task) });
      return put(state, { tasks: changeTask(state, event.task, () => ({ aside: undefined })) });
    }
    case 'appointed':
      return put(state, { stuckAt: state.stuckAt.filter(s => s.step !== event.step) });
    case 'corrected':
    case 'called back':
      return fill(state, event.filled);
    case 'reopened': {
      const { closing, answers, figures, leave } = state;
      const approved = { what: event.what, closing: closing!, answers, figures, leave, note: event.note };
      return put(state, { status: 'open', closing: null, approved });
    }
    case 'kept as approved': {
      const { approved } = state;
      if (!approved) return state;
      const { closing, answers, figures } = approved;
      const back = { closing, answers, figures, leave: asBooked(state.leave) };
      return put(state, { ...ended, ...back, status: 'closed', approved: null, changes: [] });
    }
    case 'cancelled':
      return put(state, { ...ended, status: 'withdrawn', approved: null });
    case 'let end':
      return put(state, { ...ended, status: 'withdrawn', leave: null });
    case 'voided':
      return put(state, { ...ended, status: 'withdrawn', leave: null, approved: null });
    case 'date moved':
      return fill(put(state, { changes: event.filled.changes }), event.filled);
    case 'due again': {
      const { due, dueReason } = event;
      return put(state, { tasks: changeTask(state, event.task, () => ({ due, dueReason, late: false })) });
    }
    case 'alerted':
      return put(state, { alerted: { people: event.people, at: event.at } });
    case 'alert over':
      return put(state, { alerted: null });
    case 'passed limit':
      return put(state, { tasks: changeTask(state, event.task, () => ({ late: true })) });
    case 'set':
    case 'moved':
      return fill(state, event.filled);
    case 'waiting':
      return put(state, {
        holds: [
          ...state.holds.filter(h => h.step !== event.step),
          {
            step: event.step,
            until: event.until,
            reason: event.reason,
            ...(event.reminders ? { reminders: event.reminders } : {}),
            ...(event.remindAt ? { remindAt: event.remindAt } : {}),
          },
        ],
      });
    case 'waited':
      return fill(put(state, { holds: state.holds.filter(h => h.step !== event.step) }), event.filled);
    case 'lane done': {
      const done = [...(state.lanes[event.step] ?? []), event.lane];
      return put(leave(state, event.from), { lanes: { ...state.lanes, [event.step]: done } });
    }
    case 'joined':
      return leave(state, event.from);
    case 'sent back': {
      const key = `${event.step}/${event.outcome}`;
      const { step, outcome, fields, resume, note, by, at } = event;
      return put(state, {
        returned: { step, outcome, to: event.to ?? ownerOf(state), fields, resume, note, by, at },
        changes: [],
        rounds: { ...state.rounds, [key]: (state.rounds[key] ?? 0) + 1 },
      });
    }
    case 'reworked': {
      const { answers, figures, changes } = event;
      const filled = fill(state, { answers, figures, changes });
      const anew = state.otherwise ? { otherwise: [] } : {};
      return put(filled, { returned: null, changes, visited: [], reworks: state.reworks + 1, ...anew });
    }
    case 'recorded':
      // Whoever was put on file is taken off again when they never come.
      if (typeof event.what !== 'string' && event.what.code === 'person added' && event.key !== undefined)
        return put(state, { onFile: [...(state.onFile ?? []), event.key] });
      return event.undelivered ? asked(state, event.step, event.what, event.key) : state;
    case 'provisioned':
      if (event.moves !== undefined)
        return put(state, {
          provided: (state.provided ?? []).map(one => (one.key === event.moves ? { ...one, what: event.what } : one)),
        });
      return event.undelivered ? asked(state, event.step, event.what, event.key) : state;
    case 'opened': {
      const after = event.undelivered
        ? asked(state, event.step, { code: 'request in', workflow: event.workflow }, event.key)
        : state;
      return put(after, { opened: [...state.opened, event.key] });
    }
    case 'delivered': {
      const what = state.undelivered.find(one => one.key === event.key)?.what;
      const provided = [...(state.provided ?? []), { step: event.step, key: event.key, ...(what ? { what } : {}) }];
      return fill(put(state, { undelivered: except(state, event.key), provided }), event.filled);
    }
    case 'refused':
      return put(state, { undelivered: marked(state, event.key, { refused: event.reason }) });
    case 'asked again':
      return put(state, { undelivered: marked(state, event.key, { refused: undefined }) });
    case 'given up':
      return put(state, { undelivered: marked(state, event.key, { givenUp: true }) });
    case 'undone':
      return put(state, { provided: (state.provided ?? []).filter(one => one.key !== event.key) });
    case 'held back':
      return event.letter
        ? put(state, { heldBack: [...(state.heldBack ?? []), { message: event.message, ...event.letter }] })
        : state;
    case 'let out':
      return put(state, { heldBack: (state.heldBack ?? []).filter(held => held.message !== event.message) });
    case 'opened closed':
      return put(state, { opened: state.opened.filter(key => key !== event.key) });
    case 'stuck':
      return put(state, {
        stuckAt: [...state.stuckAt.filter(s => s.step !== event.step), { step: event.step, reason: event.reason }],
      });
    case 'tried again':
      return put(state, { stuckAt: [] });
    case 'withdrawn':
      return put(state, { ...ended, status: 'withdrawn' });
    case 'closed':
      return put(state, {
        ...ended,
        status: 'closed',
        closing: event.closing,
        leave: asBooked(state.leave),
        approved: null,
      });
    case 'invited': {
      const { sections = {}, words = [], changed = state.version } = state.guests?.[event.step] ?? {};
      const { link: n, until, remindAt } = event;
      const standing = { link: { n, until }, sections, words, changed, reminders: 0 };
      return putGuest(state, event.step, { ...standing, ...(remindAt ? { remindAt } : {}) });
    }
    case 'link ended':
      return changeGuest(state, event.step, ({ link }) => ({ link: { ...link, ended: true } }));
    case 'section in': {
      const after = changeGuest(state, event.step, ({ sections }) => ({
        sections: { ...sections, [event.section]: { state: 'in', at: event.at } },
        changed: state.version,
      }));
      return fill(after, event.filled);
    }
    case 'section back': {
      const { section, note, at } = event;
      return changeGuest(state, event.step, ({ sections }) => ({
        sections: { ...sections, [section]: { state: 'back', at, note } },
      }));
    }
    case 'consent withdrawn':
      return fill(
        changeGuest(state, event.step, () => ({ changed: state.version })),
        event.filled,
      );
    case 'guest asked':
    case 'guest answered': {
      const word = { by: event.kind === 'guest asked' ? null : event.by, at: event.at, text: event.text };
      return changeGuest(state, event.step, ({ words }) => ({ words: [...words, word] }));
    }
    case 'guest reminded': {
      const { remindAt } = event;
      return changeGuest(state, event.step, ({ reminders }) => ({ reminders: reminders + 1, remindAt }));
    }
    case 'commented':
    case 'came back':
    case 'calendar answered':
    case 'looked':
    case 'skipped':
    case 'chose':
      return state;
    case 'told': {
      const invitation = event.attached?.invitation;
      if (!invitation || event.step === undefined) return state;
      const { people, addresses = [] } = event;
      return put(state, {
        invitations: { ...state.invitations, [event.step]: { invitation, people, addresses, live: true } },
      });
    }
    case 'uninvited': {
      const before = state.invitations?.[event.step];
      if (!before) return state;
      const people = before.people.filter(person => !event.people.includes(person));
      const addresses = before.addresses.filter(address => !event.addresses.includes(address));
      const live = people.length + addresses.length > 0;
      // Those who stay have not been told of this number; the next that they are sent is above it.
      const invitation = live ? { ...before.invitation, sequence: event.invitation.sequence } : event.invitation;
      return put(state, {
        invitations: { ...state.invitations, [event.step]: { invitation, people, addresses, live } },
      });
    }
  }
}

const putGuest = (state: Draft, step: string, standing: GuestStanding): Draft =>
  put(state, { guests: { ...state.guests, [step]: standing } });

const changeGuest = (
  state: Draft,
  step: string,
  change: (standing: GuestStanding) => Partial<GuestStanding>,
): Draft => {
  const standing = state.guests?.[step];
  return standing ? putGuest(state, step, { ...standing, ...change(standing) }) : state;
};

const ended = { at: [], holds: [], stuckAt: [], stuck: null, returned: null, alerted: null } as const;

function entered(state: Draft, step: string): Draft {
  const { [step]: _votes, ...votes } = state.votes;
  const { [step]: _asked, ...asked } = state.asked;
  const { [step]: _lanes, ...lanes } = state.lanes;
  return put(state, {
    at: [...state.at.filter(s => s !== step), step],
    visited: state.visited.includes(step) ? state.visited : [...state.visited, step],
    votes: _votes ? votes : state.votes,
    asked: _asked === undefined ? state.asked : asked,
    lanes: _lanes ? lanes : state.lanes,
  });
}

/** Steps that are left take their holds, their troubles and a rework under way with them. */
function leave(state: Draft, steps: readonly string[]): Draft {
  if (steps.length === 0) return state;
  const gone = (step: string) => steps.includes(step);
  return put(state, {
    at: state.at.filter(s => !gone(s)),
    holds: state.holds.some(h => gone(h.step)) ? state.holds.filter(h => !gone(h.step)) : state.holds,
    stuckAt: state.stuckAt.some(s => gone(s.step)) ? state.stuckAt.filter(s => !gone(s.step)) : state.stuckAt,
    returned: state.returned && gone(state.returned.step) ? null : state.returned,
  });
}

function settled(state: Draft, step: string, outcome: string, votes: readonly Vote[]): Draft {
  const people = votes.map(vote => vote.person);
  const stoodIn = votes.filter(vote => vote.stoodIn).map(vote => vote.person);
  const one = { step, outcome, people, ...(stoodIn.length > 0 ? { stoodIn } : {}) };
  return put(state, { settled: [...state.settled.filter(s => s.step !== step), one] });
}

function given(state: Draft, event: Extract<RequestEvent, { kind: 'given' }>): Draft {
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
    ...(event.pool ? { pool: 'free' as const } : {}),
    ...(event.rest ? { rest: event.rest } : {}),
    ...(event.remindAt ? { remindAt: event.remindAt } : {}),
    ...(event.lentBy ? { lentBy: event.lentBy } : {}),
    ...(event.meantFor ? { meantFor: event.meantFor } : {}),
    ...(event.had ? { had: event.had } : {}),
  };
  const asked = event.of === undefined ? state.asked : { ...state.asked, [event.step]: event.of };
  return put(state, { tasks: [...state.tasks, task], given: state.given + 1, asked });
}

/** Asked for anew, a step leaves behind what was refused to it before. */
const asked = (state: Draft, step: string, what: Ask, key?: string): Draft =>
  put(state, {
    undelivered: [
      ...(state.undelivered ?? []).filter(one => one.step !== step || one.refused === undefined),
      { step, what, ...(key === undefined ? {} : { key }) },
    ],
  });
const except = (state: RequestState, key: string): Undelivered[] =>
  (state.undelivered ?? []).filter(one => one.key !== key);
const marked = (state: RequestState, key: string, mark: Partial<Undelivered>): Undelivered[] =>
  (state.undelivered ?? []).map(one => {
    if (one.key !== key) return one;
    const { refused: _, ...rest } = one;
    return { ...rest, ...mark };
  });

const reasoned = (state: Draft, note: string | null): Draft => (note === null ? state : put(state, { reason: note }));

function voted(state: Draft, step: string, vote: Vote, filled?: Filled): Draft {
  const votes = [...(state.votes[step] ?? []).filter(v => v.person !== vote.person), vote];
  const before = (state.answered[step] ?? []).filter(g => g.person !== vote.person);
  const changed = filled?.changes.map(c => c.field) ?? [];
  // What someone fills in while answering changes it for those who answered before, not for themselves.
  const given = before.map(g => (changed.length > 0 ? { ...g, changed: [...g.changed, ...changed] } : g));
  return put(state, {
    votes: { ...state.votes, [step]: votes },
    answered: { ...state.answered, [step]: [...given, { ...vote, changed: [], round: state.reworks }] },
  });
}

/** Whether a figure is as it was; what was worked out before amounts had their currency with them is the same amount. */
function sameFigure(before: unknown, after: unknown): boolean {
  if (typeof before === 'number' && isAmount(after)) return before === after.amount;
  return sameAnswer(before as Answer, after as Answer);
}

/** Takes answers in, and remembers what changed since each answer that was given. */
function fill(state: Draft, filled: Filled | undefined): Draft {
  if (!filled) return state;
  const changed = [
    ...filled.changes.map(c => c.field),
    ...Object.keys(filled.figures).filter(id => !sameFigure(state.figures[id], filled.figures[id])),
  ];
  if (changed.length === 0) return put(state, { answers: filled.answers, figures: filled.figures });
  const answered: Record<string, readonly Given[]> = {};
  for (const [step, all] of Object.entries(state.answered)) {
    answered[step] = all.map(g => ({ ...g, changed: [...new Set([...g.changed, ...changed])] }));
  }
  return put(state, { answers: filled.answers, figures: filled.figures, answered });
}

const without = (state: RequestState, task: string): Task[] => state.tasks.filter(t => t.id !== task);

const changeTask = (state: RequestState, id: string, change: (task: Task) => Partial<Task>): Task[] =>
  state.tasks.map(t => (t.id === id ? { ...t, ...change(t) } : t));

export const fold = (request: string, events: readonly RequestEvent[]): RequestState =>
  events.reduce(reduce, newRequest(request));
