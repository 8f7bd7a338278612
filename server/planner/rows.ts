/** Rows of the planner: one person each, with when they are away, as the reader may see it. */
import type { Writable } from 'node:stream';
import type { LookAtPlanner, LookAtPlannerRows, PlannerAway, PlannerBar, PlannerRows } from '@north-pebble/contract';
import { spanWords } from '@north-pebble/core/form';
import {
  asTold,
  byPerson,
  type Days,
  type LeaveEntry,
  type LeaveType,
  openAhead,
  shadesOf,
  stretchOf,
  typeOn,
  withinWork,
} from '@north-pebble/core/leave';
import type { DirectoryIndex, Person } from '@north-pebble/core/people';
import { addDays, type CivilDate, rangeWords, toDay, yearOf } from '@north-pebble/core/time';
import { and, eq, inArray, or } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { type House, loadEntries, loadLines, rulesFor } from '../house/index.ts';
import { type Caller, dayCell, writeCsv } from '../http/index.ts';
import { type Look, lookAt } from './planner.ts';
import { readsKind, readsLine } from './reading.ts';

/** Absence of one person with its own days, and the part of it that is shown. */
type Absence = PlannerBar & { readonly from: CivilDate; readonly to: CivilDate };

/** Of these requests, those that wait for the reader. */
async function waitingFor(house: House, caller: Caller, requests: readonly string[]): Promise<Set<string>> {
  if (requests.length === 0) return new Set();
  const rows = await house.db
    .select({ request: t.tasks.request })
    .from(t.tasks)
    .where(
      and(
        inArray(t.tasks.request, [...requests]),
        eq(t.tasks.open, true),
        or(eq(t.tasks.holder, caller.id), eq(t.tasks.coverFor, caller.id)),
      ),
    );
  return new Set(rows.map(row => row.request));
}

type Reader = {
  readonly index: DirectoryIndex;
  readonly caller: Caller;
  readonly today: CivilDate;
  readonly types: readonly LeaveType[];
  readonly days: Days;
  readonly waits: ReadonlySet<string>;
};

/** Why a colleague is away is theirs to tell; one’s own leave is named. */
function absenceOf(reader: Reader, person: Person, entry: LeaveEntry): Absence | undefined {
  const { index, caller, today, types, days, waits } = reader;
  const stretch = stretchOf(entry.span, days);
  if (!stretch) return undefined;
  const type = types.find(one => one.id === entry.type);
  const rules = type && typeOn(type, entry.span.from.date);
  const reads = rules !== undefined && readsKind(index, caller, person, rules.kindReadBy, today);
  const isHeld = entry.state === 'held';
  // Whether it takes from a balance would tell which kind it is.
  const isOther = reads && rules.takesFrom === 'nothing';
  const isWaiting = waits.has(entry.request);
  return {
    ...stretch,
    from: entry.span.from.date,
    to: entry.span.to.date,
    kind: isHeld ? 'asked' : isOther ? 'other' : 'booked',
    label: `${reads && type ? type.name : 'Away'}${isHeld ? ', asked for' : ''}: ${spanWords(asTold(entry), yearOf(today))}`,
    ...(readsLine(index, caller, person, today) || isWaiting ? { request: entry.request } : {}),
    ...(isWaiting ? { waits: true as const } : {}),
  };
}

/** What some people of a look are away for, each with their own. */
async function absencesOf(house: House, caller: Caller, look: Look, people: readonly Person[]) {
  const { index, looked, days } = look;
  const { from, to, today } = looked;
  const ids = people.map(person => person.id);
  const { types } = await rulesFor(house.db, index);
  const known = addDays(today, openAhead);
  const entries = withinWork(index, await loadEntries(house.db, ids, { from, to, known }));
  const held = entries.filter(entry => entry.state === 'held').map(entry => entry.request);
  const reader: Reader = { index, caller, today, types, days, waits: await waitingFor(house, caller, held) };
  const of = byPerson(entries);
  const lines = byPerson(await loadLines(house.db, ids, from, to));
  return (person: Person): Absence[] => [
    ...(lines.get(person.id) ?? []).map((line): Absence => {
      const what = readsLine(index, caller, person, today) ? line.label : 'At work elsewhere';
      return {
        first: (Math.max(toDay(line.from), days.first) - days.first) * 2,
        last: (Math.min(toDay(line.to), days.last) - days.first) * 2 + 1,
        from: line.from,
        to: line.to,
        kind: 'elsewhere',
        label: `${what}: ${rangeWords(line.from, line.to, yearOf(today))}`,
      };
    }),
    ...(of.get(person.id) ?? [])
      .flatMap(entry => absenceOf(reader, person, entry) ?? [])
      .sort((a, b) => a.first - b.first),
  ];
}

export async function plannerRows(house: House, caller: Caller, asked: LookAtPlannerRows): Promise<PlannerRows> {
  const look = await lookAt(house, caller, asked);
  const only = asked.only === undefined ? undefined : new Set(asked.only.split(','));
  const found = only ? look.people.filter(person => only.has(person.id)) : look.people;
  const people = found.slice(asked.skip, asked.skip + asked.take);
  const shades = shadesOf(look.index, people, look.days);
  const absences = await absencesOf(house, caller, look, people);
  return {
    shades: [...shades.all],
    rows: people.map(person => ({
      id: person.id,
      name: person.name,
      shade: shades.of.get(person.id) ?? 0,
      bars: absences(person).map(({ from: _from, to: _to, ...bar }) => bar),
    })),
  };
}

const atOnce = 1000;

/** Everybody’s absence, some people after others, so that others are answered in between. */
async function* everyAbsence(house: House, caller: Caller, look: Look) {
  const all = look.groups.flatMap(({ name: team, people }) => people.map(person => ({ person, team })));
  for (let skip = 0; skip < all.length; skip += atOnce) {
    const some = all.slice(skip, skip + atOnce);
    const absences = await absencesOf(
      house,
      caller,
      look,
      some.map(({ person }) => person),
    );
    for (const { person, team } of some) for (const one of absences(person)) yield { person, team, one };
  }
}

/** So many are told at once; how many there are in all is told too. */
const mostAway = 500;

export async function plannerAway(house: House, caller: Caller, asked: LookAtPlanner): Promise<PlannerAway> {
  const look = await lookAt(house, caller, asked);
  const rows: PlannerAway['rows'] = [];
  const met = new Set<string>();
  for await (const { person, one } of everyAbsence(house, caller, look)) {
    // Whoever is in two teams is away once.
    const key = `${person.id} ${one.from} ${one.to} ${one.label}`;
    if (met.has(key)) continue;
    met.add(key);
    const { from, to, kind, label, request } = one;
    rows.push({ id: person.id, name: person.name, from, to, kind, label, ...(request ? { request } : {}) });
  }
  rows.sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : a.name < b.name ? -1 : 1));
  return { all: rows.length, rows: rows.slice(0, mostAway) };
}

const stateWords = { booked: 'booked', asked: 'asked for', elsewhere: 'at work elsewhere', other: 'booked' } as const;

export async function writePlanner(house: House, caller: Caller, asked: LookAtPlanner, out: Writable): Promise<void> {
  const look = await lookAt(house, caller, asked);
  async function* lines() {
    for await (const { person, team, one } of everyAbsence(house, caller, look))
      yield [[person.name, team, dayCell(one.from), dayCell(one.to), stateWords[one.kind], one.label]];
  }
  await writeCsv(out, ['Name', 'Team', 'First day', 'Last day', 'State', 'What'], lines());
}
