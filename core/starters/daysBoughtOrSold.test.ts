/** Days bought and sold: put on a balance by a workflow, and never taken off one that does not bear it. */
import { describe, expect, test } from '@jest/globals';
import { annual, bookOf, contextFor, date, entry, halves, index, instant, person } from '../testing/house.ts';
import { type Command, handle, newRequest, type RequestState, readWords, stuckWords } from '../workflow/index.ts';
import { daysBoughtOrSold } from './leave.ts';

const { definition } = daysBoughtOrSold;
const taken = entry({ request: 'R-7', span: halves('2026-07-06', '2026-07-31') });

function run(answers: object, more: Parameters<typeof bookOf>[1] = {}, entries = [taken]) {
  const context = (actor: string) =>
    contextFor(actor, { now: instant('2026-02-02T10:00:00Z'), book: bookOf(entries, { types: [annual], ...more }) });
  let state: RequestState = newRequest('R-1');
  const effects: object[] = [];
  const events: { kind: string; what?: unknown }[] = [];
  const act = (command: object, actor: string) => {
    const result = handle(definition, state, { seen: state.version, ...command } as Command, context(actor));
    if (!result.ok) return result.refusal.faults?.map(fault => fault.message) ?? [result.refusal.message];
    state = result.state;
    effects.push(...result.effects.filter(one => one.kind === 'adjust'));
    events.push(...result.events);
    return [];
  };
  const faults = act({ kind: 'submit', answers: { kind: 'annual', reason: null, ...answers } }, 'ina');
  const [decision] = state.tasks;
  if (decision) act({ kind: 'answer', task: decision.id, outcome: 'approve', note: null }, decision.holder);
  const [task] = state.tasks;
  if (task) act({ kind: 'complete', task: task.id, ticked: ['item-1'], answers: {} }, task.holder);
  return {
    faults,
    effects,
    recorded: events.flatMap(one => (one.kind === 'recorded' ? [one.what] : [])),
    state,
    told: state.stuck ? stuckWords(state.stuck, { definition, ...context('ina') }) : '',
  };
}

describe('days bought or sold', () => {
  test('are put on the balance once it is agreed, with the request as the reason', () => {
    const { effects, state } = run({ what: 'Buy', number: 3 });
    expect(effects).toMatchObject([
      { person: 'ina', type: 'annual', amount: 3, on: '2026-02-02', reason: 'Days bought or sold (request R-1)' },
    ]);
    expect(state).toMatchObject({ status: 'closed', closing: 'done' });
    expect(run({ what: 'Sell', number: 2 }).effects).toMatchObject([{ amount: -2 }]);
  });

  test('more than there is left cannot be sold, when it is asked for and when it is agreed', () => {
    expect(run({ what: 'Sell', number: 40 }).faults).toEqual(['There is not so much left to sell.']);
    // Today there are 31; with what is planned, 6 of them are free.
    const late = run({ what: 'Sell', number: 7 });
    expect(late.effects).toEqual([]);
    expect(late.state.status).toBe('stuck');
    expect(late.told).toContain('7 cannot be taken off the balance of annual leave: it does not bear that');
    expect(run({ what: 'Sell', number: 6 }).effects).toMatchObject([{ amount: -6 }]);
  });

  test('gone through again, it comes to what is said now', () => {
    const reason = 'Days bought or sold (request R-1)';
    const own = { person: person('ina'), type: 'annual', date: date('2026-01-20'), amount: -6, reason };
    // Six were taken off before: the same six are there already, and nothing is said to be put there again.
    const again = run({ what: 'Sell', number: 6 }, { adjustments: [own] });
    expect(again).toMatchObject({ effects: [], state: { status: 'closed', closing: 'done' } });
    expect(again.recorded).toEqual([]);
    // Four instead: two come back, and that is what the trail says.
    const fewer = run({ what: 'Sell', number: 4 }, { adjustments: [own] });
    expect(fewer).toMatchObject({ effects: [{ amount: -4 }], recorded: [{ amount: 2 }] });
    const other = { ...own, reason: 'Days bought or sold (request R-12)' };
    expect(run({ what: 'Sell', number: 6 }, { adjustments: [other] }).effects).toEqual([]);
  });

  test('the line is typed as it is shown', () => {
    const read = readWords('Put on the balance of the chosen Kind: ‹-How many›', definition, index, { lists: [] });
    expect(read).toMatchObject({
      ok: true,
      steps: [{ verb: 'Record', effect: { kind: 'adjust', type: 'kind', amount: '-How many' } }],
    });
  });
});
