import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { annual, date, directory, person, sick } from '../testing/house.ts';
import { addDays } from '../time/index.ts';
import { edited, editsOf, factKey, factsOf, type HouseChange, type OnFile, overlapIn, reversed } from './index.ts';

const plans = [{ id: 'standard' }];
const file: OnFile = {
  ...directory,
  lists: [
    {
      id: 'boats',
      name: 'Boats',
      owners: [],
      columns: [{ id: 'seats', label: 'Seats', kind: 'number' }],
      rows: [{ id: 'tern', title: 'Tern', cells: { seats: 8 }, from: null, to: null }],
    },
  ],
};
const fault = (change: unknown, from: OnFile = file) => {
  const found = editsOf(from, change as HouseChange, plans);
  return found.ok ? null : found.fault;
};
const made = (change: unknown, from: OnFile = file): OnFile => {
  const found = editsOf(from, change as HouseChange, plans);
  const now = found.ok ? edited(from, found.edits) : null;
  if (!now?.ok) throw new Error(JSON.stringify(found));
  return now.directory;
};
const post = (more: object = {}) => ({
  what: 'a post',
  post: {
    id: 'new',
    title: 'Diver',
    department: 'observatory',
    place: 'ovay',
    grade: null,
    spending: null,
    closed: null,
    ...more,
  },
  under: { from: '2026-03-01', reportsTo: 'lead' },
});

describe('what people are measured by', () => {
  test.each<[string, unknown, object]>([
    [
      'a name that another has',
      { what: 'department', department: { id: 'new', name: 'Observatory', head: null } },
      { code: 'name taken', field: 'department.name' },
    ],
    [
      'a head that is no post',
      { what: 'department', department: { id: 'new', name: 'Stores', head: 'moon' } },
      { code: 'not on file', field: 'department.head' },
    ],
    [
      'a place of no calendar',
      { what: 'place', place: { id: 'new', name: 'Moon', zone: 'UTC', calendar: 'moon', head: null } },
      { code: 'not on file', field: 'place.calendar' },
    ],
    [
      'a calendar on itself',
      { what: 'calendar', calendar: { id: 'sound', name: 'Sound', buildsOn: 'ovay', rules: [], holidays: [] } },
      { code: 'builds on itself' },
    ],
    [
      'a column twice',
      {
        what: 'list',
        list: {
          id: 'new',
          name: 'Nets',
          owners: [],
          columns: [
            { id: 'a', label: 'Mesh', kind: 'text' },
            { id: 'b', label: 'Mesh', kind: 'text' },
          ],
        },
      },
      { code: 'name taken', field: 'list.columns.1.label' },
    ],
    [
      'a cell of another kind',
      { what: 'row', list: 'boats', row: { id: 'new', title: 'Skua', cells: { seats: 'many' }, from: null, to: null } },
      { code: 'cell does not fit', field: 'row.cells.seats' },
    ],
    [
      'a row that ends before it begins',
      {
        what: 'row',
        list: 'boats',
        row: { id: 'tern', title: 'Tern', cells: {}, from: '2026-03-01', to: '2026-02-01' },
      },
      { code: 'ends before it begins', field: 'row.to' },
    ],
    [
      'a role that ends before it begins',
      {
        what: 'role',
        role: 'Diver',
        person: 'ina',
        place: null,
        department: null,
        from: '2026-03-01',
        to: '2026-02-01',
        held: true,
      },
      { code: 'ends before it begins', field: 'to' },
    ],
    [
      'a post closed while it is held',
      post({ id: 'lead', title: 'Observatory lead', closed: '2026-06-30' }),
      { code: 'post is held', field: 'post.closed' },
    ],
    [
      'what is so already',
      { what: 'department', department: { id: 'observatory', name: 'Observatory', head: 'lead' } },
      { code: 'nothing changes' },
    ],
  ])('%s is told at its field', (_, change, expected) => expect(fault(change)).toMatchObject(expected));

  test('a leave type has one name at all times, whatever it says from a day on', () => {
    const house: OnFile = {
      ...file,
      leaveTypes: [{ ...annual, later: [{ from: date('2026-01-01'), rules: annual }] }, sick],
    };
    const renamed = (type: object, from: string | null) =>
      made({ what: 'leave type', type: { ...annual, ...type }, from }, house).leaveTypes?.find(
        one => one.id === 'annual',
      );
    const found = renamed({ name: 'Rest', longest: 9 }, '2026-07-01');
    expect([found?.name, ...(found?.later ?? []).map(({ rules }) => rules.name)]).toEqual(['Rest', 'Rest', 'Rest']);
    expect([found?.longest, ...(found?.later ?? []).map(({ rules }) => rules.longest)]).toEqual([
      undefined,
      undefined,
      9,
    ]);
    expect(fault({ what: 'leave type', type: { ...annual, name: 'sick leave' }, from: null }, house)).toMatchObject({
      code: 'name taken',
      field: 'type.name',
    });
  });

  test('what is taken from is looked at as it is on the day', () => {
    const later = { from: date('2026-07-01'), rules: { ...sick, takesFrom: 'earned' as const } };
    const house: OnFile = { ...file, leaveTypes: [annual, { ...sick, later: [later] }] };
    const adjusted = (day: string) =>
      fault({ what: 'adjustment', person: 'ina', type: 'sick', date: day, amount: 4, reason: 'Watch' }, house);
    expect(adjusted('2026-06-30')).toMatchObject({ code: 'not on file', field: 'type' });
    expect(adjusted('2026-07-01')).toBeNull();
  });

  test('a post comes, is acted on, is given up, and taken by nobody once it is closed', () => {
    const house = made(post());
    expect(house.posts.at(-1)).toMatchObject({ id: 'diver', lines: [{ from: '2026-03-01', reportsTo: 'lead' }] });
    const acts = { what: 'acts', person: 'ina', post: 'diver', from: '2026-03-01', to: '2026-03-31' };
    const acted = made(acts, house);
    expect(acted.holdings.at(-1)).toEqual({
      post: 'diver',
      person: 'ina',
      from: '2026-03-01',
      to: '2026-03-31',
      main: false,
    });
    expect(fault({ ...acts, from: '2026-03-15' }, acted)).toMatchObject({ code: 'post is held' });
    const closed = made(post({ id: 'diver', closed: '2026-04-30' }), acted);
    expect(fault({ what: 'post', person: 'per', post: 'diver', from: '2026-05-01' }, closed)).toMatchObject({
      code: 'post is closed',
      closed: '2026-04-30',
    });
    expect(
      made({ what: 'post', person: 'per', post: 'diver', from: '2026-04-01' }, closed).holdings.at(-1),
    ).toMatchObject({ to: '2026-04-30' });
    expect(fault({ what: 'line', post: 'observer-1', from: '2026-05-01', reportsTo: 'diver' }, closed)).toMatchObject({
      code: 'post is closed',
    });
    const left = made({ what: 'leaves post', person: 'tom', post: 'lead', last: '2026-02-28' });
    expect(left.holdings.find(one => one.person === 'tom')).toMatchObject({ to: '2026-02-28' });
  });

  test('several changes are made together or not at all, and the first that cannot be is named', () => {
    const first = { what: 'own', person: 'ina', set: { name: 'Ina Lund' } };
    const second = { what: 'own', person: 'per', set: { mail: 'tom@selkie.example' } };
    expect(fault({ what: 'several', changes: [first, second] })).toMatchObject({
      code: 'taken',
      field: 'changes.1.mail',
    });
    // What is so already is passed over.
    const again = { what: 'own', person: 'tom', set: { name: 'Tom Lund' } };
    expect(made({ what: 'several', changes: [again, first] }).people.find(one => one.id === person('ina'))?.name).toBe(
      'Ina Lund',
    );
  });

  test.each<[string, { am?: [string, string]; pm?: [string, string] }[], number | null]>([
    ['a day of two parts', [{ am: ['08:00', '12:00'], pm: ['13:00', '17:00'] }], null],
    ['parts that meet', [{ am: ['08:00', '12:00'], pm: ['12:00', '17:00'] }], null],
    ['parts that overlap', [{ am: ['08:00', '13:00'], pm: ['12:00', '17:00'] }], 0],
    ['a night into a morning', [{ pm: ['20:00', '33:00'] }, { am: ['08:00', '12:00'] }], 0],
    ['a last night into the first morning', [{ am: ['06:00', '12:00'] }, { pm: ['20:00', '31:00'] }], 1],
    ['a night longer than its cycle', [{ pm: ['20:00', '45:00'] }], 0],
  ])('%s', (_, cycle, expected) => expect(overlapIn(cycle)).toBe(expected));
});

describe('laws', () => {
  const day = fc.integer({ min: 0, max: 300 }).map(n => addDays(date('2026-02-01'), n));
  const name = fc.constantFrom('Alpha', 'Beta', 'Gamma');
  const ids = file.people.map(one => one.id);
  const part = fc.constantFrom(undefined, ['08:00', '12:00'] as [string, string]);
  const change = fc.oneof(
    fc.record({
      what: fc.constant('department'),
      department: fc.record({ id: fc.constantFrom('new', 'observatory'), name, head: fc.constantFrom(null, 'lead') }),
    }),
    fc.record({
      what: fc.constant('pattern'),
      pattern: fc.record({
        id: fc.constantFrom('new', 'office'),
        name,
        anchor: day,
        cycle: fc.array(fc.record({ am: part }), { minLength: 1, maxLength: 9 }),
      }),
    }),
    fc.record({
      what: fc.constant('calendar'),
      calendar: fc.record({
        id: fc.constantFrom('new', 'ovay', 'sound'),
        name,
        buildsOn: fc.constantFrom(null, 'sound', 'ovay'),
        rules: fc.constant([]),
        holidays: fc.uniqueArray(fc.record({ date: day, part: fc.constantFrom('day', 'am'), name }), {
          maxLength: 5,
          selector: one => `${one.date} ${one.part}`,
        }),
      }),
    }),
    fc.record({
      what: fc.constant('row'),
      list: fc.constant('boats'),
      row: fc.record({
        id: fc.constantFrom('new', 'tern'),
        title: name,
        cells: fc.record({ seats: fc.integer({ min: 1, max: 9 }) }),
        from: fc.option(day),
        to: fc.constant(null),
      }),
    }),
    fc.record({
      what: fc.constant('role'),
      role: name,
      person: fc.constantFrom(...ids),
      place: fc.constantFrom(null, 'ovay'),
      department: fc.constant(null),
      from: fc.option(day),
      to: fc.constant(null),
      held: fc.boolean(),
    }),
    fc.record({
      what: fc.constant('acts'),
      person: fc.constantFrom(...ids),
      post: fc.constantFrom('empty', 'lead'),
      from: day,
      to: fc.constant(null),
    }),
    fc.record({
      what: fc.constant('a post'),
      post: fc.record({
        id: fc.constantFrom('new', 'empty'),
        title: name,
        department: fc.constant('observatory'),
        place: fc.constant('ovay'),
        grade: fc.option(fc.integer({ min: 1, max: 9 })),
        spending: fc.constant(null),
        closed: fc.option(day),
      }),
      under: fc.constant(null),
    }),
  );
  /** The same house, whatever the order in which its lists are kept. */
  const sorted = (house: OnFile) =>
    new Map(
      factsOf(house)
        .map(fact => [factKey(fact), fact] as const)
        .toSorted(),
    );
  test('any changes of the house, taken back one after another, leave it as it was', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 10 }), changes => {
        let house = file;
        const stack: { before: OnFile; back: ReturnType<typeof reversed> }[] = [];
        for (const one of changes) {
          const found = editsOf(house, one as unknown as HouseChange, plans);
          if (!found.ok) continue;
          const now = edited(house, found.edits);
          if (!now.ok) throw new Error(now.stale.join());
          stack.push({ before: house, back: reversed(found.edits) });
          house = now.directory;
        }
        for (const { before, back } of stack.toReversed()) {
          const now = edited(house, back);
          if (!now.ok) throw new Error(now.stale.join());
          house = now.directory;
          expect(sorted(house)).toEqual(sorted(before));
        }
      }),
    );
  });
});
