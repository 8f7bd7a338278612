/** Requests as their readers see them: the list, one request with its trail, the desk, the form to ask with. */
import type {
  AskableRow,
  AskView,
  DeskItem,
  DeskView,
  RequestRow,
  RequestView,
  TeamStrip,
} from '@north-pebble/contract';
import { type ReferenceList, spanWords } from '@north-pebble/core/form';
import type { LeaveEntry, LeaveSpan, LeaveType } from '@north-pebble/core/leave';
import { type DirectoryIndex, type PersonId, teamOf, workingTimeOf, zoneOf } from '@north-pebble/core/people';
import {
  addDays,
  amountOfUnit,
  amountWords,
  type CivilDate,
  halfIndex,
  type Instant,
  toDay,
  weekday,
  yearMonthDay,
} from '@north-pebble/core/time';
import {
  closingById,
  type Definition,
  type Figure,
  isOpen,
  leaveTypeAnswer,
  listsOf,
  mayAsk,
  nameOf,
  type RequestState,
  stepById,
  trail,
} from '@north-pebble/core/workflow';
import { and, asc, desc, eq, gte, inArray, isNotNull, isNull } from 'drizzle-orm';
import { maySeeRequest, mayTryAgain } from '../access/index.ts';
import { type Executor, tables as t } from '../database/index.ts';
import type { House } from '../house.ts';
import { type Caller, notFound } from '../http/index.ts';
import { loadBook, loadEntries, loadTypes } from '../leave/store.ts';
import { halfState } from '../planner/halves.ts';
import { askableSubjects, leaveIn, leaveReasons, liveDefinition, subjectOf, todayFor } from './service.ts';
import { holdersOf, loadDefinition, loadEvents, loadRequest, type StoredRequest } from './store.ts';

const holderWords = (state: RequestState, index: DirectoryIndex): string => {
  const names = [...new Set(state.tasks.map(task => nameOf(index, task.holder)))];
  return names.length > 3 ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} others` : names.join(', ');
};

/** Where a request stands, in words. */
export function standing(definition: Definition, state: RequestState, index: DirectoryIndex): string {
  switch (state.status) {
    case 'new':
      return 'being sent';
    case 'open':
      if (state.tasks.length > 0) return `waits for ${holderWords(state, index)}`;
      return state.holds.length > 0 ? `waits ${state.holds[0].reason}` : 'going on';
    case 'rework':
      return 'sent back for changes';
    case 'stuck':
      return 'cannot go on';
    case 'withdrawn':
      return 'Withdrawn';
    case 'closed':
      return closingById(definition, state.closing ?? '')?.name ?? 'Closed';
  }
}

async function rowOf(db: Executor, index: DirectoryIndex, stored: StoredRequest): Promise<RequestRow> {
  const definition = await loadDefinition(db, stored.workflow, stored.workflowVersion);
  return {
    id: stored.id ?? '',
    title: stored.title,
    workflow: stored.workflow,
    asker: stored.asker as PersonId,
    askerName: nameOf(index, stored.asker as PersonId),
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
    .where(and(eq(t.requests.asker, caller.id), isNotNull(t.requests.id)))
    .orderBy(desc(t.requests.number))
    .limit(mostRows);
  return Promise.all(rows.map(row => rowOf(house.db, index, row)));
}

/** The days from two before a span to two after, at most `most`, with who is at work. */
async function teamStrip(
  house: House,
  index: DirectoryIndex,
  asker: PersonId,
  span: LeaveSpan,
  request: string,
  today: CivilDate,
): Promise<TeamStrip> {
  const most = 21;
  const from = toDay(span.from.date);
  const to = Math.min(toDay(span.to.date), from + most - 1);
  const team = teamOf(index, asker, today);
  const people = [...team.filter(p => p.id === asker), ...team.filter(p => p.id !== asker)].slice(0, 12);
  const first = addDays(span.from.date, -1);
  const entries = await loadEntries(
    house.db,
    people.map(p => p.id),
    first,
    addDays(span.to.date, 1),
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
  if (!stored) throw notFound();
  const index = await house.directory(db);
  const now = await house.now(db);
  const asker = stored.asker as PersonId;
  const subject = subjectOf(stored);
  const today = todayFor(index, subject, now);
  const holders = await holdersOf(db, id);
  if (!maySeeRequest(caller, { asker, holders: [...holders, subject] }, index, today)) throw notFound();
  const definition = await loadDefinition(db, stored.workflow, stored.workflowVersion);
  const book = await loadBook(db, index, subject, today);
  const lists = listsFor(definition, index, await house.lists(db));
  const { state } = stored;
  const stillOpen = isOpen(state);
  const leave = stillOpen ? leaveIn(definition, state.answers, book) : null;
  const mine = state.tasks.find(task => task.holder === caller.id);
  const verb = mine && stepById(definition, mine.step)?.verb;
  const { returned } = state;
  return {
    ...(await rowOf(db, index, stored)),
    definition,
    version: state.version,
    workflowVersion: stored.workflowVersion,
    answers: state.answers,
    figures: state.figures,
    at: state.at,
    subject,
    subjectName: nameOf(index, subject),
    lists,
    people: peopleFor(definition, index),
    visited: state.visited,
    tasks: state.tasks.map(task => ({ ...task, holderName: nameOf(index, task.holder) })),
    changes: state.changes,
    returned: returned && {
      fields: returned.fields,
      note: returned.note,
      byName: nameOf(index, returned.by),
      at: returned.at,
    },
    stuck: state.stuck,
    closing: state.closing,
    trail: trail(definition, await loadEvents(db, id), { index, book, lists }),
    leave: stillOpen ? leaveReasons(definition, state.answers, book, subject, id) : null,
    leaveTypes: book.types.map(typeChoice),
    team: leave && mine ? await teamStrip(house, index, subject, leave.span, id, today) : null,
    may: {
      answer: mine && verb === 'Decide' ? mine.id : null,
      work: mine && verb === 'Do' ? { task: mine.id, free: mine.pool === 'free' } : null,
      handIn: caller.id === asker || caller.id === subject ? documentWaitedFor(definition, state) : null,
      rework: state.returned?.to === caller.id,
      withdraw: stillOpen && asker === caller.id,
      tryAgain: state.status === 'stuck' && mayTryAgain(caller),
    },
  };
}

/** The lists that the fields of a form pick from, posts on file among them. */
const listsFor = (definition: Definition, index: DirectoryIndex, lists: readonly ReferenceList[]): ReferenceList[] => {
  const wanted = new Set(definition.form.fields.flatMap(f => (f.kind === 'pick' ? [f.list] : [])));
  return listsOf({ index, lists }).filter(list => wanted.has(list.id));
};

/** Names to choose a person from, when the form asks for one. */
const peopleFor = (definition: Definition, index: DirectoryIndex) =>
  definition.form.fields.some(f => f.kind === 'person')
    ? index.directory.people.map(({ id, name }) => ({ id, name }))
    : [];

/** The step at which a request waits for a document, if any. */
function documentWaitedFor(definition: Definition, state: RequestState): string | null {
  const hold = state.holds.find(h => {
    const step = stepById(definition, h.step);
    return step?.verb === 'Hold' && step.until.kind === 'document';
  });
  return hold?.step ?? null;
}

/** `4½ days of annual leave` when the workflow works days out, else the request's title. */
function whatOf(definition: Definition, stored: StoredRequest, typeName: (id: string) => string): string {
  const days = definition.figures.find(f => f.unit === 'days');
  const value = days && stored.state.figures[days.id];
  const kind = definition.form.fields.find(f => f.kind === 'choice' && f.options === 'leave types');
  const type = kind && stored.state.answers[kind.id];
  if (typeof value !== 'number' || typeof type !== 'string') return stored.title;
  return `${amountOfUnit(value, 'days')} of ${typeName(type).toLowerCase()}`;
}

const isBalance = (figure: Figure): boolean => figure.formula.startsWith('balance after(');
const typeChoice = (type: LeaveType) => ({ id: type.id, name: type.name, hasBalance: type.takesFrom !== 'nothing' });

function factsOf(definition: Definition, state: RequestState, types: readonly LeaveType[]): string[] {
  const facts: string[] = [];
  for (const field of definition.form.fields) {
    const answer = state.answers[field.id];
    if (field.kind === 'leave span' && answer && typeof answer === 'object') facts.push(spanWords(answer as LeaveSpan));
  }
  // The first figure in days is in the item's own words already.
  const said = definition.figures.find(f => f.unit === 'days');
  for (const figure of definition.figures) {
    const value = state.figures[figure.id];
    if (figure === said || typeof value !== 'number') continue;
    if (isBalance(figure)) {
      const type = types.find(t => t.id === leaveTypeAnswer(definition, state.answers));
      if (type?.takesFrom === 'nothing') continue;
    }
    if (figure.formula.startsWith('others away(')) {
      facts.push(value === 0 ? 'nobody else away' : `${value} ${value === 1 ? 'other' : 'others'} away`);
    } else facts.push(`${figure.name.toLowerCase()} ${amountWords(value)}`);
  }
  return facts;
}

const recentDays = 7;

export async function desk(house: House, caller: Caller): Promise<DeskView> {
  const { db } = house;
  const index = await house.directory(db);
  const now = await house.now(db);
  const held = await db
    .select({ request: t.tasks.request })
    .from(t.tasks)
    .where(and(eq(t.tasks.holder, caller.id), eq(t.tasks.open, true)));
  const ids = held.map(row => row.request);
  const waiting = ids.length > 0 ? await db.select().from(t.requests).where(inArray(t.requests.id, ids)) : [];
  const own = await db
    .select()
    .from(t.requests)
    .where(and(eq(t.requests.asker, caller.id), inArray(t.requests.status, ['rework', 'open'])));
  const back = own.filter(row => row.state.returned?.to === caller.id);
  const handIns: StoredRequest[] = [];
  for (const row of own) {
    if (
      row.state.holds?.length > 0 &&
      documentWaitedFor(await loadDefinition(db, row.workflow, row.workflowVersion), row.state)
    )
      handIns.push(row);
  }
  const stuck = mayTryAgain(caller) ? await db.select().from(t.requests).where(eq(t.requests.status, 'stuck')) : [];
  const types = await loadTypes(db);
  const typeName = (id: string) => types.find(type => type.id === id)?.name ?? id;
  const items: DeskItem[] = [];
  for (const [kind, rows] of [
    ['decide', waiting],
    ['rework', back],
    ['hand in', handIns],
    ['stuck', stuck],
  ] as const) {
    for (const stored of rows) {
      const definition = await loadDefinition(db, stored.workflow, stored.workflowVersion);
      const task = stored.state.tasks.find(x => x.holder === caller.id);
      items.push({
        request: stored.id ?? '',
        kind: task && kind === 'decide' && stepById(definition, task.step)?.verb === 'Do' ? 'do' : kind,
        again: kind === 'decide' && stored.state.reworks > 0,
        asker: stored.asker as PersonId,
        askerName: nameOf(index, stored.asker as PersonId),
        what: whatOf(definition, stored, typeName),
        facts: kind === 'stuck' ? [stored.state.stuck ?? ''] : factsOf(definition, stored.state, types),
        coverFor: task?.coverFor ? nameOf(index, task.coverFor) : null,
        due: task?.due ?? null,
      });
    }
  }
  items.sort((a, b) => (a.due ?? '9').localeCompare(b.due ?? '9') || a.request.localeCompare(b.request));
  const self = index.person(caller.id);
  return {
    now,
    zone: self ? zoneOf(index, self, todayFor(index, caller.id, now)) : 'UTC',
    items,
    done: await doneLately(house, caller, now),
  };
}

async function doneLately(house: House, caller: Caller, now: Instant): Promise<DeskView['done']> {
  const since = `${addDays(now.slice(0, 10) as CivilDate, -recentDays)}T00:00:00Z`;
  const rows = await house.db
    .select({ body: t.events.body, request: t.events.request, title: t.requests.title, state: t.requests })
    .from(t.events)
    .innerJoin(t.requests, eq(t.requests.id, t.events.request))
    .where(and(eq(t.events.actor, caller.id), gte(t.events.at, since), eq(t.events.kind, 'answered')))
    .orderBy(desc(t.events.at))
    .limit(20);
  const index = await house.directory(house.db);
  const lines: DeskView['done'] = [];
  for (const { body, request, title, state } of rows) {
    if (body.kind !== 'answered') continue;
    const definition = await loadDefinition(house.db, state.workflow, state.workflowVersion);
    const step = stepById(definition, body.step);
    const outcome = step?.verb === 'Decide' ? step.outcomes.find(o => o.id === body.outcome) : undefined;
    const asker = nameOf(index, state.asker as PersonId);
    lines.push({ at: body.at, request, text: `${outcome?.label ?? body.outcome}: ${asker}, ${title}` });
  }
  return lines;
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
  return open.map(({ id, definition: { name, area, purpose } }) => ({ id, name, area, purpose }));
}

export async function askView(house: House, caller: Caller, workflow: string): Promise<AskView> {
  const { definition, version } = await liveDefinition(house.db, workflow);
  const { index, lists, now } = await house.moment(house.db);
  const subjects = askableSubjects(definition, index, caller.id, todayFor(index, caller.id, now));
  const [draft] = await house.db
    .select()
    .from(t.requestDrafts)
    .where(and(eq(t.requestDrafts.person, caller.id), eq(t.requestDrafts.workflow, workflow)));
  return {
    workflow,
    version,
    definition,
    leaveTypes: (await loadTypes(house.db)).map(typeChoice),
    lists: listsFor(definition, index, lists),
    people: peopleFor(definition, index),
    subjects: subjects.map(id => ({ id, name: nameOf(index, id) })),
    draft: draft ? { answers: draft.answers, savedAt: draft.savedAt as Instant } : null,
  };
}
