import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { beyond, entriesWith, type HalfSpan, halvesOf, type LeaveSpan } from '../../../leave/index.ts';
import { annualLeave, bookOf, contextFor, date, entry, halves, instant } from '../../../testing/house.ts';
import { fromDay, toDay } from '../../../time/index.ts';
import {
  type Command,
  compare,
  type Definition,
  fold,
  handle,
  mayAfterwards,
  newRequest,
  type RequestEvent,
} from '../../index.ts';

/** Leave in May, approved by Tom on 2 February. */
class Leave {
  state = newRequest('R-1');
  readonly events: RequestEvent[] = [];
  readonly mails: string[] = [];
  constructor(
    readonly definition: Definition = annualLeave,
    days = halves('2026-05-04', '2026-05-08'),
  ) {
    this.do({ kind: 'submit', answers: { kind: 'annual', dates: days } }, 'ina');
    this.answer('approve');
  }
  context(actor: string | null, now = '2026-02-03T10:00:00Z') {
    const { leave } = this.state;
    const entries = leave ? [entry({ ...leave })] : [];
    return contextFor(actor, { now: instant(now), book: bookOf(entries, { today: date(now.slice(0, 10)) }) });
  }
  try(command: object, actor: string | null, now?: string) {
    return handle(
      this.definition,
      this.state,
      { seen: this.state.version, ...command } as Command,
      this.context(actor, now),
    );
  }
  do(command: object, actor: string | null, now?: string): this {
    const result = this.try(command, actor, now);
    if (!result.ok) throw new Error(`${result.refusal.code}: ${result.refusal.message}`);
    // As the server has it: read from its row before every command.
    this.state = JSON.parse(JSON.stringify(result.state)) as typeof result.state;
    this.events.push(...result.events);
    this.mails.push(...result.effects.flatMap(e => (e.kind === 'mail' ? [`${e.to}: ${e.subject}`] : [])));
    return this;
  }
  answer(outcome: string, note = 'so'): this {
    const [task] = this.state.tasks;
    return this.do({ kind: 'answer', task: task.id, outcome, note }, task.holder);
  }
  get booked() {
    return (
      this.state.leave &&
      `${this.state.leave.state} ${this.state.leave.span.from.date}/${this.state.leave.span.to.date}`
    );
  }
}

const shorter = { kind: 'annual', dates: halves('2026-05-04', '2026-05-06') };
const change = { kind: 'change after approval', answers: shorter, note: 'Home a day early' };
const as = (afterwards: Definition['afterwards']): Definition => ({ ...annualLeave, afterwards });

describe('a change after approval', () => {
  test('is decided again, and until then the booking stands', () => {
    const leave = new Leave();
    expect(leave.booked).toBe('booked 2026-05-04/2026-05-08');
    leave.do(change, 'ina');
    expect(leave.state).toMatchObject({ status: 'open', tasks: [{ holder: 'tom' }] });
    expect(leave.state.changes).toMatchObject([{ field: 'dates' }]);
    expect(leave.booked).toBe('booked 2026-05-04/2026-05-08');
    leave.answer('approve');
    expect(leave.state).toMatchObject({ status: 'closed', closing: 'approved', approved: null });
    expect(leave.booked).toBe('booked 2026-05-04/2026-05-06');
    expect(fold('R-1', leave.events)).toEqual(leave.state);
  });

  test.each([
    ['declined', (leave: Leave) => leave.answer('decline')],
    ['taken back by the asker', (leave: Leave) => leave.do({ kind: 'withdraw' }, 'ina')],
  ])('%s leaves everything as it was approved', (_, end) => {
    const leave = end(new Leave().do(change, 'ina'));
    expect(leave.state).toMatchObject({ status: 'closed', closing: 'approved', tasks: [], approved: null });
    expect(leave.state.answers.dates).toEqual(halves('2026-05-04', '2026-05-08'));
    expect(leave.booked).toBe('booked 2026-05-04/2026-05-08');
    expect(leave.events.filter(e => e.kind === 'booked')).toHaveLength(1);
    expect(fold('R-1', leave.events)).toEqual(leave.state);
  });

  test('sent back for rework is still a change: what is reworked does not undo the booking', () => {
    const leave = new Leave().do(change, 'ina').answer('back', 'Not the 6th');
    expect(leave.state.status).toBe('rework');
    leave.do({ kind: 'resubmit', answers: { dates: halves('2026-05-04', '2026-05-07') } }, 'ina');
    expect(leave.booked).toBe('booked 2026-05-04/2026-05-08');
    expect(leave.answer('approve').booked).toBe('booked 2026-05-04/2026-05-07');
  });

  const longer = { ...change, answers: { kind: 'annual', dates: halves('2026-05-01', '2026-05-12') } };

  test('holds what it asks for beyond the booking while it is decided, and nothing afterwards', () => {
    const held = (leave: Leave) =>
      leave.state.leave &&
      entriesWith(entry({ ...leave.state.leave }), leave.state.leave.instead ?? null)
        .filter(one => one.state === 'held')
        .map(one => one.span);
    const leave = new Leave().do(longer, 'ina');
    expect(leave.booked).toBe('booked 2026-05-04/2026-05-08');
    const before = { from: { date: '2026-05-01', half: 'am' }, to: { date: '2026-05-03', half: 'pm' } };
    const after = { from: { date: '2026-05-09', half: 'am' }, to: { date: '2026-05-12', half: 'pm' } };
    expect(held(leave)).toEqual([before, after]);
    expect(fold('R-1', leave.events)).toEqual(leave.state);
    const declined = new Leave().do(longer, 'ina').answer('decline');
    expect(declined.booked).toBe('booked 2026-05-04/2026-05-08');
    expect(held(declined)).toEqual([]);
    expect(declined.events.filter(e => e.kind === 'booked')).toHaveLength(1);
    expect(fold('R-1', declined.events)).toEqual(declined.state);
    leave.answer('back', 'Not the 1st');
    leave.do({ kind: 'resubmit', answers: { dates: halves('2026-05-04', '2026-05-11') } }, 'ina');
    expect(held(leave)).toEqual([{ ...after, to: { date: '2026-05-11', half: 'pm' } }]);
    expect(leave.answer('approve').booked).toBe('booked 2026-05-04/2026-05-11');
    expect(held(leave)).toEqual([]);
  });

  test('corrected by an administrator while it is decided is held as it is corrected, and not booked', () => {
    const leave = new Leave().do(longer, 'ina');
    leave.do(
      { kind: 'correct', answers: { dates: halves('2026-05-04', '2026-05-11') }, reason: 'Typed wrongly' },
      'dora',
    );
    expect(leave.booked).toBe('booked 2026-05-04/2026-05-08');
    expect(leave.state.leave?.instead?.span).toEqual(halves('2026-05-04', '2026-05-11'));
    expect(leave.answer('decline').booked).toBe('booked 2026-05-04/2026-05-08');
    expect(fold('R-1', leave.events)).toEqual(leave.state);
  });

  test('of another kind holds all of its days', () => {
    const other = { type: 'unpaid', span: halves('2026-05-04', '2026-05-08') };
    const found = entriesWith(entry({ span: other.span }), other);
    expect(found.map(one => [one.state, one.type])).toEqual([
      ['booked', 'annual'],
      ['held', 'unpaid'],
    ]);
  });

  test('what lies beyond a booking and the booking share nothing, and together are the whole', () => {
    const half = fc.integer({ min: 0, max: 40 });
    const span = fc.tuple(half, half).map(([a, b]) => {
      const end = (n: number) => ({ date: fromDay(toDay(date('2026-05-04')) + (n >> 1)), half: n % 2 ? 'pm' : 'am' });
      return { from: end(Math.min(a, b)), to: end(Math.max(a, b)) } as HalfSpan;
    });
    const all = (one: LeaveSpan) => {
      const { first, last } = halvesOf(one as HalfSpan);
      return Array.from({ length: last - first + 1 }, (_, n) => first + n);
    };
    fc.assert(
      fc.property(span, span, (asked, booked) => {
        const more = beyond(asked, booked).flatMap(all);
        const own = new Set(all(booked));
        expect(more).toEqual(all(asked).filter(n => !own.has(n)));
      }),
    );
  });

  test('with times holds the hours before and after', () => {
    const at = (from: string, to: string) =>
      ({ from: { date: '2026-05-04', time: from }, to: { date: '2026-05-04', time: to } }) as LeaveSpan;
    expect(beyond(at('08:00', '12:00'), at('09:00', '11:30'))).toEqual([at('08:00', '09:00'), at('11:30', '12:00')]);
    expect(beyond(at('08:00', '12:00'), halves('2026-05-04', '2026-05-04'))).toEqual([]);
    expect(beyond(halves('2026-05-03', '2026-05-04'), at('09:00', '11:30'))).toEqual([
      halves('2026-05-03', '2026-05-03'),
    ]);
  });

  test('counts its own booking as free, and no more than that', () => {
    const most = { kind: 'annual', dates: halves('2026-05-04', '2026-06-05') };
    expect(new Leave().do({ ...change, answers: most }, 'ina').state.status).toBe('open');
    const tooMuch = { kind: 'annual', dates: halves('2026-05-04', '2026-07-31') };
    expect(new Leave().try({ ...change, answers: tooMuch }, 'ina')).toMatchObject({
      ok: false,
      refusal: { code: 'bad answers' },
    });
  });

  test('is booked at once where the workflow says so', () => {
    const leave = new Leave(as({ change: 'at once', cancel: 'at once' })).do(change, 'ina');
    expect(leave.state).toMatchObject({ status: 'closed', closing: 'approved', tasks: [] });
    expect(leave.booked).toBe('booked 2026-05-04/2026-05-06');
  });

  test('needs something to be changed', () => {
    const same = { kind: 'annual', dates: halves('2026-05-04', '2026-05-08') };
    expect(new Leave().try({ ...change, answers: same }, 'ina')).toMatchObject({ ok: false });
  });
});

describe('cancelling after approval', () => {
  test('gives the leave back at once and tells whoever approved it', () => {
    const leave = new Leave().do({ kind: 'cancel after approval', note: 'No ferry' }, 'ina');
    expect(leave.state).toMatchObject({ status: 'withdrawn', leave: null, closing: 'approved' });
    expect(leave.mails.filter(m => m.includes('Cancelled'))).toEqual([expect.stringMatching(/^tom: /)]);
  });

  test.each([
    ['approve', { status: 'withdrawn', leave: null }],
    ['decline', { status: 'closed', closing: 'approved', leave: { state: 'booked' } }],
  ])('is decided by whoever decided before, where the workflow says so: %s', (outcome, after) => {
    const leave = new Leave(as({ change: 'decided', cancel: 'decided' }));
    leave.do({ kind: 'cancel after approval', note: 'No ferry' }, 'ina');
    expect(leave.state).toMatchObject({ status: 'open', tasks: [{ holder: 'tom' }], leave: { state: 'booked' } });
    leave.answer(outcome);
    expect(leave.state).toMatchObject(after);
    expect(fold('R-1', leave.events)).toEqual(leave.state);
  });
});

describe('who may change or cancel, and until when', () => {
  const approved = new Leave();
  const may = (what: 'change' | 'cancel', actor: string, now: string, leave = approved) =>
    mayAfterwards(leave.definition, leave.state, what, leave.context(actor, now));
  test.each<['change' | 'cancel', string, string, RegExp | undefined]>([
    ['change', 'ina', '2026-03-01T10:00:00Z', undefined],
    ['cancel', 'ina', '2026-03-01T10:00:00Z', undefined],
    ['change', 'tom', '2026-03-01T10:00:00Z', /Only Ina Okell/],
    ['cancel', 'ina', '2026-05-04T10:00:00Z', /begun already/],
    ['change', 'ina', '2026-05-06T10:00:00Z', undefined],
    ['change', 'ina', '2026-05-09T10:00:00Z', /past already/],
  ])('%s by %s on %s', (what, actor, now, words) => {
    if (words) expect(may(what, actor, now)).toMatch(words);
    else expect(may(what, actor, now)).toBeUndefined();
  });

  test('not where the workflow says no, and not while it is open or declined', () => {
    expect(may('change', 'ina', '2026-03-01T10:00:00Z', new Leave(as({ change: 'not', cancel: 'not' })))).toMatch(
      /nothing/,
    );
    const open = new Leave().do(change, 'ina');
    expect(may('cancel', 'ina', '2026-03-01T10:00:00Z', open)).toMatch(/approved/);
  });

  test('a change seen on an older version is refused', () => {
    const leave = new Leave();
    expect(leave.try({ ...change, seen: leave.state.version - 1 }, 'ina')).toMatchObject({
      refusal: { code: 'stale' },
    });
  });
});

describe('two versions side by side', () => {
  const said = (change: Partial<Definition>) =>
    compare(annualLeave, { ...annualLeave, ...change })
      .filter(d => d.kind !== 'same')
      .map(d => [d.kind, d.after]);

  test('show what may be done after approval, and what else means an answer in a mail', () => {
    expect(said({ afterwards: { change: 'not', cancel: 'decided' } })).toEqual([
      ['changed', 'After approval, a change is not open to the asker and a cancellation is decided again.'],
    ]);
    expect(said({ phrases: { Approve: ['yes', 'fine'] } })).toEqual([
      ['new', 'In a reply by mail, “Approve” is also meant by “yes”, “fine”.'],
    ]);
  });
});

describe('a correction', () => {
  const correct = (answers: object) => ({ kind: 'correct', answers, reason: 'Mistyped' });

  test('sets answers right, books what follows from them, and stays on the trail with its reason', () => {
    const leave = new Leave().do(
      correct({ dates: halves('2026-05-04', '2026-05-05') }),
      'dora',
      '2026-05-20T10:00:00Z',
    );
    expect(leave.booked).toBe('booked 2026-05-04/2026-05-05');
    expect(leave.state).toMatchObject({ status: 'closed', figures: { days: 2 } });
    expect(leave.events.map(e => e.kind).slice(-2)).toEqual(['corrected', 'booked']);
    expect(leave.mails.at(-1)).toMatch(/^ina: Corrected/);
  });

  test.each([
    ['what is not in the form', { boat: 'x' }],
    ['what changes nothing', { kind: 'annual' }],
    ['what is no answer', { dates: 'soon' }],
  ])('refuses %s', (_, answers) => {
    expect(new Leave().try(correct(answers), 'dora')).toMatchObject({ ok: false, refusal: { code: 'bad answers' } });
  });
});
