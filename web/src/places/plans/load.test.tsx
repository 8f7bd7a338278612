/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { PlanLineView, PlanRow } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import { cleanup, screen, within } from '@testing-library/react';
import { date } from '../../../../core/testing/house.ts';
import { open } from '../../testing/page.tsx';
import { loads, overloads } from './load.ts';
import { Overloads } from './Overloads.tsx';

afterEach(cleanup);

const line = (step: string, earliest: string, latest: string, left: number, more: Partial<PlanLineView> = {}) =>
  ({
    step,
    number: '2',
    what: `Does ${step}`,
    holder: 'Stores desk',
    people: ['sam' as PersonId],
    state: 'fine',
    doneAt: null,
    days: { earliestStart: date(earliest), latestStart: date(latest), slack: 5 } as PlanLineView['days'],
    inHand: false,
    left,
    after: [],
    why: null,
    ...more,
  }) as PlanLineView;
const row = (request: string, ...lines: PlanLineView[]) =>
  ({ request, title: `Joiner ${request}`, date: date('2026-03-02'), lines }) as unknown as PlanRow;

// Monday 9 February, and the weeks after it.
const rows = [
  row('R-1', line('kit', '2026-02-10', '2026-02-10', 4)),
  row('R-2', line('kit', '2026-02-11', '2026-02-24', 3)),
  row('R-3', line('kit', '2026-02-18', '2026-02-18', 4)),
];

describe('who has how much to do', () => {
  test('each task lies in the week in which it can begin, with the last week into which it could go', () => {
    const { weeks, holders } = loads(rows);
    expect(weeks).toEqual(['2026-02-09', '2026-02-16']);
    expect(holders).toMatchObject([{ holder: 'Stores desk', sum: 3 }]);
    expect(holders[0].weeks.get(date('2026-02-09'))?.map(task => task.until)).toEqual(['2026-02-09', '2026-02-23']);
  });

  test('of a week that holds too much, what can wait goes where there is room', () => {
    expect(overloads(loads(rows).holders)).toMatchObject([
      {
        holder: 'Stores desk',
        week: '2026-02-09',
        workingDays: 7,
        room: 5,
        over: 0,
        moves: [{ to: '2026-02-23', task: { row: { request: 'R-2' } } }],
      },
    ]);
  });

  test('a role of two people has room for twice as much; what is done lies in no week', () => {
    const two = rows.map(one => ({ ...one, lines: one.lines.map(l => ({ ...l, people: ['a', 'b'] as PersonId[] })) }));
    expect(overloads(loads(two).holders)).toEqual([]);
    expect(loads([row('R-4', line('kit', '2026-02-10', '2026-02-10', 4, { days: null }))]).holders).toEqual([]);
  });

  test('is said in whole sentences, with a way to the plan; or that nobody has too much', () => {
    open(<Overloads all={overloads(loads(rows).holders)} today={date('2026-02-02')} />);
    const section = within(screen.getByRole('region', { name: 'What could be moved' }));
    expect(section.getByText(/^Stores desk, week of .*: 7 working days of work, room for 5$/)).toBeTruthy();
    expect(section.getByRole('link', { name: 'Joiner R-2' }).getAttribute('href')).toBe('/requests/R-2/plan');
    expect(section.getByText(/“Does kit” \(3 working days\) could wait until the week of/)).toBeTruthy();
    cleanup();
    open(<Overloads all={[]} today={date('2026-02-02')} />);
    expect(screen.getByText('Nobody has more in a week than can be done in it.')).toBeTruthy();
  });
});
