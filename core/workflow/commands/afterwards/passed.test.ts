/** Leave whose days pass before it is decided. */
import { describe, expect, test } from '@jest/globals';
import { annualLeave, bookOf, contextFor, date, entry, halves, instant } from '../../../testing/house.ts';
import { type Command, fold, handle, newRequest, type RequestEvent, type TimerCommand } from '../../index.ts';

class Asked {
  state = newRequest('R-1');
  readonly events: RequestEvent[] = [];
  readonly mails: string[] = [];
  readonly timers: { what: string; at: string }[] = [];
  constructor(readonly daysBack?: number) {
    this.do({ kind: 'submit', answers: { kind: 'annual', dates: halves('2026-03-10', '2026-03-13') } }, 'ina');
  }
  try(command: object, actor: string | null, now = '2026-02-03T10:00:00Z') {
    const { leave } = this.state;
    const book = bookOf(leave ? [entry({ ...leave })] : [], { today: date(now.slice(0, 10)) });
    const types = book.types.map(one =>
      one.id === 'annual' && this.daysBack !== undefined ? { ...one, daysBack: this.daysBack } : one,
    );
    const context = contextFor(actor, { now: instant(now), book: { ...book, types } });
    return handle(annualLeave, this.state, { seen: this.state.version, ...command } as Command | TimerCommand, context);
  }
  do(command: object, actor: string | null, now?: string): this {
    const result = this.try(command, actor, now);
    if (!result.ok) throw new Error(`${result.refusal.code}: ${result.refusal.message}`);
    this.state = result.state;
    this.events.push(...result.events);
    for (const effect of result.effects) {
      if (effect.kind === 'mail') this.mails.push(`${effect.to}: ${effect.subject}`);
      if (effect.kind === 'timer') this.timers.push({ what: effect.what, at: effect.at });
    }
    expect(fold('R-1', this.events)).toEqual(this.state);
    return this;
  }
  days(now: string): this {
    return this.do({ kind: 'timer', task: 'leave', what: 'leave' }, null, now);
  }
  answer(now: string) {
    const task = this.state.tasks[0]?.id ?? 'R-1.1';
    return this.try({ kind: 'answer', task, outcome: 'approve', note: null }, 'tom', now);
  }
}
const after = '2026-03-14T00:00:00Z';

describe('leave whose days pass before it is decided', () => {
  test('is looked at when its last day is over where the person works', () => {
    expect(new Asked().timers.filter(one => one.what === 'leave')).toEqual([{ what: 'leave', at: after }]);
    // Where it may be asked for afterwards, it may be decided for as long.
    expect(new Asked(5).timers.find(one => one.what === 'leave')?.at).toBe('2026-03-19T00:00:00Z');
  });

  test('goes to HR on the day after, whoever has it is told, and nobody else decides it', () => {
    const asked = new Asked();
    expect(asked.answer('2026-03-13T20:00:00Z').ok).toBe(true);
    // Before the timer has come, too.
    expect(asked.answer('2026-03-14T00:01:00Z')).toMatchObject({ ok: false, refusal: { code: 'not open' } });
    asked.days(after);
    expect(asked.state).toMatchObject({
      status: 'stuck',
      tasks: [],
      stuckAt: [{ step: 'manager', reason: { code: 'days have passed', last: '2026-03-13' } }],
    });
    expect(asked.mails.slice(-2)).toEqual([
      expect.stringMatching(/^tom: No longer needed/),
      expect.stringMatching(/^ina: Waiting/),
    ]);
    for (const command of [
      { kind: 'try again' },
      { kind: 'appoint', step: 'manager', to: 'kay', note: 'so' },
      { kind: 'resubmit', answers: {} },
    ])
      expect(asked.try(command, 'kay', '2026-03-20T08:00:00Z')).toMatchObject({ refusal: { code: 'not open' } });
    // A second look tells nobody again.
    const told = asked.mails.length;
    expect(asked.days('2026-03-15T00:00:00Z').mails).toHaveLength(told);
  });

  test('is booked by HR with a reason, or let end and free again', () => {
    const booked = new Asked().days(after);
    booked.do({ kind: 'book past', reason: 'He was away' }, 'kay', '2026-03-16T09:00:00Z');
    expect(booked.state).toMatchObject({
      status: 'closed',
      closing: 'approved',
      leave: { state: 'booked', reason: 'He was away' },
    });
    expect(booked.mails.at(-1)).toMatch(/^ina: Booked/);
    const ended = new Asked().days(after);
    ended.do({ kind: 'let end', reason: 'She worked' }, 'kay', '2026-03-16T09:00:00Z');
    expect(ended.state).toMatchObject({ status: 'withdrawn', leave: null });
    expect(ended.mails.at(-1)).toMatch(/^ina: Ended/);
  });

  test('is nobody’s to book or to end while its days are ahead, and not twice', () => {
    const asked = new Asked();
    for (const kind of ['book past', 'let end'])
      expect(asked.try({ kind, reason: 'so' }, 'kay')).toMatchObject({ refusal: { code: 'not open' } });
    asked.days('2026-03-01T00:00:00Z');
    expect(asked.state).toMatchObject({ status: 'open', tasks: [{ holder: 'tom' }] });
    asked.days(after).do({ kind: 'let end', reason: 'so' }, 'kay', '2026-03-16T09:00:00Z');
    expect(asked.try({ kind: 'book past', reason: 'so' }, 'kay', '2026-03-16T09:00:00Z').ok).toBe(false);
  });

  test('of a change leaves the booking as it was when it is let end', () => {
    const asked = new Asked();
    asked.do({ kind: 'answer', task: 'R-1.1', outcome: 'approve', note: null }, 'tom');
    const answers = { kind: 'annual', dates: halves('2026-03-10', '2026-03-16') };
    asked.do({ kind: 'change after approval', answers, note: null }, 'ina', '2026-03-02T10:00:00Z');
    asked.days('2026-03-17T00:00:00Z');
    asked.do({ kind: 'let end', reason: 'Nobody knew' }, 'kay', '2026-03-18T10:00:00Z');
    expect(asked.state).toMatchObject({ status: 'closed', closing: 'approved', leave: { state: 'booked' } });
    expect(asked.state.leave?.span).toEqual(halves('2026-03-10', '2026-03-13'));
    expect(asked.state.leave?.instead).toBeUndefined();
  });
});
