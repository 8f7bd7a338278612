/** People found by words, and one person as they are on file, today and through time. */
import type { Writable } from 'node:stream';
import {
  colleagueFields,
  type FactChangeView,
  type FindRecords,
  may,
  type PeopleColumn,
  type PeopleView,
  type PersonPageView,
  type PersonRow,
  peopleColumns,
  type RecordChoices,
} from '@north-pebble/contract';
import { touched } from '@north-pebble/core/consequences';
import { type FactEdit, factOfEdit } from '@north-pebble/core/facts';
import {
  type DirectoryIndex,
  holderOf,
  isEmployed,
  looksAfter,
  mainPost,
  managerOf,
  type Person,
  type PersonId,
  peopleReasonWords,
  personName,
  plainLetters,
  postsOf,
  recordOn,
  todayFor,
} from '@north-pebble/core/people';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import { desc, eq, sql } from 'drizzle-orm';
import { type Colleague, maySeeBalance } from '../../access/index.ts';
import { tables as t } from '../../database/index.ts';
import { type House, type Rules, rulesFor } from '../../house/index.ts';
import { type Caller, dayCell, notFound, writeCsv } from '../../http/index.ts';
import { mayChangeRecords } from '../changing.ts';
import { circumstancesView } from './circumstances.ts';
import { readerFor } from './reading.ts';
import { linesOf } from './through.ts';
import { editWords } from './words.ts';

const standingOf = (person: Person, today: CivilDate): PersonRow['standing'] =>
  person.joined > today ? 'comes' : isEmployed(person, today) ? 'here' : 'left';

type Looked = PersonRow & {
  readonly managerId: PersonId | null;
  readonly letters: string;
  readonly mailLetters: string;
  readonly placeId: string;
  readonly departmentId: string;
  readonly joined: CivilDate;
  readonly mail: string;
};
/** Everybody as they are on a day, worked out once for each directory. */
const lookedUp = new WeakMap<DirectoryIndex, { today: CivilDate; rows: readonly Looked[] }>();

function everybody(index: DirectoryIndex, today: CivilDate): readonly Looked[] {
  const known = lookedUp.get(index);
  if (known?.today === today) return known.rows;
  const rows = index.directory.people.map((person): Looked => {
    const record = recordOn(person, today);
    const manager = managerOf(index, person.id, today);
    const post = mainPost(index, person.id, today)?.title ?? null;
    const place = index.place(record?.place ?? '')?.name ?? '';
    const department = index.department(record?.department ?? '')?.name ?? '';
    return {
      id: person.id,
      name: person.name,
      post,
      place,
      department,
      manager: 'person' in manager ? manager.person.name : null,
      managerId: 'person' in manager ? manager.person.id : null,
      joined: person.joined,
      left: person.left,
      mail: person.mail,
      standing: standingOf(person, today),
      letters: plainLetters([person.name, post ?? '', place, department].join(' ')),
      mailLetters: plainLetters(person.mail),
      placeId: record?.place ?? '',
      departmentId: record?.department ?? '',
    };
  });
  const byTheirNames = rows.toSorted((a, b) => inOrder.compare(a.name, b.name));
  lookedUp.set(index, { today, rows: byTheirNames });
  return byTheirNames;
}

const inOrder = new Intl.Collator('en', { numeric: true });
const mostRows = 500;
const byName = <T extends { name: string }>(all: readonly T[]): T[] =>
  all.toSorted((a, b) => inOrder.compare(a.name, b.name));

/** Those that are found, in the order that is asked for; whoever has nothing there comes last. */
async function foundPeople(house: House, caller: Caller, find: FindRecords) {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const parts = plainLetters(find.words).split(/\s+/).filter(Boolean);
  const reader = await readerFor(house, caller, index, today);
  const found = everybody(index, today)
    .filter(
      row =>
        (find.standing === 'all' || row.standing === find.standing) &&
        (find.place === '' || row.placeId === find.place) &&
        (find.department === '' || row.departmentId === find.department) &&
        parts.every(part => row.letters.includes(part) || row.mailLetters.includes(part)),
    )
    // What is read of somebody is asked only for those whom the words may mean.
    .map(row => ({ row, reads: reader.of(row.id) }))
    .filter(
      ({ row, reads }) =>
        // Who is to come, or has left, is told by days that only some may read.
        (row.standing === 'here' || reads[row.standing === 'left' ? 'left' : 'joined']) &&
        parts.every(part => row.letters.includes(part) || (reads.mail && row.mailLetters.includes(part))),
    )
    .map(({ row, reads }) => ({
      ...row,
      manager: reads.manager ? row.manager : null,
      mail: reads.mail ? row.mail : null,
      joined: reads.joined ? row.joined : null,
      left: reads.left ? row.left : null,
    }));
  const { sort } = find;
  const turn = find.down === 'yes' ? -1 : 1;
  // Everybody is kept by name already: only another order is made anew.
  const rows =
    sort === 'name' && turn === 1
      ? found
      : found.toSorted((a, b) => {
          const [x, y] = [a[sort], b[sort]];
          if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
          return turn * inOrder.compare(x, y);
        });
  return { index, today, rows, reader };
}

const fieldsRead = (reads: Colleague) => colleagueFields.filter(field => reads[field]);

export async function peopleView(house: House, caller: Caller, find: FindRecords): Promise<PeopleView> {
  const { index, today, rows, reader } = await foundPeople(house, caller, find);
  return {
    today,
    rows: rows
      .slice(0, mostRows)
      .map(({ letters: _, mailLetters: _l, managerId: _m, placeId: _p, departmentId: _d, ...row }) => row),
    more: Math.max(0, rows.length - mostRows),
    places: byName(index.directory.places.map(({ id, name }) => ({ id, name }))),
    departments: byName(index.directory.departments.map(({ id, name }) => ({ id, name }))),
    mayAdd: mayChangeRecords(caller),
    mayExport: may(caller, 'export'),
    reads: reader.all ? [...colleagueFields] : colleagueFields.filter(field => reader.shared.includes(field)),
  };
}

const headings: Record<PeopleColumn, string> = {
  name: 'Name',
  post: 'Post',
  place: 'Place',
  department: 'Department',
  manager: 'Line manager',
  joined: 'Joined',
  left: 'Left',
  mail: 'Mail',
};

export async function writePeople(house: House, caller: Caller, find: FindRecords, out: Writable): Promise<void> {
  const { rows } = await foundPeople(house, caller, find);
  async function* lines() {
    yield rows.map(row =>
      peopleColumns.map(column =>
        column === 'joined' || column === 'left' ? dayCell(row[column]) : (row[column] ?? ''),
      ),
    );
  }
  await writeCsv(
    out,
    peopleColumns.map(column => headings[column]),
    lines(),
  );
}

const mostChanges = 100;

async function changesOf(
  house: House,
  index: DirectoryIndex,
  rules: Rules,
  person: PersonId,
  seesCircumstances: boolean,
): Promise<FactChangeView[]> {
  const { db } = house;
  const { id, at, by, request, reason, from, takesBack } = t.factChanges;
  const rows = await db
    .select({
      ...{ id, at, by, request, reason, from, takesBack },
      // Of a large change only what is about them is read.
      own: t.factChangePeople.edits,
      all: sql<string | null>`if(${t.factChangePeople.edits} is null, ${t.factChanges.edits}, null)`,
    })
    .from(t.factChangePeople)
    .innerJoin(t.factChanges, eq(t.factChanges.id, t.factChangePeople.change))
    .where(eq(t.factChangePeople.person, person))
    .orderBy(desc(t.factChanges.id))
    .limit(mostChanges);
  const taken = new Set(rows.flatMap(row => row.takesBack ?? []));
  const editsOf = (row: (typeof rows)[number]) =>
    (row.own ?? (JSON.parse(row.all ?? '[]') as FactEdit[])).filter(
      edit => seesCircumstances || factOfEdit(edit).kind !== 'circumstance',
    );
  return rows
    .flatMap(row => (editsOf(row).length === 0 ? [] : [row]))
    .map(row => ({
      id: row.id,
      at: row.at as Instant,
      who: row.by === null ? null : personName(index, row.by as PersonId),
      request: row.request,
      reason: row.reason,
      from: row.from as CivilDate | null,
      says: editsOf(row).flatMap(edit => {
        const about = touched([edit]);
        return about.length === 0 || about.includes(person) ? editWords({ index, plans: rules.plans }, edit) : [];
      }),
      takesBack: row.takesBack,
      takenBack: taken.has(row.id),
      isShutdown: false,
    }));
}

export async function recordChoices(house: House, caller: Caller): Promise<RecordChoices> {
  const { index, now } = await house.moment(house.db);
  return choicesOf(index, await rulesFor(house.db, index), todayFor(index, caller.id, now));
}

function choicesOf(index: DirectoryIndex, rules: Rules, today: CivilDate): RecordChoices {
  const named = (all: readonly { id: string; name: string }[]) => byName(all.map(({ id, name }) => ({ id, name })));
  return {
    places: named(index.directory.places),
    departments: named(index.directory.departments),
    patterns: named(index.directory.patterns),
    plans: rules.plans.map(({ id, name, unit }) => ({ id, name, unit })),
    posts: byName(
      index.directory.posts.map(post => {
        const holder = holderOf(index, post, today);
        return {
          id: post.id,
          name: post.title,
          where: [index.department(post.department)?.name, index.place(post.place)?.name].filter(Boolean).join(', '),
          holder: 'person' in holder ? holder.person.name : null,
        };
      }),
    ),
    roles: [...new Set(index.directory.roles.map(one => one.role))].sort(),
  };
}

export async function personPage(house: House, caller: Caller, id: PersonId): Promise<PersonPageView> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const person = index.person(id);
  if (!person) throw notFound();
  const rules = await rulesFor(db, index);
  const record = recordOn(person, today);
  const manager = managerOf(index, id, today);
  const named = (who: PersonId) => ({ id: who, name: personName(index, who) });
  const seesRecord = maySeeBalance(caller, id, index, today);
  const mayChange = mayChangeRecords(caller) && caller.id !== id;
  const seesCircumstances = caller.id === id || mayChangeRecords(caller) || looksAfter(index, caller.id, id, today);
  const main = mainPost(index, id, today);
  const reader = await readerFor(house, caller, index, today);
  const reads = reader.of(id);
  if (standingOf(person, today) === 'comes' && !reads.joined) throw notFound();
  return {
    today,
    id,
    name: person.name,
    reads: fieldsRead(reads),
    mail: reads.mail ? person.mail : null,
    number: seesRecord ? (person.number ?? null) : null,
    joined: reads.joined ? person.joined : null,
    left: reads.left ? person.left : null,
    standing: standingOf(person, today),
    place: index.place(record?.place ?? '')?.name ?? '',
    department: index.department(record?.department ?? '')?.name ?? '',
    manager: reads.manager && 'person' in manager ? named(manager.person.id) : null,
    managerWhy: reads.manager
      ? [
          ...manager.reasons.map(why => peopleReasonWords(why, index)),
          ...('gap' in manager ? [peopleReasonWords(manager.gap, index)] : []),
        ]
      : [],
    dottedTo: person.dottedTo === null || !reads.manager ? null : named(person.dottedTo),
    posts: postsOf(index, id, today).map(post => ({ title: post.title, main: post.id === main?.id })),
    reports: byName(
      everybody(index, today)
        .filter(one => one.standing === 'here' && one.managerId === id && reader.of(one.id).manager)
        .map(one => named(one.id)),
    ),
    roles: index.directory.roles
      .filter(one => one.person === id)
      .map(one => {
        const where = one.place
          ? index.place(one.place)?.name
          : one.department && index.department(one.department)?.name;
        return where ? `${one.role} for ${where}` : one.role;
      }),
    lines: seesRecord ? linesOf(index, rules, person) : null,
    changes: seesRecord ? await changesOf(house, index, rules, id, seesCircumstances) : null,
    circumstances: seesCircumstances ? await circumstancesView(house, rules, person, today) : null,
    now:
      seesRecord && record
        ? {
            place: record.place,
            department: record.department,
            pattern: record.pattern,
            fte: record.fte,
            plan: record.plan,
            post: main?.id ?? null,
            dottedTo: person.dottedTo,
          }
        : null,
    mayChange,
    sees: { balance: seesRecord },
  };
}
