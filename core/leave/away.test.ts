/** Absence of somebody whose last day of work is known: on planner, feeds and in teams it ends with that. */
import { describe, expect, test } from '@jest/globals';
import { indexDirectory } from '../people/index.ts';
import { date, directory, entry, halves, person } from '../testing/house.ts';
import { withinWork } from './away.ts';

const leaving = indexDirectory({
  ...directory,
  people: directory.people.map(p => (p.id === 'ina' ? { ...p, left: date('2026-02-06') } : p)),
});
const open = entry({ type: 'sick', span: halves('2026-02-02', '2026-02-11'), open: true });

describe('absence of somebody who leaves', () => {
  test('ends with the last day of work, whether its own last day is known or not, and by times too', () => {
    const booked = entry({ span: halves('2026-02-02', '2026-02-11') });
    expect(withinWork(leaving, [booked])).toEqual([{ ...booked, span: halves('2026-02-02', '2026-02-06') }]);
    const timed = (to: string, time: string) => ({
      from: { date: date('2026-02-05'), time: '10:00' },
      to: { date: date(to), time },
    });
    expect(withinWork(leaving, [{ ...booked, span: timed('2026-02-09', '12:00') }])).toEqual([
      { ...booked, span: timed('2026-02-06', '24:00') },
    ]);
    expect(withinWork(leaving, [open])).toEqual([{ ...open, span: halves('2026-02-02', '2026-02-06') }]);
  });
  test('is none where it begins after that', () => {
    expect(withinWork(leaving, [{ ...open, span: halves('2026-02-09', '2026-02-11') }])).toEqual([]);
  });
  test('is what it is while they do not leave', () => {
    const other = { ...open, person: person('tom') };
    const booked = entry({ span: halves('2026-02-02', '2026-02-06') });
    expect(withinWork(leaving, [other, booked])).toEqual([other, booked]);
  });
});
