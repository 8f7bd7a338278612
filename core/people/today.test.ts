import { describe, expect, test } from '@jest/globals';
import { date, directory, index, person } from '../testing/house.ts';
import type { Instant } from '../time/index.ts';
import { indexDirectory } from './directory.ts';
import { latestDay, todayFor, worksAt, zoneFor } from './today.ts';

const at = (text: string) => text as Instant;
const joining = indexDirectory({
  ...directory,
  people: directory.people.map(p => (p.id === 'ina' ? { ...p, joined: date('2026-07-02') } : p)),
});

describe('which day it is', () => {
  test('is that of the place where somebody works', () => {
    expect(zoneFor(index, person('ina'), at('2026-07-01T23:30:00Z'))).toBe('Europe/Lisbon');
    expect(todayFor(index, person('ina'), at('2026-07-01T23:30:00Z'))).toBe('2026-07-02');
    expect(todayFor(index, person('ina'), at('2026-07-01T22:30:00Z'))).toBe('2026-07-01');
  });
  test('is that of UTC for somebody who is not on file, and for nobody', () => {
    expect(todayFor(index, person('nobody'), at('2026-07-01T23:30:00Z'))).toBe('2026-07-01');
    expect(todayFor(index, null, at('2026-07-01T23:30:00Z'))).toBe('2026-07-01');
  });
  test('whoever begins works here from their own midnight on', () => {
    const ina = joining.person(person('ina'))!;
    expect(worksAt(joining, ina, at('2026-07-01T22:59:59Z'))).toBe(false);
    expect(worksAt(joining, ina, at('2026-07-01T23:00:00Z'))).toBe(true);
  });
  test('for everybody at once it is the latest day of any place', () => {
    const [ovay] = directory.places;
    const far = indexDirectory({ ...directory, places: [ovay, { ...ovay, id: 'far', zone: 'Pacific/Auckland' }] });
    expect(latestDay(index, at('2026-07-01T22:30:00Z'))).toBe('2026-07-01');
    expect(latestDay(index, at('2026-07-01T23:30:00Z'))).toBe('2026-07-02');
    expect(latestDay(far, at('2026-07-01T22:30:00Z'))).toBe('2026-07-02');
  });
});
