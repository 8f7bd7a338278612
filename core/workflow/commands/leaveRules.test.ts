/** Rules of leave types while asking and deciding: what stops, what takes a reason, what HR lets pass, what is granted otherwise. */

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { heldOf, type LeaveBook, type LeaveEntry, type LeaveType, type Limit, statementOf } from '../../leave/index.ts';
import { annual, annualLeave, bookOf, contextFor, date, entry, halves, person, sick } from '../../testing/house.ts';
import { wholeTrail } from '../../testing/run.ts';
import { addDays } from '../../time/index.ts';
import { type Command, type Definition, handle, newRequest, preview, type RequestState } from '../index.ts';

const ina = person('ina');
const withRemark: Definition = {
  ...annualLeave,
  steps: annualLeave.steps.map(step =>
    step.verb === 'Record' && step.effect.kind === 'book leave'
      ? { ...step, effect: { ...step.effect, why: 'remark' } }
      : step,
  ),
};
const limited = (...limits: Limit[]): LeaveType[] => [{ ...annual, limits }, sick];
const may = { kind: 'annual', dates: halves('2026-02-09', '2026-02-13') };
const ask = (definition: Definition, answers: object, book: Partial<LeaveBook>) =>
  handle(
    definition,
    newRequest('R-1'),
    { kind: 'submit', answers } as Command,
    contextFor('ina', { book: bookOf([], book) }),
  );
const faultsOf = (result: ReturnType<typeof ask>) =>
  result.ok ? [] : (result.refusal.faults ?? []).map(one => `${one.field}: ${one.message}`);

describe('a rule of a leave type', () => {
  const soon = (how: 'stops' | 'asks why' | 'warns') => ({
    types: limited({ rule: 'notice', over: 0, days: 14, how }),
  });

  test('that stops is said at the dates, and nothing is sent', () => {
    const stopped = ask(withRemark, may, soon('stops'));
    expect(faultsOf(stopped)).toEqual([
      'dates: It is asked for 14 days before; this is 7 days before. Choose other dates, or ask: HR operations can let it pass.',
    ]);
    // The same before it is sent.
    const { faults } = preview(withRemark, may, contextFor('ina', { book: bookOf([], soon('stops')) }), ina);
    expect(faults.map(one => one.field)).toEqual(['dates']);
  });

  test('that asks for a reason takes it from the field that the workflow names, and is kept with the request', () => {
    expect(faultsOf(ask(withRemark, may, soon('asks why')))).toEqual([
      'remark: It is asked for 14 days before; this is 7 days before. Say why it is asked for all the same.',
    ]);
    expect(faultsOf(ask(withRemark, { ...may, remark: '  ' }, soon('asks why')))).toHaveLength(1);
    const sent = ask(withRemark, { ...may, remark: 'My brother comes.' }, soon('asks why'));
    expect(sent.ok && sent.state.against).toEqual([
      { how: 'asks why', met: { rule: 'notice', needed: 14, given: 7, over: 0 }, pass: null },
    ]);
    // Where a workflow has no such field, it stops.
    expect(faultsOf(ask(annualLeave, { ...may, remark: 'My brother comes.' }, soon('asks why')))[0]).toMatch(
      /^dates: .*takes a reason/,
    );
  });

  test('that warns is kept and told on the trail, and stops nothing', () => {
    const sent = ask(withRemark, may, soon('warns'));
    if (!sent.ok) throw new Error(sent.refusal.message);
    const lines = wholeTrail(withRemark, sent.events, { index: bookOf().index, book: bookOf() });
    expect(lines.find(line => line.text.startsWith('asked for it beside'))?.why).toEqual([
      'It is asked for 14 days before; this is 7 days before.',
    ]);
  });

  test('that HR lets pass does not stop, and who let it pass and why is kept', () => {
    const pass = { id: 4, person: ina, type: 'annual', from: date('2026-02-09'), to: date('2026-02-13') };
    const passes = [{ ...pass, by: person('dora'), reason: 'Her sister weds.' }];
    const sent = ask(withRemark, may, { ...soon('stops'), passes });
    if (!sent.ok) throw new Error(sent.refusal.message);
    expect(sent.state.against?.[0]?.pass).toEqual({ by: 'dora', reason: 'Her sister weds.' });
    const [told] = wholeTrail(withRemark, sent.events, { index: bookOf().index, book: bookOf() }).filter(
      line => line.why.length > 0,
    );
    expect(told?.why.join(' ')).toContain('Dora Quill of HR let it pass: Her sister weds.');
  });

  test('of what it takes to be refused anyhow says nothing besides', () => {
    const booked = [entry({ request: 'R-7', span: halves('2026-02-10', '2026-02-10') })];
    const faults = faultsOf(ask(withRemark, may, { ...soon('stops'), entries: booked } as Partial<LeaveBook>));
    expect(faults).toHaveLength(1);
    expect(faults[0]).toContain('overlap');
  });
});

/** The line manager may change kind and dates while granting. */
const granting: Definition = {
  ...withRemark,
  form: {
    ...withRemark.form,
    fields: withRemark.form.fields.map(field =>
      field.kind === 'choice' ? { ...field, options: 'leave types' as const } : field,
    ),
  },
  access: { manager: { kind: 'editable', dates: 'editable' } },
};
const bridge: LeaveType = { ...annual, id: 'time-earned', name: 'Time earned', takesFrom: 'earned' };

class Asked {
  state: RequestState = newRequest('R-1');
  entries: LeaveEntry[] = [];
  readonly mails: { to: string; body: string }[] = [];
  readonly book: Partial<LeaveBook>;
  constructor(answers: object, book: Partial<LeaveBook> = {}) {
    this.book = { types: [annual, bridge, sick], ...book };
    this.do({ kind: 'submit', answers }, 'ina');
  }
  get now(): LeaveBook {
    return bookOf(this.entries, this.book);
  }
  try(command: object, actor: string) {
    const context = contextFor(actor, { book: this.now });
    return handle(granting, this.state, { seen: this.state.version, ...command } as Command, context);
  }
  do(command: object, actor: string) {
    const result = this.try(command, actor);
    if (!result.ok) throw new Error(`${result.refusal.message} ${JSON.stringify(result.refusal.faults)}`);
    this.state = result.state;
    this.mails.push(...result.effects.flatMap(e => (e.kind === 'mail' ? [{ to: e.to, body: e.body }] : [])));
    const { leave } = this.state;
    this.entries = leave
      ? [{ request: 'R-1', person: ina, type: leave.type, span: leave.span, state: leave.state }]
      : [];
    return this;
  }
  grant(answers: object) {
    const [task] = this.state.tasks;
    return this.try({ kind: 'answer', task: task!.id, outcome: 'approve', note: 'as agreed', answers }, task!.holder);
  }
}

describe('leave that is granted otherwise', () => {
  const earned = [{ person: ina, type: 'time-earned', date: date('2026-01-05'), amount: 60, reason: 'storm watch' }];

  test('as another kind charges the balance of that kind, and gives back what was held of the first', () => {
    const asked = new Asked(may, { adjustments: earned });
    // The afternoon of the 13th is off at Ovay.
    expect(heldOf(asked.now, ina, annual)).toBe(4.5);
    const [task] = asked.state.tasks;
    asked.do(
      { kind: 'answer', task: task!.id, outcome: 'approve', note: 'from the storm', answers: { kind: 'time-earned' } },
      task!.holder,
    );
    expect(asked.entries).toMatchObject([{ type: 'time-earned', state: 'booked' }]);
    expect(heldOf(asked.now, ina, annual)).toBe(0);
    // Whoever asked is told what they asked for, what they got, and why.
    const told = asked.mails.filter(mail => mail.to === 'ina').at(-1)?.body ?? '';
    expect(told).toContain('Kind: asked for Annual leave, granted Time earned\nTom Lund: “from the storm”');
    expect(statementOf(asked.now, ina, annual, date('2026-12-31'))!.lines.some(line => line.request)).toBe(false);
    expect(statementOf(asked.now, ina, bridge, date('2026-12-31'))!.balance).toBe(60 - 33.5);
  });

  test('that its balance does not bear is refused at its place, and nothing is granted', () => {
    const asked = new Asked(may);
    const refused = asked.grant({ kind: 'time-earned' });
    expect(refused.ok).toBe(false);
    expect(!refused.ok && refused.refusal.faults?.[0]?.message).toMatch(/none of them is free/);
  });

  test('in part holds and books the part, whatever it was', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 13 }), fc.integer({ min: 0, max: 13 }), (from, length) => {
        const [first, last] = [addDays(date('2026-03-02'), from), addDays(date('2026-03-02'), from + length)];
        const asked = new Asked({ kind: 'annual', dates: halves('2026-03-02', '2026-03-27') });
        const granted = asked.grant({ dates: halves(first, last) });
        // A part in which nothing is scheduled is no leave.
        if (!granted.ok) return expect(granted.refusal.faults?.[0]?.message).toMatch(/Nothing is scheduled/);
        expect(granted.state.leave?.span).toEqual(halves(first, last));
      }),
      { numRuns: 40 },
    );
  });
});
