/** Posts and their lines, people and their records, who holds which post, and roles. */
import { type FactOf, type OnFile, worthAt } from '../../facts/index.ts';
import type { PersonId } from '../../people/index.ts';
import {
  idColumn,
  namesOf,
  type Placed,
  peopleNames,
  personColumn,
  postNames,
  type TableKind,
  whereColumns,
} from '../table.ts';

const as = (id: string): PersonId => id as PersonId;

export const posts: TableKind = {
  id: 'posts',
  name: 'Posts',
  says: 'Posts, whether somebody holds them or not.',
  columns: [
    idColumn('Post', 'tide-observer-1'),
    { id: 'title', label: 'Title', means: 'What it is called.', needed: true, like: 'Tide observer' },
    ...whereColumns.toReversed(),
    { id: 'grade', label: 'Grade', means: 'A whole number, where posts are graded.', like: '7' },
    { id: 'spending', label: 'Spending limit', means: 'What its holder may spend on one request.', like: '500' },
    { id: 'closed', label: 'Closed', means: 'Its last day, where it has one.', like: '' },
  ],
  read(lines, { file }) {
    const [places, departments] = [namesOf(file.places), namesOf(file.departments)];
    return lines.flatMap((line): Placed[] => {
      const [id, title] = [line.own('id', 'title'), line.need('title')];
      const [department, place] = [line.needNamed('department', departments), line.needNamed('place', places)];
      const [grade, spending, closed] = [line.number('grade'), line.number('spending'), line.date('closed')];
      if (grade && !Number.isInteger(grade)) line.fault('grade', 'does not fit', String(grade), 'A whole number.');
      if (line.isBad || !department || !place || grade === undefined || spending === undefined || closed === undefined)
        return [];
      return [{ line: line.at, fact: { kind: 'post', id, title, department, place, grade, spending, closed } }];
    });
  },
  write: ({ file }) =>
    file.posts.map(({ id, title, department, place, grade, spending, closed }) => ({
      id,
      title,
      department,
      place,
      grade: grade === null || grade === undefined ? '' : String(grade),
      spending: spending === null || spending === undefined ? '' : String(spending),
      closed: closed ?? '',
    })),
};

export const lines: TableKind = {
  id: 'lines',
  name: 'Reporting lines',
  says: 'Which post reports to which, from a day on.',
  columns: [
    { id: 'post', label: 'Post', means: 'The post that reports.', needed: true, like: 'tide-observer-1' },
    { id: 'from', label: 'From', means: 'The first day on which it does.', needed: true, like: '2024-01-01' },
    { id: 'reportsTo', label: 'Reports to', means: 'The post above; empty at the top.', like: 'observatory-lead' },
  ],
  read(all, { file }) {
    const names = postNames(file);
    return all.flatMap((line): Placed[] => {
      const [post, from] = [line.needNamed('post', names), line.needDate('from')];
      const reportsTo = line.named('reportsTo', names);
      return line.isBad || !post || !from || reportsTo === undefined
        ? []
        : [{ line: line.at, fact: { kind: 'line', post, from, reportsTo } }];
    });
  },
  write: ({ file }) =>
    file.posts.flatMap(({ id, lines: own }) =>
      own.map(({ from, reportsTo }) => ({ post: id, from, reportsTo: reportsTo ?? '' })),
    ),
};

export const people: TableKind = {
  id: 'people',
  name: 'People',
  says: 'Everybody who works here, did, or will.',
  columns: [
    {
      id: 'id',
      label: 'Person',
      means: 'Their number or a short name that never changes.',
      needed: true,
      like: 'ines',
    },
    { id: 'name', label: 'Name', means: 'As they write it.', needed: true, like: 'Inês Marrow' },
    { id: 'mail', label: 'Mail', means: 'Their address in the house.', needed: true, like: 'ines@house.example' },
    { id: 'joined', label: 'Joined', means: 'Their first day.', needed: true, like: '2024-03-01' },
    { id: 'left', label: 'Left', means: 'Their last day, where there is one.', like: '' },
    { id: 'dottedTo', label: 'Also answers to', means: 'Somebody beside the reporting line.', like: '' },
    {
      id: 'number',
      label: 'Personnel number',
      means: 'What pay knows them by, where it is not the first column.',
      like: '',
    },
  ],
  read(all, { file }) {
    const first = all.map(line => ({
      line,
      id: line.own('id', 'name'),
      name: line.need('name'),
      mail: line.need('mail'),
    }));
    const names = new Map([
      ...peopleNames(file),
      ...first.flatMap(one => [[one.mail.toLowerCase(), one.id] as const, [one.id.toLowerCase(), one.id] as const]),
    ]);
    return first.flatMap(({ line, id, name, mail }): Placed[] => {
      const [joined, left] = [line.needDate('joined'), line.date('left')];
      const dottedTo = line.named('dottedTo', names);
      const number = line.text('number', 40);
      if (mail && !/^[^@\s]+@[^@\s]+$/.test(mail))
        line.fault('mail', 'does not fit', mail, 'An address like name@house.example.');
      if (joined && left && left < joined)
        line.fault('left', 'does not fit', left, `On or after the first day, ${joined}.`);
      if (line.isBad || !joined || left === undefined || dottedTo === undefined) return [];
      return [
        {
          line: line.at,
          fact: {
            kind: 'person',
            id: as(id),
            name,
            mail,
            joined,
            left,
            dottedTo: dottedTo === null ? null : as(dottedTo),
            ...(number ? { number } : {}),
          },
        },
      ];
    });
  },
  write: ({ file }) =>
    file.people.map(({ id, name, mail, joined, left, dottedTo, number }) => ({
      id,
      name,
      mail,
      joined,
      left: left ?? '',
      dottedTo: dottedTo ?? '',
      number: number ?? '',
    })),
};

type Read = Placed & { readonly fact: FactOf<'record'> };

/** Where a plan counts in another unit than the one before and nothing is said of it, a unit is worth what the pattern says. */
function withWorth(read: readonly Read[], file: Required<OnFile>): Read[] {
  const own = new Map<string, FactOf<'record'>[]>();
  for (const { fact } of read) own.set(fact.person, [...(own.get(fact.person) ?? []), fact]);
  const known = new Map(file.people.map(one => [one.id as string, one.records]));
  return read.map(one => {
    const { fact } = one;
    if (fact.planPer) return one;
    const all = [...(known.get(fact.person) ?? []), ...(own.get(fact.person) ?? [])];
    const before = all
      .filter(other => other.from < fact.from)
      .reduce<(typeof all)[number] | null>(
        (last, other) => (last === null || other.from >= last.from ? other : last),
        null,
      );
    const worth = before && worthAt(file, file.leavePlans, fact, before);
    return worth ? { ...one, fact: { ...fact, planPer: worth } } : one;
  });
}

export const records: TableKind = {
  id: 'records',
  name: 'Records',
  says: 'What holds for a person from a day on: place, department, hours and pattern. One line for each day on which it changed.',
  columns: [
    personColumn,
    { id: 'from', label: 'From', means: 'The first day on which it holds.', needed: true, like: '2024-03-01' },
    ...whereColumns,
    { id: 'pattern', label: 'Work pattern', means: 'By its short name or its name.', needed: true, like: 'office' },
    { id: 'fte', label: 'Share of full time', means: 'From 0 to 1; the whole where nothing is said.', like: '0.8' },
    { id: 'plan', label: 'Leave plan', means: 'By its short name or its name; empty for none.', like: 'standard' },
    {
      id: 'planPer',
      label: 'Worth of a unit',
      means:
        'Where the plan counts hours and the one before days, or the other way round: units of it for one of the old. Left empty, by the work pattern.',
      like: '7.5',
    },
    { id: 'costCentre', label: 'Cost centre', means: 'What their work is charged to.', like: '4100' },
  ],
  read(all, { file, plans }) {
    const names = {
      person: peopleNames(file),
      place: namesOf(file.places),
      department: namesOf(file.departments),
      pattern: namesOf(file.patterns),
      plan: namesOf(plans),
    };
    const read = all.flatMap((line): (Placed & { fact: FactOf<'record'> })[] => {
      const [person, from] = [line.needNamed('person', names.person), line.needDate('from')];
      const place = line.needNamed('place', names.place);
      const department = line.needNamed('department', names.department);
      const pattern = line.needNamed('pattern', names.pattern);
      const [share, plan] = [line.number('fte'), line.named('plan', names.plan)];
      const fte = share === null ? 1 : share;
      if (fte !== undefined && (fte <= 0 || fte > 1))
        line.fault('fte', 'does not fit', String(fte), 'More than 0 and at most 1, as in 0.8 for four days of five.');
      const planPer = line.number('planPer');
      const costCentre = line.text('costCentre', 40);
      if (planPer && (planPer <= 0 || planPer > 10_000))
        line.fault('planPer', 'does not fit', String(planPer), 'More than 0, as in 7.5 hours for a day.');
      if (line.isBad || !person || !from || !place || !department || !pattern || !fte || plan === undefined) return [];
      return [
        {
          line: line.at,
          fact: {
            kind: 'record',
            person: as(person),
            from,
            place,
            department,
            pattern,
            fte,
            plan,
            ...(planPer ? { planPer } : {}),
            ...(costCentre ? { costCentre } : {}),
          },
        },
      ];
    });
    return withWorth(read, file);
  },
  write: ({ file }) =>
    file.people.flatMap(({ id, records: own }) =>
      own.map(({ planPer, costCentre, ...one }) => ({
        ...one,
        person: id,
        fte: String(one.fte),
        plan: one.plan ?? '',
        planPer: planPer ? String(planPer) : '',
        costCentre: costCentre ?? '',
      })),
    ),
};

export const holdings: TableKind = {
  id: 'holdings',
  name: 'Who holds which post',
  says: 'From when to when somebody holds a post. A person’s line manager is looked for above the main one.',
  columns: [
    {
      id: 'post',
      label: 'Post',
      means: 'By its short name, or its title where no other has it.',
      needed: true,
      like: 'tide-observer-1',
    },
    personColumn,
    { id: 'from', label: 'From', means: 'The first day.', needed: true, like: '2024-03-01' },
    { id: 'to', label: 'To', means: 'The last day, where there is one.', like: '' },
    { id: 'main', label: 'Main', means: 'yes or no; yes where nothing is said.', like: 'yes' },
  ],
  read(all, { file }) {
    const [persons, names] = [peopleNames(file), postNames(file)];
    return all.flatMap((line): Placed[] => {
      const [post, person] = [line.needNamed('post', names), line.needNamed('person', persons)];
      const [from, to, main] = [line.needDate('from'), line.date('to'), line.yesNo('main', true)];
      if (from && to && to < from) line.fault('to', 'does not fit', to, `On or after the first day, ${from}.`);
      if (line.isBad || !post || !person || !from || to === undefined || main === undefined) return [];
      return [{ line: line.at, fact: { kind: 'holding', post, person: as(person), from, to, main } }];
    });
  },
  write: ({ file }) => file.holdings.map(one => ({ ...one, to: one.to ?? '', main: one.main ? 'yes' : 'no' })),
};

export const roles: TableKind = {
  id: 'roles',
  name: 'Roles',
  says: 'Who has which role: for everybody, or for the people of a place or a department.',
  columns: [
    { id: 'role', label: 'Role', means: 'What it is called.', needed: true, like: 'HR partner' },
    personColumn,
    { id: 'place', label: 'Place', means: 'Only for the people of this place.', like: '' },
    { id: 'department', label: 'Department', means: 'Only for the people of this department.', like: '' },
    { id: 'from', label: 'From', means: 'The first day; always where nothing is said.', like: '' },
    { id: 'to', label: 'To', means: 'The last day; without an end where nothing is said.', like: '' },
  ],
  read(all, { file }) {
    const [persons, places, departments] = [peopleNames(file), namesOf(file.places), namesOf(file.departments)];
    return all.flatMap((line): Placed[] => {
      const [role, person] = [line.need('role', 80), line.needNamed('person', persons)];
      const [place, department] = [line.named('place', places), line.named('department', departments)];
      const [from, to] = [line.date('from'), line.date('to')];
      if (from && to && to < from) line.fault('to', 'does not fit', to, `On or after the first day, ${from}.`);
      if (line.isBad || !person || place === undefined || department === undefined) return [];
      return [
        {
          line: line.at,
          fact: { kind: 'role', role, person: as(person), place, department, from: from ?? null, to: to ?? null },
        },
      ];
    });
  },
  write: ({ file }) =>
    file.roles.map(({ role, person, place, department, from, to }) => ({
      role,
      person,
      place: place ?? '',
      department: department ?? '',
      from: from ?? '',
      to: to ?? '',
    })),
};
