/** Absence without a last day, of somebody whose last day of work is known. */
import { describe, expect, test } from '@jest/globals';
import { indexDirectory } from '../people/index.ts';
import { date, directory, entry, halves, person } from '../testing/house.ts';
import { withinWork } from './away.ts';

const leaving = indexDirectory({
  ...directory,
  people: directory.people.map(p => (p.id === 'ina' ? { ...p, left: date('2026-02-06') } : p)),
});
const open = entry({ type: 'sick', span: halves('2026-02-02', '2026-02-11'), open: true });

describe('absence whose last day is not known', () => {
  test('ends with the last day of work', () => {
    expect(withinWork(leaving, [open])).toEqual([{ ...open, span: halves('2026-02-02', '2026-02-06') }]);
  });
  test('is none where it begins after that', () => {
    expect(withinWork(leaving, [{ ...open, span: halves('2026-02-09', '2026-02-11') }])).toEqual([]);
  });
  test('is what it is while nobody leaves, and so is whatever has its own last day', () => {
    const other = { ...open, person: person('tom') };
    const booked = entry({ span: halves('2026-02-02', '2026-02-11') });
    expect(withinWork(leaving, [other, booked])).toEqual([other, booked]);
  });
});
