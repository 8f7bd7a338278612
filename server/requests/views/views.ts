/** Requests as their readers see them: the list, one request with its trail, the desk, the form to ask with. */
import {
  type AskableRow,
  type AskView,
  may,
  type OutsideView,
  type RequestRow,
  type RequestView,
  type TeamStrip,
  type UsualTime,
} from '@north-pebble/contract';
import { type Answers, isPickable, type ReferenceList } from '@north-pebble/core/form';
import {
  asKnownOn,
  halfState,
  isOpen as isOpenSpan,
  type LeaveEntry,
  type LeaveSpan,
  type LeaveType,
  metWords,
  openAhead,
  typeOn,
} from '@north-pebble/core/leave';
import { type DirectoryIndex, type PersonId, teamOf, todayFor, workingTimeOf } from '@north-pebble/core/people';
import { pathAhead } from '@north-pebble/core/proof';
import {
  addDays,
  type CivilDate,
  halfIndex,
  type Instant,
  toDay,
  toMilliseconds,
  weekday,
  yearMonthDay,
} from '@north-pebble/core/time';
import {
  answersSeen,
  askerName,
  askWords,
  closingById,
  type Definition,
  evaluateFigures,
  factsOf,
  figuresSeen,
  isHandedIn,
  isHeldBy,
  isNotOpen,
  isOpen,
  listsOf,
  mayActForAsker,
  mayAfterwards,
  mayAsk,
  mayChangeOwner,
  nameOf,
  openOutcomes,
  ownerOf,
  type Reason,
  type RequestState,
  reasonWords,
  stepById,
  stepNumber,
  stuckWords,
  subjectName,
  type Telling,
  tellsClosed,
  trail,
} from '@north-pebble/core/workflow';
import { and, asc, desc, eq, isNotNull, isNull, or } from 'drizzle-orm';
import { mayKeepLeave, maySeeBalance } from '../../access/index.ts';
import { type Executor, tables as t } from '../../database/index.ts';
import {
  contextOf,
  type House,
  loadDefinition,
  loadEntries,
  loadTypes,
  restatementsOfRequest,
  subjectOf,
} from '../../house/index.ts';
import { type Caller, notFound, ProblemError } from '../../http/index.ts';
import { aheadView, askableSubjects, isConcerned, liveDefinition } from '../commands/commands.ts';
import { leaveIn, leaveReasons } from '../commands/leaveReasons.ts';
import { unsentOf } from '../drafts/unsent.ts';
import { loadEvents, loadRequest, type StoredRequest, upToDate } from '../store.ts';
import { sightsFor } from './looking.ts';
import { mayMove, planView } from './plans.ts';

const holderWords = (state: RequestState, index: DirectoryIndex): string => {
  // Who has asked something back waits themselves.
  const names = [...new Set(state.tasks.filter(task => !task.question).map(task => nameOf(index, task.holder)))];
  return names.length > 3 ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} others` : names.join(', ');
};

/** Where a request stands, in words. */
export function standing(definition: Definition, state: RequestState, index: DirectoryIndex): string {
  switch (state.status) {
    case 'new':
      return 'being sent';
    case 'open':
      if (state.tasks.length > 0 && state.tasks.every(task => task.question))
        return `waits for a reply of ${state.outside?.name ?? nameOf(index, state.owner ?? state.subject ?? state.asker)}`;
      if (state.tasks.length > 0) return `waits for ${holderWords(state, index)}`;
      return state.holds.length > 0 ? `waits ${reasonWords(state.holds[0].reason, { definition, index })}` : 'going on';
    case 'rework':
      return 'sent back for changes';
    case 'stuck':
      return 'cannot go on';
    case 'withdrawn':
      return state.closing === null ? 'Withdrawn' : 'Cancelled after approval';
    case 'closed': {
      const closing = closingById(definition, state.closing ?? '');
      // Nothing says that something is done before it is.
      const isAll = closing?.tone !== 'good' || (state.undelivered ?? []).length === 0;
      return `${closing?.name ?? 'Closed'}${isAll ? '' : ', not all of it done yet'}`;
    }
  }
}

/** What connections were asked for and have not done; by step and action, since its values may not be for every reader. */
const outsideOf = (telling: Telling, state: RequestState): OutsideView[] =>
  (state.undelivered ?? []).map(one => {
    const step = stepById(telling.definition, one.step);
    return {
      key: one.key ?? null,
      number: stepNumber(telling.definition, one.step),
      what: step?.verb === 'Provision' ? `${step.connection}: ${step.action}` : askWords(one.what, telling),
      state: one.givenUp ? 'given up' : one.refused === undefined ? 'on its way' : 'refused',
      reason: one.refused ?? null,
    };
  });

async function rowOf(db: Executor, index: DirectoryIndex, stored: StoredRequest): Promise<RequestRow> {
  const definition = await loadDefinition(db, stored.workflow, stored.workflowVersion);
  return {
    id: stored.id ?? '',
    title: stored.title,
    workflow: stored.workflow,
    asker: stored.asker as PersonId,
    askerName: askerName(index, stored.state),
    workflowName: definition.name,
    closedAt: stored.closedAt as Instant | null,
    status: stored.status,
    standing: standing(definition, stored.state, index),
    askedAt: stored.askedAt as Instant,
  };
}

const mostRows = 200;

/** The caller's own requests, newest first. */
export async function ownRequests(house: House, caller: Caller): Promise<RequestRow[]> {
  const index = await house.directory(house.db);
  const rows = await house.db
    .select()
    .from(t.requests)
    .where(
      and(
        or(eq(t.requests.asker, caller.id), eq(t.requests.owner, caller.id)),
        isNull(t.requests.outside),
        isNotNull(t.requests.id),
      ),
    )
    .orderBy(desc(t.requests.number))
    .limit(mostRows);
  return Promise.all(rows.map(row => rowOf(house.db, index, row)));
}

/** The days from two before a span to two after, at most `most`, with who is at work. */
async function teamStrip(
  house: House,
  index: DirectoryIndex,
  asker: PersonId,
  told: LeaveSpan,
  request: string,
  today: CivilDate,
): Promise<TeamStrip> {
  const most = 21;
  const span = asKnownOn(told, today);
  const from = toDay(span.from.date);
  const to = Math.min(toDay(span.to.date), from + most - 1);
  const team = teamOf(index, asker, today);
  const people = [...team.filter(p => p.id === asker), ...team.filter(p => p.id !== asker)].slice(0, 12);
  const first = addDays(span.from.date, -1);
  const entries = await loadEntries(
    house.db,
    people.map(p => p.id),
    { from: first, to: addDays(span.to.date, 1), known: addDays(today, openAhead) },
  );
  const asked: LeaveEntry = { request, person: asker, type: '', span, state: 'held' };
  const shown = [...entries.filter(e => e.request !== request), asked];
  const days: string[] = [];
  const here: number[] = [];
  const marks = people.map(() => [] as TeamStrip['people'][number]['marks']);
  const times = people.map(p => workingTimeOf(index, p, { first: from, last: to }));
  for (let day = from; day <= to; day++) {
    const { month, day: ofMonth } = yearMonthDay(day);
    days.push(`${ofMonth}/${month}/${weekday(day)}`);
    let count = 0;
    people.forEach((person, i) => {
      const own = shown.filter(e => e.person === person.id);
      const am = halfState(times[i], own, halfIndex(day, 'am'));
      const pm = halfState(times[i], own, halfIndex(day, 'pm'));
      const halves = [am, pm];
      if (halves.includes('w')) count++;
      marks[i].push(
        halves.includes('p')
          ? 'held'
          : am === 'b' && pm === 'b'
            ? 'away'
            : am === 'b'
              ? pm === 'w'
                ? 'am'
                : 'away'
              : pm === 'b'
                ? am === 'w'
                  ? 'pm'
                  : 'away'
                : halves.includes('w')
                  ? 'here'
                  : 'free',
      );
    });
    here.push(count);
  }
  return {
    days,
    people: people
      .map((p, i) => ({ name: p.name, asker: p.id === asker, marks: marks[i] }))
      .filter(p => p.asker || p.marks.some(m => m === 'away' || m === 'held' || m === 'am' || m === 'pm')),
    here,
  };
}

export async function requestView(house: House, caller: Caller, id: string): Promise<RequestView> {
  const { db } = house;
  const stored = await loadRequest(db, id);
  if (!stored || !(await isConcerned(house, db, stored, caller))) throw notFound();
  const asker = stored.asker as PersonId;
  const subject = subjectOf(stored);
  const context = await contextOf(house, db, { subject, actor: caller.id, workflow: stored.workflow });
  const { index, now, book } = context;
  const today = todayFor(index, subject, now);
  const definition = await loadDefinition(db, stored.workflow, stored.workflowVersion);
  const { state } = stored;
  const lists = listsFor(
    definition,
    { index, day: today, ...(context.lists ? { lists: context.lists } : {}) },
    state.answers,
  );
  const events = await loadEvents(db, id);
  const sights = await sightsFor(db, caller, stored, { index, day: today, events });
  const { answers, closed } = answersSeen(state.answers, sights);
  const stillOpen = isOpen(state);
  const hasPassed = state.stuckAt.some(one => one.reason.code === 'days have passed');
  const leave = stillOpen ? leaveIn(definition, answers, book) : null;
  const around = { index, now, workflow: stored.workflow };
  const mine = state.tasks.find(task => isHeldBy(definition, task, caller.id, around, state));
  const asking = { index, now, actor: caller.id };
  const byHr = may(caller, 'help requests on');
  const verb = mine && stepById(definition, mine.step)?.verb;
  // Reasons are kept back where they tell of something that is not open.
  const telling = { definition, index, book, lists: context.lists };
  const reasonsAt = (step: string, reasons: readonly Reason[]): readonly Reason[] => {
    const found = stepById(definition, step);
    return found && tellsClosed(definition, found, sights, context.lists) ? [] : reasons;
  };
  const ahead = () => {
    // Those who have it now were given it at different times; all of them are told of.
    const open = new Set([...state.tasks.map(task => task.id), ...state.holds.map(hold => hold.step)]);
    const recent = events.filter(
      e => (e.kind === 'given' && open.has(e.task)) || (e.kind === 'waiting' && open.has(e.step)),
    );
    const told = pathAhead(definition, { state, events: recent }, context);
    const steps = told.steps.map(step => ({
      ...step,
      people: step.people.map(p => ({ ...p, reasons: reasonsAt(step.step, p.reasons) })),
    }));
    return aheadView({ ...told, steps }, telling);
  };
  // What goes on until more is told comes to more with each day.
  const goesOn = stillOpen && state.leave !== null && isOpenSpan(state.leave.span);
  const figures = goesOn
    ? evaluateFigures(definition, state.answers, factsOf(context, asker, state.subject, id)).figures
    : state.figures;
  const { returned } = state;
  const { plan, missing } = planView(definition, (await upToDate(db, stored)).state, context);
  const owner = ownerOf({ ...state, asker }) ?? asker;
  const isOwn = mayActForAsker({ ...state, asker, subject }, caller.id);
  return {
    ...(await rowOf(db, index, stored)),
    definition: forReaders(definition),
    version: state.version,
    workflowVersion: stored.workflowVersion,
    answers,
    closed,
    restated: stillOpen && leave ? await restatementsOfRequest(db, id) : [],
    against: (state.against ?? []).flatMap(({ met, pass }) => {
      const isClosed =
        leave === null || definition.form.fields.some(f => f.kind === 'leave span' && sights.get(f.id) === 'hidden');
      if (isClosed) return [];
      const passed = pass && `${nameOf(index, pass.by)} of HR let it pass: ${pass.reason}`;
      return [{ words: metWords(met, today), passed }];
    }),
    figures: figuresSeen(definition, figures, sights, context.lists),
    at: state.at,
    owner,
    ownerName: nameOf(index, owner),
    subject,
    subjectName: subjectName(index, { subject, outside: state.outside }),
    lists,
    people: peopleFor(definition, index),
    visited: state.visited,
    // What only the course of the request needs, as what was reminded and who else is in the pool, is not told.
    tasks: state.tasks.map(({ reminders: _, late: __, rest: ___, remindAt: ____, had: _____, ...task }) => ({
      ...task,
      reasons: reasonsAt(task.step, task.reasons).map(reason => reasonWords(reason, telling)),
      dueReason: task.dueReason && reasonWords(task.dueReason, telling),
      holderName: nameOf(index, task.holder),
    })),
    changes: state.changes.filter(change => sights.get(change.field) === 'open'),
    afterwards: state.approved?.what ?? null,
    outside: outsideOf(telling, state),
    returned: returned && {
      fields: returned.fields,
      note: returned.note,
      byName: nameOf(index, returned.by),
      at: returned.at,
    },
    stuck: state.stuck && stuckWords(state.stuck, telling),
    stuckAt: state.stuckAt.map(({ step, reason }) => ({ step, reason: stuckWords(reason, telling) })),
    closing: state.closing,
    unsent: await unsentOf(db, caller, id),
    trail: trail(definition, events, { index, book, lists, sights }),
    leave: stillOpen
      ? leaveReasons(definition, answers, book, subject, id, maySeeBalance(caller, subject, index, today))
      : null,
    leaveTypes: book.types.map(type => typeChoice(type, book.today)),
    ahead: isOwn && stillOpen ? ahead() : null,
    usually: isOwn && stillOpen ? await usualDays(db, stored.workflow) : null,
    plan,
    planMissing: missing,
    team: leave && mine ? await teamStrip(house, index, subject, leave.span, id, today) : null,
    may: {
      answer: mine && verb === 'Decide' ? mine.id : null,
      spent: mine ? spentOutcomes(definition, mine.step, state) : [],
      work: mine && verb === 'Do' ? { task: mine.id, free: mine.pool === 'free' } : null,
      handIn: isOwn ? handedInAt(definition, state) : [],
      rework: state.returned?.to === caller.id && !hasPassed,
      withdraw: stillOpen && (asker === caller.id || owner === caller.id || byHr),
      changeOwner: mayChangeOwner(state, { ...asking, helps: byHr }),
      tryAgain: state.status === 'stuck' && byHr && !hasPassed,
      pass: mine && mine.pool !== 'free' ? mine.id : null,
      reply: isOwn ? (state.tasks.find(task => task.question)?.id ?? null) : null,
      bringBack: mine && (mine.aside || mine.lentBy) ? mine.id : null,
      change: mayAfterwards(definition, state, 'change', asking) === undefined,
      cancel: mayAfterwards(definition, state, 'cancel', asking) === undefined,
      moveDate: mayMove(definition, state, context, caller),
      correct: may(caller, 'correct answers') && state.status !== 'new',
      keepLeave: !stillOpen && state.leave?.state === 'booked' && mayKeepLeave(caller, subject, index, today),
      decidePast: stillOpen && hasPassed && mayKeepLeave(caller, subject, index, today),
      helpOutside: byHr,
      appoint: byHr && !hasPassed ? (state.stuckAt.find(s => waitsForHolder(definition, s.step))?.step ?? null) : null,
      comment: true,
    },
  };
}

/** A definition as those see it who ask and decide: what designers noted and tried stays with them. */
const forReaders = ({ notes: _notes, checks: _checks, ...definition }: Definition): Definition => definition;

const spentOutcomes = (definition: Definition, id: string, state: RequestState): string[] => {
  const step = stepById(definition, id);
  if (step?.verb !== 'Decide') return [];
  const open = openOutcomes(step, state);
  return step.outcomes.filter(o => !open.includes(o)).map(o => o.id);
};

/** Whether a step is one that somebody must be found for. */
const waitsForHolder = (definition: Definition, step: string): boolean => {
  const found = stepById(definition, step);
  return found?.verb === 'Decide' || found?.verb === 'Do';
};

/**
 * The lists that the fields of a form pick from, posts on file among them: with the rows that may be picked on a day, and
 * those that were.
 */
const listsFor = (
  definition: Definition,
  { index, lists = [], day }: { index: DirectoryIndex; lists?: readonly ReferenceList[]; day: CivilDate },
  answers: Answers = {},
): ReferenceList[] => {
  const wanted = new Set(
    definition.form.fields.flatMap(f => {
      if (f.kind === 'pick') return [f.list];
      // Columns of places offer those of the house.
      return f.kind === 'table' && f.columns.some(column => column.kind === 'place') ? ['places'] : [];
    }),
  );
  const picked = new Set(Object.values(answers));
  return listsOf({ index, lists })
    .filter(list => wanted.has(list.id))
    .map(list => ({ ...list, rows: list.rows.filter(row => isPickable(row, day) || picked.has(row.id)) }));
};

/** Names to choose a person from, when the form asks for one. */
const peopleFor = (definition: Definition, index: DirectoryIndex) =>
  definition.form.fields.some(f => f.kind === 'person')
    ? index.directory.people.map(({ id, name }) => ({ id, name }))
    : [];

/** The steps at which a request waits for a document, or for the last day of an absence. */
export function handedInAt(definition: Definition, state: RequestState): string[] {
  return state.holds.flatMap(({ step: id }) => {
    const step = stepById(definition, id);
    return step?.verb === 'Hold' && isHandedIn(step.until) ? [id] : [];
  });
}

/** A kind of leave as it is asked for on a day; with times where some days from then on may be, which the core looks at. */
function typeChoice(type: LeaveType, today: CivilDate) {
  const now = typeOn(type, today);
  const later = (type.later ?? []).filter(({ from }) => from > today).map(({ rules }) => rules);
  return {
    id: type.id,
    name: type.name,
    hasBalance: now.takesFrom !== 'nothing',
    times: [now, ...later].some(rules => rules.times === true),
    // What goes on until more is told has begun.
    openEnd: now.openEnd === true && now.takesFrom === 'nothing',
  };
}

/** Workflows that are live, for choosing what to ask. */
export async function askable(house: House, caller: Caller): Promise<AskableRow[]> {
  const { index, now } = await house.moment(house.db);
  const rows = await house.db
    .select()
    .from(t.workflows)
    .where(and(isNotNull(t.workflows.liveVersion), isNull(t.workflows.archivedAt)))
    .orderBy(asc(t.workflows.position));
  const found = await Promise.all(
    rows.map(async row => ({ id: row.id, definition: await loadDefinition(house.db, row.id, row.liveVersion ?? 0) })),
  );
  const open = found.filter(({ definition }) => {
    const subjects = [caller.id, ...askableSubjects(definition, index, caller.id, todayFor(index, caller.id, now))];
    return subjects.some(subject => mayAsk(definition, { index, now }, caller.id, subject) === undefined);
  });
  return open.map(({ id, definition: { name, area, purpose, form } }) => {
    const span = form.fields.find(field => field.kind === 'leave span');
    return { id, name, area, purpose, leaveField: span?.id ?? null };
  });
}

const latest = 200;
const fewest = 5;

/** Days from asking to the end, of the latest requests of a workflow that somebody had to look at. */
async function usualDays(db: Executor, workflow: string): Promise<UsualTime | null> {
  const rows = await db
    .select({ askedAt: t.requests.askedAt, closedAt: t.requests.closedAt })
    .from(t.requests)
    .where(and(eq(t.requests.workflow, workflow), eq(t.requests.status, 'closed')))
    .orderBy(desc(t.requests.number))
    .limit(latest);
  const days = rows
    .map(row => (toMilliseconds(row.closedAt ?? row.askedAt) - toMilliseconds(row.askedAt)) / 86_400_000)
    .filter(n => n > 0)
    .sort((a, b) => a - b);
  if (days.length < fewest) return null;
  const at = (share: number) => days[Math.min(days.length - 1, Math.floor(days.length * share))];
  return { median: at(0.5), nineInTen: at(0.9), of: days.length };
}

export async function askView(house: House, caller: Caller, workflow: string): Promise<AskView> {
  const { definition, version } = await liveDefinition(house.db, workflow);
  const { index, lists, now } = await house.moment(house.db);
  const closed = isNotOpen(definition, { index, now }, caller.id);
  if (closed) throw new ProblemError('not allowed', closed);
  const subjects = askableSubjects(definition, index, caller.id, todayFor(index, caller.id, now));
  const [draft] = await house.db
    .select()
    .from(t.requestDrafts)
    .where(and(eq(t.requestDrafts.person, caller.id), eq(t.requestDrafts.workflow, workflow)));
  return {
    workflow,
    version,
    definition: forReaders(definition),
    leaveTypes: (await loadTypes(house.db)).map(type => typeChoice(type, todayFor(index, caller.id, now))),
    lists: listsFor(definition, { index, lists, day: todayFor(index, caller.id, now) }),
    people: peopleFor(definition, index),
    subjects: subjects.map(id => ({ id, name: nameOf(index, id) })),
    usually: await usualDays(house.db, workflow),
    draft: draft ? { answers: draft.answers, savedAt: draft.savedAt as Instant } : null,
  };
}
