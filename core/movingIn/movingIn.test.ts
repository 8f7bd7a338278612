import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { emptyFile, factKey, factsOf, type OnFile } from '../facts/index.ts';
import { date, directory, person } from '../testing/house.ts';
import {
  type FileForm,
  guessForm,
  isFormula,
  matched,
  moveIn,
  movingTables,
  readDate,
  readNumber,
  readRuleDay,
  ruleDayWords,
  standsOnItsSide,
  tableIds,
  tableLike,
  writtenOut,
} from './index.ts';
import type { Given } from './moveIn.ts';

const standard: FileForm = { dates: 'year first', decimal: '.' };
const rules = { plans: [{ id: 'standard', name: 'Standard' }], types: [{ id: 'annual', name: 'Annual leave' }] };
const words = (_: OnFile, fault: { code: string }) => fault.code;

/** The house of tests with something in every table, and without its circle. */
const house: Required<OnFile> = {
  ...emptyFile,
  ...directory,
  // Twins are two lines of one person and day.
  people: directory.people.map(one =>
    one.id === 'ina'
      ? {
          ...one,
          circumstances: [
            { id: 'child-2019-09-30', holds: { is: 'child', born: date('2019-09-30') } },
            { id: 'child-2019-09-30-2', holds: { is: 'child', born: date('2019-09-30') } },
            {
              id: 'paper-2026-02-01-annual',
              holds: { is: 'paper at once', type: 'annual', from: date('2026-02-01'), to: null },
            },
          ],
        }
      : one,
  ),
  posts: directory.posts.map(post =>
    post.id === 'ring-b' ? { ...post, lines: post.lines.map(one => ({ ...one, reportsTo: 'director' })) } : post,
  ),
  calendars: [
    ...directory.calendars,
    {
      id: 'feasts',
      name: 'Feasts',
      buildsOn: 'sound',
      rules: [
        { name: 'Lantern day', part: 'pm', on: { kind: 'date', monthDay: '12-24' } },
        { name: 'Harbour day', part: 'day', on: { kind: 'weekday', month: 8, weekday: 1, nth: 'last' }, from: 2025 },
        { name: 'Good Friday', part: 'day', on: { kind: 'easter', days: -2 }, to: 2040 },
      ],
      holidays: [{ date: date('2026-05-04'), part: 'am', name: 'Launch' }],
    },
  ],
  roles: [
    ...directory.roles,
    { role: 'Diver', person: person('ina'), place: 'ovay', from: date('2026-01-01'), to: date('2026-12-31') },
  ],
  lists: [
    {
      id: 'boats',
      name: 'Boats',
      owners: [person('ina')],
      columns: [
        { id: 'seats', label: 'Seats', kind: 'number' },
        { id: 'bought', label: 'Bought', kind: 'date' },
        { id: 'sails', label: 'Sails', kind: 'yes/no' },
      ],
      rows: [
        { id: 'tern', title: '=Tern', cells: { seats: 8, bought: '2020-05-01', sails: true }, from: null, to: null },
        { id: 'skua', title: 'Skua', cells: {}, from: date('2026-01-01'), to: date('2026-06-30') },
      ],
    },
    { id: 'bare', name: 'Bare', owners: [], columns: [], rows: [] },
  ],
  adjustments: [
    { person: person('ina'), type: 'annual', date: date('2026-01-01'), amount: 3.5, reason: 'Carried over' },
  ],
  bookings: [],
  presence: [
    {
      ...{ id: 'watch', name: 'The watch', place: 'ovay', department: null, people: 2 },
      ...{ weekdays: [6, 7], from: date('2026-05-01'), to: null },
    },
  ],
};

/** As a file that was written and is read again, with the apostrophe that keeps spreadsheets from working a cell out. */
const given = (written: ReturnType<typeof writtenOut>, form = standard): Given[] =>
  written.map(({ table, headings, rows }) => ({
    table,
    form,
    columns: matched(table, headings),
    rows: rows.map(row => row.map(cell => (/^[=+\-@]/.test(cell) && !/^-\d/.test(cell) ? `'${cell}` : cell))),
  }));
const byKey = (file: OnFile) => new Map(factsOf(file).map(fact => [factKey(fact), fact]));
const one = (table: Given['table'], headings: string[], ...rows: string[][]): Given => ({
  table,
  form: standard,
  columns: matched(table, headings),
  rows,
});

describe('a house written out', () => {
  test('and read into an empty one is the same, fact by fact', () => {
    const found = moveIn(emptyFile, given(writtenOut({ file: house, ...rules })), rules, words);
    expect(found.faults).toEqual([]);
    const facts = new Map(found.edits.map(({ after }) => [factKey(after as never), after]));
    expect(new Map([...facts].toSorted())).toEqual(new Map([...byKey(house)].toSorted()));
  });
  test('and read again into itself changes nothing', () => {
    const found = moveIn(house, given(writtenOut({ file: house, ...rules })), rules, words);
    expect(found).toMatchObject({ edits: [], faults: [] });
    expect(found.counts.every(({ added, changed }) => added === 0 && changed === 0)).toBe(true);
  });
  test('the order of its files does not matter', () => {
    const files = given(writtenOut({ file: house, ...rules }));
    const keys = (all: Given[]) =>
      moveIn(emptyFile, all, rules, words)
        .edits.map(({ after }) => JSON.stringify(after))
        .sort();
    expect(keys(files.toReversed())).toEqual(keys(files));
  });
});

describe('lines that are wrong', () => {
  const people = ['Person', 'Name', 'Mail', 'Joined', 'Left', 'Also answers to'];
  const faultsOf = (...files: Given[]) => moveIn(house, files, rules, words).faults;
  test('are named by line and column, with what would be right', () => {
    const found = faultsOf(
      one(
        'people',
        people,
        ['zoe', 'Zoë Lund', 'zoe@selkie.example', '2026-02-30', '', ''],
        ['', '', '', '', '', ''],
        ['max', '=1+1', 'max@selkie.example', '2026-02-01', '', ''],
        ['lea', 'Lea', 'lea', '2026-02-01', '2026-01-01', 'dorra'],
      ),
    );
    expect(found.map(({ line, column, code }) => [line, column, code])).toEqual([
      [2, 'Joined', 'no date'],
      [4, 'Name', 'formula'],
      [5, 'Also answers to', 'not on file'],
      [5, 'Mail', 'does not fit'],
      [5, 'Left', 'does not fit'],
    ]);
    expect(found[2]?.right).toBe('Perhaps “dora”.');
  });
  test('somebody without a record, a second holder of a post, a circle and one line twice are told at their lines', () => {
    expect(faultsOf(one('people', people, ['zoe', 'Zoë', 'zoe@selkie.example', '2026-02-01', '', '']))).toMatchObject([
      { line: 2, code: 'stands in the way', right: 'no record' },
    ]);
    expect(faultsOf(one('holdings', ['Post', 'Person', 'From'], ['lead', 'ina', '2026-02-01']))).toMatchObject([
      { line: 2, column: 'Post', right: 'post is held' },
    ]);
    expect(
      faultsOf(one('lines', ['Post', 'From', 'Reports to'], ['director', '2026-02-01', 'observer-1'])),
    ).toMatchObject([{ line: 2, column: 'Reports to', right: 'circle' }]);
    expect(
      faultsOf(one('departments', ['Department', 'Name', 'Head'], ['stores', 'Stores', ''], ['stores', 'Stores', ''])),
    ).toMatchObject([{ line: 3, code: 'twice' }]);
  });
  test('nothing of a file with a bad line is taken over', () => {
    const found = moveIn(
      house,
      [one('departments', ['Department', 'Name', 'Head'], ['stores', 'Stores', ''], ['bad', '', ''])],
      rules,
      words,
    );
    expect(found.edits).toEqual([]);
    expect(found.faults).toMatchObject([{ line: 3, column: 'Name', code: 'needed' }]);
  });
  test('a head who is no post, a plan that is none and a calendar that builds on itself', () => {
    expect(faultsOf(one('departments', ['Department', 'Name', 'Head'], ['stores', 'Stores', 'moon']))).toMatchObject([
      { line: 2, column: 'Head', right: 'not on file' },
    ]);
    const records = ['Person', 'From', 'Place', 'Department', 'Work pattern', 'Leave plan'];
    expect(
      faultsOf(one('records', records, ['ina', '2026-02-01', 'Ovay Station', 'observatory', 'office', 'standart'])),
    ).toMatchObject([{ column: 'Leave plan', right: 'Perhaps “standard”.' }]);
    expect(
      faultsOf(one('calendars', ['Calendar', 'Name', 'Builds on'], ['sound', 'Sound', 'feasts'])).map(f => f.right),
    ).toContain('builds on itself');
  });
});

describe('the form of a file', () => {
  test.each<[string, FileForm['dates'], string | undefined]>([
    ['2026-3-1', 'day first', '2026-03-01'],
    ['01.03.2026', 'day first', '2026-03-01'],
    ['03/01/2026', 'month first', '2026-03-01'],
    ['31/02/2026', 'day first', undefined],
    ['01.03.2026', 'year first', undefined],
    ['1.3.26', 'day first', undefined],
  ])('%s with the %s is %s', (text, dates, expected) => {
    expect(readDate(text, { dates, decimal: '.' })).toBe(expected);
  });
  test.each<[string, '.' | ',', number | undefined]>([
    ['0,8', ',', 0.8],
    ['1.234,5', ',', 1234.5],
    ['1 234.5', '.', 1234.5],
    ['-3', '.', -3],
    ['1.5', ',', undefined],
    ['eight', '.', undefined],
    ['1e9', '.', undefined],
  ])('%s with “%s” is %s', (text, decimal, expected) => {
    expect(readNumber(text, { dates: 'year first', decimal })).toBe(expected);
  });
  test('is guessed from its cells', () => {
    expect(guessForm(['13.03.2026', '0,8'])).toEqual({ dates: 'day first', decimal: ',' });
    expect(guessForm(['03/13/2026', '0.8'])).toEqual({ dates: 'month first', decimal: '.' });
    expect(guessForm(['2026-03-13'])).toEqual({ dates: 'year first', decimal: '.' });
  });
  test.each([
    ['=SUM(A1)', true],
    ['@name', true],
    ['-3', false],
    ['+49 30', false],
    ['-Zoë', true],
    ['Zoë', false],
  ])('%s is a formula: %s', (text, expected) => expect(isFormula(text)).toBe(expected));
  test('which table it is is seen by its headings, also of one that stands on its side', () => {
    for (const id of tableIds)
      expect(
        tableLike(
          movingTables[id].columns.map(c => c.label),
          id,
        ),
      ).toBe(id);
    // By its headings alone, and by those alone that have to be there.
    for (const id of tableIds) expect(tableLike(movingTables[id].columns.map(c => c.label))).toBe(id);
    expect(tableLike(['Calendar', 'Name', 'On'])).toBe('holidays');
    expect(tableLike(['Colour', 'Size'])).toBeNull();
    expect(
      standsOnItsSide([
        ['Person', 'ina'],
        ['Name', 'Ina'],
        ['Mail', 'i@x'],
        ['Joined', '2026-01-01'],
      ]),
    ).toBe(true);
    expect(standsOnItsSide([['Person', 'Name', 'Mail', 'Joined']])).toBe(false);
  });
});

test('days of every year are read as they are written', () => {
  const on = fc.oneof(
    fc.record({ kind: fc.constant('easter' as const), days: fc.integer({ min: -80, max: 250 }) }),
    fc.record({
      kind: fc.constant('weekday' as const),
      month: fc.integer({ min: 1, max: 12 }),
      weekday: fc.integer({ min: 1, max: 7 }),
      nth: fc.oneof(fc.integer({ min: 1, max: 5 }), fc.constant('last' as const)),
    }),
    fc.constantFrom('01-31', '02-29', '12-25').map(monthDay => ({ kind: 'date' as const, monthDay })),
  );
  fc.assert(fc.property(on, one => expect(readRuleDay(ruleDayWords(one))).toEqual(one)));
  for (const text of ['31 February', 'sixth Monday of May', 'Whitsun', '2026-12-24'])
    expect(readRuleDay(text)).toBeUndefined();
});

describe('a work pattern', () => {
  const read = (...rows: string[][]) => {
    const names = ['id', 'name', 'anchor', 'day', 'am', 'amDays', 'pm', 'pmDays', 'holidays'];
    const one: Given = { table: 'patterns', form: standard, columns: names, rows } as never;
    const found = moveIn(house, [one], rules, words);
    const fact = found.edits[0]?.after;
    return fact?.kind === 'pattern' ? fact.cycle : found.faults;
  };
  test('of one part a day counts a whole day unless something else is said', () => {
    const night = ['20:00', '32:00'];
    expect(read(['night', 'Night', '2026-01-01', '1', '', '', '20:00-32:00', '', ''])).toEqual([
      { pm: night, days: { pm: 1 } },
    ]);
    expect(read(['night', 'Night', '2026-01-01', '1', '', '', '20:00-32:00', '0.5', ''])).toEqual([{ pm: night }]);
    expect(read(['night', 'Night', '2026-01-01', '1', '', '', '20:00-32:00', '0.75', ''])).toEqual([
      { pm: night, days: { pm: 0.75 } },
    ]);
    expect(read(['am', 'Mornings', '2026-01-01', '1', '08:00-12:00', '', '', '', ''])).toEqual([
      { am: ['08:00', '12:00'] },
    ]);
  });
  test('may be worked on holidays', () => {
    expect(read(['w', 'Watch', '2026-01-01', '1', '08:00-12:00', '', '', '', 'Worked'])).toEqual([
      { am: ['08:00', '12:00'], holidays: 'worked' },
    ]);
    expect(read(['w', 'Watch', '2026-01-01', '1', '08:00-12:00', '', '', '', 'perhaps'])).toMatchObject([
      { column: 'Holidays', code: 'does not fit' },
    ]);
  });
  test('goes out and comes back as it was, also one that counts half a day', () => {
    const cycle = [{ pm: ['20:00', '32:00'] }, { pm: ['20:00', '32:00'], days: { pm: 1 }, holidays: 'worked' }, {}];
    const own = { ...house, patterns: [...house.patterns, { id: 'n', name: 'N', anchor: date('2026-01-01'), cycle }] };
    const file = own as Required<OnFile>;
    expect(moveIn(file, given(writtenOut({ file, ...rules })), rules, words).edits).toEqual([]);
  });
});
