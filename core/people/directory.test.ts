import { describe, expect, test } from '@jest/globals';
import { date, directory, index, person, withDirectory } from '../testing/house.ts';
import { toDay } from '../time/index.ts';
import {
  hasLeft,
  holidaysOfPerson,
  isEmployed,
  mainPost,
  type Person,
  patternsOf,
  recordOn,
  reportsOf,
  workingTimeOf,
  zoneOf,
} from './index.ts';

const ina = index.person(person('ina'))!;
/** Ina moves from Ovay to a northern quay on 1 June, to another pattern and calendar. */
const moved: Person = {
  ...ina,
  records: [
    ...ina.records,
    { from: date('2026-06-01'), place: 'quay', department: 'ferries', pattern: 'early', fte: 0.6, plan: 'standard' },
  ],
};
const wide = withDirectory({
  people: [...directory.people.filter(p => p.id !== 'ina'), moved],
  places: [...directory.places, { id: 'quay', name: 'Quay', zone: 'Europe/Oslo', calendar: 'north' }],
  patterns: [
    ...directory.patterns,
    { id: 'early', name: 'Early', anchor: date('2024-01-01'), cycle: [{ am: ['06:00', '10:00'] }, {}] },
  ],
  calendars: [
    ...directory.calendars,
    {
      id: 'north',
      name: 'North',
      buildsOn: null,
      holidays: [{ date: date('2026-06-24'), part: 'am', name: 'Half Midsummer' }],
    },
  ],
});

describe('effective-dated records', () => {
  test('hold from their day on, the first one also before it', () => {
    expect(recordOn(moved, date('2019-01-01')).place).toBe('ovay');
    expect(recordOn(moved, date('2026-05-31')).place).toBe('ovay');
    expect(recordOn(moved, date('2026-06-01'))).toMatchObject({ place: 'quay', fte: 0.6 });
  });

  test('bring their zone, pattern and holidays with them, and leave the old ones behind', () => {
    expect(zoneOf(wide, moved, date('2026-05-31'))).toBe('Europe/Lisbon');
    expect(zoneOf(wide, moved, date('2026-06-01'))).toBe('Europe/Oslo');
    expect(patternsOf(wide, moved).map(p => p.from)).toEqual(['2020-01-01', '2026-06-01']);
    const off = holidaysOfPerson(wide, moved);
    expect(off.get(toDay('2026-02-13'))?.name).toBe('Ovay Friday');
    expect(off.get(toDay('2026-06-24'))).toEqual({ am: true, pm: false, name: 'Half Midsummer' });
    const time = workingTimeOf(wide, moved, { first: toDay('2026-05-01'), last: toDay('2026-07-31') });
    expect(time.parts(toDay('2026-05-29')).pm).not.toBeNull();
    const days = Array.from({ length: 30 }, (_, n) => time.parts(toDay('2026-06-01') + n));
    expect(days.every(d => d.pm === null)).toBe(true);
    expect(time.parts(toDay('2026-06-24')).am).toBeNull();
  });

  test('a place that is not on file has the time of nowhere, and no holidays', () => {
    const lost = { ...ina, records: [{ ...ina.records[0], place: 'atlantis' }] };
    expect(zoneOf(index, lost, date('2026-02-02'))).toBe('UTC');
    expect(holidaysOfPerson(index, lost).get(toDay('2026-06-24'))).toBeUndefined();
  });
});

describe('employment and posts', () => {
  test('joining and leaving days are both days of employment', () => {
    const leaver = index.person(person('old'))!;
    expect(isEmployed(leaver, date('2020-01-01'))).toBe(true);
    expect(isEmployed(leaver, date('2019-12-31'))).toBe(false);
    expect(isEmployed(leaver, date('2025-12-31'))).toBe(true);
    expect(isEmployed(leaver, date('2026-01-01'))).toBe(false);
    expect([date('2019-12-31'), date('2025-12-31'), date('2026-01-01')].map(day => hasLeft(leaver, day))).toEqual([
      false,
      false,
      true,
    ]);
  });

  test('of two posts the main one counts; without a main one the first', () => {
    const both = (main: 'lead' | 'empty') =>
      withDirectory({
        holdings: ['empty', 'lead'].map(post => ({
          post,
          person: person('tom'),
          from: date('2020-01-01'),
          to: null,
          main: post === main,
        })),
      });
    expect(mainPost(both('lead'), person('tom'), date('2026-02-02'))?.id).toBe('lead');
    expect(mainPost(both('empty'), person('tom'), date('2026-02-02'))?.id).toBe('empty');
    expect(mainPost(index, person('con'), date('2026-02-02'))).toBeUndefined();
  });

  test('who reports to a post is counted by main posts, leavers left out', () => {
    expect(reportsOf(index, 'director', date('2026-02-02')).map(p => p.name)).toEqual(['Tom Lund']);
    expect(reportsOf(index, 'director', date('2025-06-01')).map(p => p.name)).toEqual(['Olda Leaver', 'Tom Lund']);
    expect(reportsOf(index, 'nowhere', date('2026-02-02'))).toEqual([]);
  });
});
