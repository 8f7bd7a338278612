/** Time earned: what hours count by what the work was, and what of it finds room on the balance. */
import { expect, test } from '@jest/globals';
import type { LeaveType } from '../leave/index.ts';
import { annual, bookOf, contextFor, date, instant, person } from '../testing/house.ts';
import { type Command, handle, newRequest, type RequestState } from '../workflow/index.ts';
import { timeEarned } from './leave.ts';

const { definition } = timeEarned;
const type: LeaveType = {
  ...annual,
  ...{ id: 'compensation', name: 'Compensation time', takesFrom: 'earned', earnedMonths: 12, earnedMost: 20 },
};

function claimed(work: string, hours: number) {
  const context = (actor: string) =>
    contextFor(actor, {
      now: instant('2026-02-02T10:00:00Z'),
      book: bookOf([], {
        types: [type],
        adjustments: [
          { person: person('ina'), type: 'compensation', date: date('2026-01-12'), amount: 15, reason: 'Storm watch' },
        ],
      }),
    });
  let state: RequestState = newRequest('R-1');
  const effects: object[] = [];
  const recorded: object[] = [];
  const act = (command: object, actor: string) => {
    const result = handle(definition, state, { seen: state.version, ...command } as Command, context(actor));
    if (!result.ok) throw new Error(JSON.stringify(result.refusal));
    state = result.state;
    effects.push(...result.effects.filter(one => one.kind === 'adjust'));
    recorded.push(...result.events.flatMap(one => (one.kind === 'recorded' ? [one.what as object] : [])));
  };
  const answers = { kind: 'compensation', 'worked-on': '2026-01-30', work, hours, what: 'The outer gauge.' };
  act({ kind: 'submit', answers }, 'ina');
  const [decision] = state.tasks;
  if (decision) act({ kind: 'answer', task: decision.id, outcome: 'approve', note: null }, decision.holder);
  return { state, effects, recorded };
}

test.each([
  ['Worked over', 3, 3],
  ['On call', 3, 1.5],
  ['Travelled', 3, 1.5],
  ['Called out at night', 3, 4.5],
])('%s for %d hours counts %d', (work, hours, counted) => {
  expect(claimed(work, hours).effects).toMatchObject([{ person: 'ina', type: 'compensation', amount: counted }]);
});

test('what finds no room is not put on, and the trail says how much', () => {
  const { state, effects, recorded } = claimed('Worked over', 8);
  expect(effects).toMatchObject([{ amount: 5 }]);
  expect(recorded).toMatchObject([{ code: 'balance adjusted', amount: 5, over: 3 }]);
  expect(state).toMatchObject({ status: 'closed', closing: 'done' });
});
