/**
 * A rehearsal: a request played with a real person, dates and answers through the same function that runs requests.
 * Nothing is sent or stored. Each step gives a new value, so that any moment can be gone back to.
 */
import type { FieldFault, SignedPaper } from '../form/index.ts';
import type { PersonId } from '../people/index.ts';
import { type CivilDate, type Instant, toInstant, toMilliseconds } from '../time/index.ts';
import {
  type Act,
  type Command,
  type Context,
  type Definition,
  type Effect,
  type GuestCommand,
  handle,
  isOpen,
  keeperOf,
  type NamedValues,
  newRequest,
  type Refusal,
  type RequestEvent,
  type RequestState,
  type TimerCommand,
  todayOf,
} from '../workflow/index.ts';

/** What a rehearsal needs to know of the house. */
export type RehearsalFacts = Pick<Context, 'index' | 'away' | 'lists'> & { book: Omit<Context['book'], 'today'> };

export type Timer = Extract<Effect, { kind: 'timer' }>;
export type Outgoing = Exclude<Effect, { kind: 'timer' }> & { at: Instant };

export type Rehearsal = {
  readonly definition: Definition;
  readonly facts: RehearsalFacts;
  readonly asker: PersonId;
  readonly subject: PersonId;
  readonly began: Instant;
  readonly now: Instant;
  readonly answers: Readonly<Record<string, unknown>>;
  readonly state: RequestState;
  readonly events: readonly RequestEvent[];
  /** Mails and everything else that would have gone out. */
  readonly outgoing: readonly Outgoing[];
  readonly timers: readonly Timer[];
  readonly acts: readonly Act[];
  /** Asked for from outside. */
  readonly outside?: true;
  /** When the last act happened, for counting the minutes to the next. */
  readonly lastAct: Instant;
};

export type Refused = { ok: false; refusal: Refusal; faults: FieldFault[] };
export type Played = { ok: true; rehearsal: Rehearsal };

const books = new WeakMap<RehearsalFacts['book'], Context['book']>();

/** The book of a day: the very same one for as long as the day lasts, so that what was worked out by it is known. */
function bookOn(facts: RehearsalFacts['book'], today: CivilDate): Context['book'] {
  const known = books.get(facts);
  if (known?.today === today) return known;
  const book = { ...facts, today };
  books.set(facts, book);
  return book;
}

export const contextOf = (r: Pick<Rehearsal, 'facts' | 'now' | 'subject'>, actor: PersonId | null): Context => {
  const { index, away, lists } = r.facts;
  const today = todayOf({ index, now: r.now }, r.subject);
  return { now: r.now, actor, index, away, lists, book: bookOn(r.facts.book, today) };
};

/** A rehearsal asks nobody outside: every connection says that it is done at once. */
function carryOut(r: Rehearsal, command: Parameters<typeof handle>[2], actor: PersonId | null): Played | Refused {
  const played = carryOne(r, command, actor);
  if (!played.ok) return played;
  const [next] = played.rehearsal.state.undelivered.filter(one => one.key !== undefined && !one.givenUp);
  if (next?.key === undefined) return played;
  return carryOut(
    played.rehearsal,
    { kind: 'effect', key: next.key, outcome: { state: 'delivered', result: resultOf(played.rehearsal, next.key) } },
    null,
  );
}

/** A letter that is made is there under its name; of everything else nothing is made up. */
function resultOf({ outgoing }: Rehearsal, key: string): NamedValues {
  const made = outgoing.find(one => one.kind === 'make letter' && one.key === key);
  return made?.kind === 'make letter'
    ? { file: { id: nobodysFile, name: `${made.name}.pdf`, size: 1000, type: 'application/pdf' } }
    : {};
}

const nobodysFile = '00000000-0000-4000-8000-000000000000';

function carryOne(r: Rehearsal, command: Parameters<typeof handle>[2], actor: PersonId | null): Played | Refused {
  const result = handle(r.definition, r.state, command, contextOf(r, actor));
  if (!result.ok) return { ok: false, refusal: result.refusal, faults: result.refusal.faults ?? [] };
  const timers = result.effects.flatMap(e => (e.kind === 'timer' ? [e] : []));
  const outgoing = result.effects.flatMap(e => (e.kind === 'timer' ? [] : [{ ...e, at: r.now }]));
  return {
    ok: true,
    rehearsal: {
      ...r,
      state: result.state,
      events: [...r.events, ...result.events],
      outgoing: [...r.outgoing, ...outgoing],
      timers: [...r.timers, ...timers],
    },
  };
}

export type Beginning = {
  asker: PersonId;
  subject?: PersonId;
  at: Instant;
  answers: Readonly<Record<string, unknown>>;
  /** Somebody without an account asks, at the public address; the asker is whoever keeps it. */
  outside?: true;
};

/** Asks: the request is sent with these answers by this person at this moment. */
export function begin(
  definition: Definition,
  facts: RehearsalFacts,
  { asker: person, subject: other, at, answers, outside }: Beginning,
): Played | Refused {
  const opening = outside && definition.opening?.outside;
  const asker = (opening && keeperOf(opening, { index: facts.index, now: at })) || person;
  const subject = outside ? asker : (other ?? asker);
  const empty: Rehearsal = {
    definition,
    facts,
    asker,
    subject,
    began: at,
    now: at,
    answers,
    state: newRequest('R-rehearsed'),
    events: [],
    outgoing: [],
    timers: [],
    acts: [],
    lastAct: at,
    ...(outside ? { outside } : {}),
  };
  if (outside) return carryOut(empty, { kind: 'ask from outside', answers: { ...answers } }, null);
  return carryOut(empty, { kind: 'submit', answers: { ...answers }, subject }, asker);
}

const minutesBetween = (from: Instant, to: Instant): number =>
  Math.round((toMilliseconds(to) - toMilliseconds(from)) / 60_000);

/** What a command is as an act that can be kept: by step and outcome, not by the number of a task. */
function actOf(r: Rehearsal, command: Command | GuestCommand, by: PersonId | null): Act | null {
  const minutes = minutesBetween(r.lastAct, r.now);
  const step = 'task' in command ? (r.state.tasks.find(t => t.id === command.task)?.step ?? null) : null;
  const act = (what: Act['what'], at: string | null = step): Act => ({ minutes, by, step: at, what });
  switch (command.kind) {
    case 'answer':
      return act({
        kind: 'outcome',
        outcome: command.outcome,
        note: command.note ?? null,
        ...(command.answers ? { answers: command.answers } : {}),
      });
    case 'complete':
      return act({ kind: 'done', answers: command.answers });
    case 'could not':
      return act({ kind: 'could not', note: command.note ?? '' });
    case 'resubmit':
      return act({ kind: 'resubmit', answers: command.answers });
    case 'hand in':
      return act({ kind: 'document', answers: command.answers }, command.step);
    case 'withdraw':
      return act({ kind: 'withdraw' });
    case 'move date':
      return act({ kind: 'move date', date: command.date });
    case 'guest':
      return command.what.kind === 'hand in'
        ? act(
            { kind: 'guest', section: command.what.section, answers: { ...(command.what.answers as object) } },
            command.step,
          )
        : null;
    default:
      return null;
  }
}

/** Something that a person does, or a guest, who is nobody on file. */
export function act(r: Rehearsal, command: Command | GuestCommand, by: PersonId | null): Played | Refused {
  const kept = actOf(r, command, by);
  const played = carryOut(r, command, by);
  if (!played.ok || !kept) return played;
  return { ok: true, rehearsal: { ...played.rehearsal, acts: [...r.acts, kept], lastAct: r.now } };
}

/** The moment at which something would happen by itself; nothing when it only waits for people. */
export function nextMoment(r: Rehearsal): Instant | null {
  if (!isOpen(r.state)) return null;
  const live = r.timers.filter(timer => isLive(r.state, timer));
  return live.reduce<Instant | null>((first, timer) => (first === null || timer.at < first ? timer.at : first), null);
}

const isLive = (state: RequestState, timer: Timer): boolean =>
  timer.what === 'hold'
    ? state.holds.some(h => h.step === timer.task && h.until === timer.at)
    : timer.what === 'guest'
      ? state.at.includes(timer.task) &&
        [state.guests?.[timer.task]?.remindAt, state.guests?.[timer.task]?.link.until].includes(timer.at)
      : timer.what === 'leave'
        ? state.leave !== null && (state.leave.state === 'held' || state.leave.instead !== undefined)
        : timer.what === 'alert'
          ? !state.alerted
          : state.tasks.some(t => t.id === timer.task && !(timer.what === 'limit' && t.late));

const mostTimers = 2000;
// Instants in UTC to the second sort as they read.
const later = (a: Instant, b: Instant): Instant => (b.localeCompare(a) > 0 ? b : a);

/** Lets time go by up to a moment: reminders, limits and holds that come due on the way happen at their own time. */
export function skipTo(r: Rehearsal, until: Instant): Rehearsal {
  let at = r;
  for (let n = 0; n < mostTimers; n++) {
    const due = at.timers
      .filter(timer => timer.at <= until && isLive(at.state, timer))
      .sort((a, b) => a.at.localeCompare(b.at))[0];
    if (!due) break;
    const command: TimerCommand = { kind: 'timer', task: due.task, what: due.what };
    const now = later(due.at, at.now);
    const played = carryOut({ ...at, now, timers: at.timers.filter(t => t !== due) }, command, null);
    if (!played.ok) break;
    at = played.rehearsal;
  }
  return { ...at, now: later(until, at.now) };
}

export const skip = (r: Rehearsal, minutes: number): Rehearsal =>
  skipTo(r, toInstant(toMilliseconds(r.now) + minutes * 60_000));

/** The task or other thing that a kept act is about, as a command on the request as it stands now. */
export function commandFor(r: Rehearsal, kept: Act): Command | GuestCommand | null {
  const { state } = r;
  const seen = state.version;
  const task = state.tasks.find(t => t.step === kept.step && t.holder === kept.by);
  const { what } = kept;
  switch (what.kind) {
    case 'outcome':
      return task
        ? {
            kind: 'answer',
            seen,
            task: task.id,
            outcome: what.outcome,
            note: what.note,
            ...(what.answers ? { answers: what.answers } : {}),
          }
        : null;
    case 'done': {
      if (!task) return null;
      const step = r.definition.steps.length > 0 ? checklistOf(r.definition, task.step) : [];
      return { kind: 'complete', seen, task: task.id, ticked: step, answers: what.answers, note: null };
    }
    case 'could not':
      return task ? { kind: 'could not', seen, task: task.id, note: what.note } : null;
    case 'resubmit':
      return { kind: 'resubmit', seen, answers: what.answers };
    case 'document':
      return kept.step ? { kind: 'hand in', seen, step: kept.step, answers: what.answers } : null;
    case 'withdraw':
      return { kind: 'withdraw', seen, note: null };
    case 'move date':
      return { kind: 'move date', seen, date: what.date, reason: 'Rehearsed.' };
    case 'guest':
      return kept.step ? handedIn(r, kept.step, what.section, what.answers) : null;
    case 'wait':
      return null;
  }
}

const nothing = '0'.repeat(64);

/** A section that a guest hands in; a rehearsal takes every paper in it as dealt with. */
export function handedIn(
  { definition, now }: Pick<Rehearsal, 'definition' | 'now'>,
  step: string,
  section: string,
  answers: Readonly<Record<string, unknown>>,
): GuestCommand {
  const papers = definition.form.fields.flatMap(field =>
    field.section === section && field.kind === 'paper' ? [field] : [],
  );
  const file = { id: 'rehearsed', name: 'Signed.pdf', size: 1000, type: 'application/pdf' };
  const signed = papers.map((field): [string, SignedPaper] => {
    const how = field.signed === 'read' ? 'read' : field.signed === 'by hand' ? 'by hand' : 'typed';
    return [
      field.id,
      { how, name: how === 'typed' ? 'Rehearsed' : null, at: now, digest: nothing, file: how === 'read' ? null : file },
    ];
  });
  return { kind: 'guest', step, what: { kind: 'hand in', section, answers, signed: Object.fromEntries(signed) } };
}

function checklistOf(definition: Definition, id: string): string[] {
  const steps = [...definition.steps];
  for (let step = steps.pop(); step; step = steps.pop()) {
    if (step.id === id) return step.verb === 'Do' ? (step.checklist ?? []).map(c => c.id) : [];
    if (step.verb === 'Split') for (const lane of step.lanes) steps.push(...lane.steps);
  }
  return [];
}
