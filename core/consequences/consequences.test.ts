import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { edited, editsOf, type HouseChange, reversed } from '../facts/index.ts';
import { amountOf, type LeaveEntry } from '../leave/index.ts';
import { type Directory, indexDirectory, isEmployed, managerOf } from '../people/index.ts';
import { bookOf, date, directory, halves, person } from '../testing/house.ts';
import { addDays } from '../time/index.ts';
import { consequencesOf, touched } from './consequences.ts';

const plans = [{ id: 'standard' }];
const half: Directory['patterns'][number]['cycle'] = [
  ...[1, 2, 3].map(() => ({ am: ['09:00', '12:30'] as [string, string], pm: ['13:00', '17:00'] as [string, string] })),
  {},
  {},
  {},
  {},
];
const house: Directory = {
  ...directory,
  patterns: [...directory.patterns, { id: 'three', name: 'Three days', anchor: date('2024-01-01'), cycle: half }],
};
const week: LeaveEntry = {
  request: 'R-1',
  person: person('ina'),
  type: 'annual',
  span: halves('2026-05-11', '2026-05-15'),
  state: 'booked',
};
const follows = (change: HouseChange, day: string, from: Directory = house) => {
  const index = indexDirectory(from);
  const found = editsOf(from, change, plans);
  if (!found.ok) throw new Error(found.fault.code);
  const now = edited(from, found.edits);
  if (!now.ok) throw new Error('stale');
  const book = { ...bookOf([week], { today: date('2026-02-02') }), index };
  const after = indexDirectory(now.directory);
  return { ...consequencesOf(book, after, found.edits, date(day)), book, after, edits: found.edits };
};

describe('what a change does to whom', () => {
  test('a shorter week counts leave anew from its day, and the balance of the year with it', () => {
    const record = { what: 'record', person: person('ina'), set: { pattern: 'three' } } as const;
    const inTime = follows({ ...record, from: date('2026-03-01') }, '2026-03-01');
    expect(inTime.leave).toEqual([
      {
        person: 'ina',
        type: 'annual',
        span: week.span,
        request: 'R-1',
        state: 'booked',
        before: 5,
        after: 3,
        unit: 'days',
      },
    ]);
    const [balance] = inTime.balances;
    expect((balance.after ?? 0) - (balance.before ?? 0)).toBe(2);
    expect(follows({ ...record, from: date('2026-05-18') }, '2026-05-18').leave).toEqual([]);
  });

  test('a line moved gives those below it another manager, and nobody else', () => {
    const found = follows({ what: 'line', post: 'lead', from: date('2026-03-01'), reportsTo: 'empty' }, '2026-03-01');
    // The post above is vacant: it goes up from there to the same director.
    expect(found.managers).toEqual([]);
    const under = follows(
      { what: 'line', post: 'observer-1', from: date('2026-03-01'), reportsTo: 'director' },
      '2026-03-01',
    );
    expect(under.managers).toEqual([{ person: 'ina', before: 'tom', after: 'dora' }]);
    // On the day before, nothing is different.
    expect(
      follows({ what: 'line', post: 'observer-1', from: date('2026-03-01'), reportsTo: 'director' }, '2026-02-28')
        .managers,
    ).toEqual([]);
  });

  test('whoever leaves leaves a post, those who report to it, and a role that nobody holds', () => {
    const found = follows({ what: 'last day', person: person('tom'), left: date('2026-02-28') }, '2026-03-01');
    expect(found.vacant).toEqual(['lead']);
    expect(found.managers).toEqual([
      { person: 'ina', before: 'tom', after: 'dora' },
      { person: 'per', before: 'tom', after: 'dora' },
    ]);
    expect(follows({ what: 'last day', person: person('dora'), left: date('2026-02-28') }, '2026-03-01').empty).toEqual(
      ['HR partner'],
    );
  });

  test('taken back, nothing of it is left', () => {
    const { book, after, edits } = follows(
      { what: 'record', person: person('ina'), from: date('2026-03-01'), set: { pattern: 'three', fte: 0.6 } },
      '2026-03-01',
    );
    const back = edited(after.directory, reversed(edits));
    if (!back.ok) throw new Error('stale');
    const again = consequencesOf(book, indexDirectory(back.directory), edits, date('2026-03-01'));
    expect(again).toEqual({ managers: [], leave: [], balances: [], broughtAlong: [], vacant: [], empty: [] });
    expect(touched(edits)).toEqual(['ina']);
  });
});

test('law: what the preview says is what is there afterwards', () => {
  const day = fc.integer({ min: 0, max: 200 }).map(n => addDays(date('2026-02-02'), n));
  const ids = house.people.map(one => one.id);
  const posts = house.posts.map(one => one.id);
  const change = fc.oneof(
    fc.record({
      what: fc.constant('record'),
      person: fc.constantFrom(...ids),
      from: day,
      set: fc.record({ pattern: fc.constantFrom('office', 'three') }),
    }),
    fc.record({ what: fc.constant('last day'), person: fc.constantFrom(...ids), left: day }),
    fc.record({
      what: fc.constant('line'),
      post: fc.constantFrom(...posts),
      from: day,
      reportsTo: fc.constantFrom(...posts),
    }),
    fc.record({
      what: fc.constant('calendar'),
      calendar: fc.record({
        id: fc.constant('ovay'),
        name: fc.constant('Ovay'),
        buildsOn: fc.constant('sound'),
        rules: fc.constant([]),
        holidays: fc.uniqueArray(fc.record({ date: day, part: fc.constant('day'), name: fc.constant('Feast') }), {
          maxLength: 4,
          selector: one => one.date,
        }),
      }),
    }),
  );
  fc.assert(
    fc.property(change, day, (one, on) => {
      const found = editsOf(house, one as unknown as HouseChange, plans);
      fc.pre(found.ok);
      if (!found.ok) return;
      const now = edited(house, found.edits);
      if (!now.ok) throw new Error('stale');
      const [index, after] = [indexDirectory(house), indexDirectory(now.directory)];
      const book = { ...bookOf([week], { today: date('2026-02-02') }), index };
      const said = consequencesOf(book, after, found.edits, on);
      const managers = (of: typeof after) =>
        new Map(
          ids.map(id => {
            const manager = managerOf(of, id, on);
            return [id, 'person' in manager ? manager.person.id : null] as const;
          }),
        );
      const [was, is] = [managers(index), managers(after)];
      for (const id of ids) {
        const told = said.managers.find(other => other.person === id);
        const here = [index, after].every(of => isEmployed(of.person(id) as never, on));
        if (here) expect(told?.after ?? is.get(id)).toBe(is.get(id));
        if (here && was.get(id) !== is.get(id)) expect(told).toBeDefined();
      }
      const [type] = book.types;
      const amount = (of: typeof after) => amountOf({ ...book, index: of }, person('ina'), type, week.span)?.amount;
      const told = said.leave.find(other => other.person === 'ina');
      expect(told?.after ?? amount(index)).toBe(amount(after));
      expect(told?.before ?? amount(index)).toBe(amount(index));
    }),
  );
});
