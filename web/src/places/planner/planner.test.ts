/** The planner as lists: who is away, and when some could all be here. */
import { expect, test } from '@jest/globals';
import type { PlannerView } from '@north-pebble/contract';
import { allHere, awayIn, everybodyIn } from './AwayList.tsx';

const person = (id: string, name: string, marks: string, entries: object[] = []) => ({ id, name, marks, entries });
const view = (people: object[]): PlannerView =>
  ({
    from: '2026-02-02',
    to: '2026-02-06',
    today: '2026-02-02',
    groups: [],
    presence: [],
    teams: [
      { name: 'One', people, here: [] },
      { name: 'Two', people: people.slice(0, 1), here: [] },
    ],
  }) as unknown as PlannerView;

const own = view([
  person('ina', 'Ina', 'wwbbbbwwww', [{ from: '2026-02-03', to: '2026-02-04', label: 'Annual leave' }]),
  person('per', 'Per', 'wwwwwwpwww', [
    { from: '2026-02-05', to: '2026-02-05', label: 'Away, asked for' },
    { from: '2026-03-05', to: '2026-03-05', label: 'Away' },
  ]),
  person('kay', 'Kay', 'hhww--wwww'),
]);

test('everybody is there once, and who is away stands in the order of days, those alone that are shown', () => {
  expect(everybodyIn(own).map(one => one.name)).toEqual(['Ina', 'Per', 'Kay']);
  expect(awayIn(own).map(one => `${one.name} ${one.from}`)).toEqual(['Ina 2026-02-03', 'Per 2026-02-05']);
});

test('all are here on whole days on which nobody is away, free, or on a holiday', () => {
  const of = (...ids: string[]) =>
    allHere(
      own,
      everybodyIn(own).filter(one => ids.includes(one.id)),
    );
  expect(of('ina')).toEqual([
    { from: '2026-02-02', to: '2026-02-02' },
    { from: '2026-02-05', to: '2026-02-06' },
  ]);
  expect(of('ina', 'per')).toEqual([
    { from: '2026-02-02', to: '2026-02-02' },
    { from: '2026-02-06', to: '2026-02-06' },
  ]);
  expect(of('ina', 'per', 'kay')).toEqual([{ from: '2026-02-06', to: '2026-02-06' }]);
  expect(of()).toEqual([]);
});
