/** Counting together gives what counting one by one gives. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type Person, workingTimeOf } from '../../people/index.ts';
import { date, entry, index, withDirectory } from '../../testing/house.ts';
import { fromDay, halfIndex, toDay } from '../../time/index.ts';
import type { LeaveEntry } from '../book.ts';
import { countedIn, hereOn } from '../rules/presence.ts';
import type { LeastPresence } from '../rules/type.ts';
import { halfState } from './halves.ts';
import { countHere, stretchOf } from './here.ts';
import { shadesOf } from './shades.ts';

const first = toDay(date('2026-02-02'));
const days = { first, last: first + 27 };
const half = fc.constantFrom('am' as const, 'pm' as const);
/** Spans before, inside and after what is looked at; by halves and with times. */
const span = fc
  .record({
    from: fc.integer({ min: -6, max: 30 }),
    length: fc.integer({ min: 0, max: 9 }),
    a: half,
    b: half,
    timed: fc.boolean(),
  })
  .filter(({ length, a, b, timed }) => timed || length > 0 || a <= b)
  .map(({ from, length, a, b, timed }) => {
    const [start, end] = [fromDay(first + from), fromDay(first + from + length)];
    return timed
      ? { from: { date: start, time: '09:00' }, to: { date: end, time: '11:30' } }
      : { from: { date: start, half: a }, to: { date: end, half: b } };
  }) as fc.Arbitrary<LeaveEntry['span']>;

const night = {
  id: 'night',
  name: 'Night',
  anchor: date('2026-02-02'),
  cycle: [{ pm: ['20:00', '32:00'] as [string, string] }, { pm: ['20:00', '32:00'] as [string, string] }, {}, {}],
};
const hollin = { id: 'hollin', name: 'Hollin', zone: 'UTC', calendar: 'sound' };
const { patterns, places } = index.directory;

/** The house, with somebody who comes, leaves, moves and changes their pattern in these days. */
const anyHouse = fc
  .array(
    fc.record({
      who: fc.nat(),
      joined: fc.option(fc.integer({ min: 0, max: 27 })),
      left: fc.option(fc.integer({ min: 0, max: 27 })),
      moves: fc.option(
        fc.record({
          on: fc.integer({ min: 0, max: 27 }),
          pattern: fc.constantFrom('office', 'night'),
          place: fc.constantFrom('ovay', 'hollin'),
        }),
      ),
    }),
    { maxLength: 3 },
  )
  .map(changes => {
    const people = [...index.directory.people];
    for (const { who, joined, left, moves } of changes) {
      const n = who % people.length;
      const person = people[n] as Person;
      const since = moves && fromDay(first + moves.on);
      const record = {
        ...person.records[0],
        from: since,
        pattern: moves?.pattern,
        place: moves?.place,
      } as Person['records'][number];
      people[n] = {
        ...person,
        joined: joined === null ? person.joined : fromDay(first + joined),
        left: left === null ? person.left : fromDay(first + left),
        records: since ? [...person.records.filter(one => one.from < since), record] : person.records,
      };
    }
    return withDirectory({ people, patterns: [...patterns, night], places: [...places, hollin] });
  });

const anyEntries = fc.array(fc.record({ who: fc.nat(), span }), { maxLength: 12 });
const isThere = ({ joined, left }: Person, day: number): boolean =>
  toDay(joined) <= day && (left === null || toDay(left) >= day);

describe('how many are here', () => {
  test('is for every half day and day what looking at each of them gives', () => {
    fc.assert(
      fc.property(anyHouse, anyEntries, (house, away) => {
        const { people } = house.directory;
        const entries = away.map(({ who, span: own }, n) =>
          entry({ request: `R-${n}`, person: people[who % people.length]!.id, span: own }),
        );
        const of = (id: Person['id']) => entries.filter(one => one.person === id);
        const found = countHere(shadesOf(house, people, days), people, of, days);
        for (let day = days.first; day <= days.last; day++) {
          const states = people.map(person => {
            const time = workingTimeOf(house, person, { first, last: first - 1 });
            const at = (part: 'am' | 'pm') =>
              isThere(person, day) ? halfState(time, of(person.id), halfIndex(day, part)) : '-';
            return [at('am'), at('pm')];
          });
          const n = day - days.first;
          expect(found.days[n]).toBe(states.filter(both => both.includes('w')).length);
          for (const [k, part] of [0, 1].entries()) {
            expect(found.working[2 * n + part]).toBe(states.filter(both => both[k] === 'w').length);
            expect(found.toWork[2 * n + part]).toBe(states.filter(both => 'wbp'.includes(both[k]!)).length);
          }
        }
      }),
    );
  });

  test('where a least number is needed, whoever moves away counts until then, and a new one from then on', () => {
    const rule: LeastPresence = {
      ...{ id: 'watch', name: 'the watch', place: 'ovay', department: null, people: 2 },
      ...{ weekdays: [], from: null, to: null },
    };
    const [ina] = index.directory.people.filter(person => person.id === 'ina') as [Person];
    const moved: Person = {
      ...ina,
      records: [...ina.records, { ...ina.records.at(-1)!, from: date('2026-02-11'), place: 'hollin' }],
    };
    const house = withDirectory({ people: index.directory.people.map(one => (one.id === 'ina' ? moved : one)) });
    const here = (of: typeof index) => hereOn(of, rule, days, countedIn(of, rule, days), () => []);
    const [before, after] = [here(index), here(house)];
    // Tuesday and Wednesday of the second week.
    expect(after[8]).toBe(before[8]);
    expect(after[9]).toBe((before[9] ?? 0) - 1);
    // A Sunday on which nobody is to work asks for nobody.
    expect(before[6]).toBeNull();
  });

  test('a stretch is what of a span is looked at, and nothing of one that is elsewhere', () => {
    const stretch = (from: string, to: string) =>
      stretchOf({ from: { date: date(from), half: 'pm' }, to: { date: date(to), half: 'am' } }, days);
    expect(stretch('2026-02-03', '2026-02-04')).toEqual({ first: 3, last: 4 });
    expect(stretch('2026-01-20', '2026-02-02')).toEqual({ first: 0, last: 0 });
    expect(stretch('2026-02-27', '2026-03-09')).toEqual({ first: 51, last: 55 });
    expect(stretch('2026-01-20', '2026-01-22')).toBeUndefined();
    expect(stretch('2026-03-20', '2026-03-22')).toBeUndefined();
  });

  test('people of one pattern and one calendar have their days worked out once', () => {
    const like = index.directory.people.filter(person => person.left === null);
    const { all, of } = shadesOf(index, like, days);
    expect(of.size).toBe(like.length);
    expect(all.length).toBeLessThan(like.length);
    expect(all.every(shade => shade.length === 56)).toBe(true);
  });
});
