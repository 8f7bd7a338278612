/** When a last day is over, for people who live unlike days. */
import { expect, test } from '@jest/globals';
import { contextFor, date, directory, person, withDirectory } from '../../testing/house.ts';
import { endOfDay } from './context.ts';

const night = { pm: ['20:00', '32:00'] as [string, string] };
const index = withDirectory({
  people: directory.people.map(one => {
    if (one.id !== 'tom' && one.id !== 'kay') return one;
    const place = one.id === 'tom' ? 'skarn' : 'hollin';
    const pattern = one.id === 'tom' ? 'keeper' : 'office';
    return { ...one, records: one.records.map(record => ({ ...record, place, pattern })) };
  }),
  places: [
    ...directory.places,
    { id: 'skarn', name: 'Skarn Light', zone: 'Atlantic/Reykjavik', calendar: 'ovay' },
    { id: 'hollin', name: 'Hollin Quay', zone: 'Europe/Oslo', calendar: 'ovay' },
  ],
  patterns: [
    ...directory.patterns,
    // Four nights on, from a Monday, and three free.
    { id: 'keeper', name: 'Keeper', anchor: date('2024-01-01'), cycle: [night, night, night, night, {}, {}, {}] },
  ],
});
const context = { ...contextFor(null), index };
const over = (who: string, day: string, where?: string) => endOfDay(context, person(who), date(day), where);

test('at the midnight after it where the person works, winter and summer', () => {
  expect(over('ina', '2026-03-05')).toBe('2026-03-06T00:00:00Z');
  expect(over('ina', '2026-06-30')).toBe('2026-06-30T23:00:00Z');
  expect(over('kay', '2026-06-30')).toBe('2026-06-30T22:00:00Z');
});

test('of a night that began on it, when the night ends', () => {
  expect(over('tom', '2026-03-05')).toBe('2026-03-06T08:00:00Z');
  // A Friday, on which no night begins.
  expect(over('tom', '2026-03-06')).toBe('2026-03-07T00:00:00Z');
});

test('at the place that the request names, of somebody who will work there', () => {
  expect(over('ina', '2026-06-30', 'hollin')).toBe('2026-06-30T22:00:00Z');
});

test('by UTC for somebody who is not on file', () => {
  expect(over('nobody', '2026-06-30')).toBe('2026-07-01T00:00:00Z');
});
