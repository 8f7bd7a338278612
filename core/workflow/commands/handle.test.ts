import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  annualLeave,
  bookOf,
  contextFor,
  date,
  entry,
  halves,
  instant,
  person,
  withDirectory,
} from '../../testing/house.ts';
import { told, wholeTrail } from '../../testing/run.ts';
import {
  type Command,
  type Context,
  type Definition,
  type Effect,
  findings,
  fold,
  handle,
  isOpen,
  newRequest,
  type RequestEvent,
  type RequestState,
  type Result,
  type TimerCommand,
} from '../index.ts';

const week = halves('2026-02-09', '2026-02-13');
const ask = (answers: Record<string, unknown>, context: Context = contextFor('ina'), definition = annualLeave) =>
  handle(definition, newRequest('R-1'), { kind: 'submit', answers }, context);
const done = (result: Result) => {
  if (!result.ok) throw new Error(`refused: ${result.refusal.message}`);
  return result;
};
const mailTo = (person: string, effects: readonly Effect[]): string =>
  effects.flatMap(e => (e.kind === 'mail' && e.to === person ? [e.body] : [])).join();
const refusal = (result: Result) => {
  if (result.ok) throw new Error('was not refused');
  return result.refusal;
};
const asked = (context?: Context) => done(ask({ kind: 'annual', dates: week }, context));
const answer = (state: RequestState, outcome: string, note?: string, actor = 'tom', definition = annualLeave) =>
  handle(
    definition,
    state,
    { kind: 'answer', seen: state.version, task: state.tasks[0]?.id ?? '', outcome, note },
    contextFor(actor),
  );

describe('asking', () => {
  test('holds the leave, works the figures out and gives it to the line manager with a due time and reasons', () => {
    const { state, effects } = asked();
    expect(state).toMatchObject({
      status: 'open',
      at: ['manager'],
      figures: { days: 4.5, after: 26.5, others: 0 },
      leave: { state: 'held', type: 'annual' },
    });
    expect(state.tasks).toMatchObject([{ holder: 'tom', due: '2026-02-04T17:00:00Z' }]);
    expect(state.tasks[0].reasons.map(r => told(r)).join(' ')).toContain('Tom Lund is Observatory lead');
    expect(effects.filter(e => e.kind === 'mail').map(e => e.to)).toEqual(['tom']);
    expect(effects.filter(e => e.kind === 'timer').map(e => e.what)).toEqual(['leave', 'limit', 'remind']);
  });

  test('a short span goes straight to booking and closing, and the asker is told', () => {
    const { state, effects, events } = done(ask({ kind: 'annual', dates: halves('2026-02-09', '2026-02-10') }));
    expect(state).toMatchObject({ status: 'closed', closing: 'approved', leave: { state: 'booked' } });
    expect(effects.filter(one => one.kind !== 'timer')).toMatchObject([
      { kind: 'mail', to: 'ina', subject: 'Approved: 2 days' },
    ]);
    expect(events.find(e => e.kind === 'chose')).toMatchObject({ row: 'short' });
  });

  test.each([
    ['an end before the start', { kind: 'annual', dates: halves('2026-02-13', '2026-02-09') }, 'dates'],
    ['more than the balance', { kind: 'annual', dates: halves('2026-02-09', '2026-04-30') }, 'dates'],
    ['no dates', { kind: 'annual' }, 'dates'],
    ['an unknown kind', { kind: 'moon', dates: week }, 'kind'],
    ['a field that is not there', { kind: 'annual', dates: week, salary: '1' }, 'salary'],
    ['dates that are no dates', { kind: 'annual', dates: 'soon' }, 'dates'],
  ])('%s is refused at its field and nothing happens', (_, answers, field) => {
    const refused = refusal(ask(answers));
    expect(refused.code).toBe('bad answers');
    expect(refused.faults?.map(f => f.field)).toContain(field);
  });

  test('an overlap with own leave is refused, naming the other request', () => {
    const context = contextFor('ina', { book: bookOf([entry({ request: 'R-7', span: week })]) });
    expect(refusal(ask({ kind: 'annual', dates: week }, context)).message).toContain('R-7');
  });

  test('with no manager to be found the request is stuck with its reason, and can be tried again', () => {
    const first = done(ask({ kind: 'annual', dates: week }, contextFor('con')));
    expect(first.state).toMatchObject({ status: 'stuck', at: ['manager'] });
    expect(told(first.state.stuck)).toContain('holds no post');
    const mended = withDirectory({
      holdings: [{ person: person('con'), post: 'observer-1', from: date('2020-01-01'), to: null, main: true }],
    });
    const posts = contextFor('dora', { index: mended, book: bookOf([], { index: mended }) });
    const again = done(handle(annualLeave, first.state, { kind: 'try again', seen: first.state.version }, posts));
    expect(again.state.status).toBe('stuck');
    expect(told(again.state.stuck)).not.toContain('holds no post');
  });

  test('a formula without a value stops the step; nothing is guessed', () => {
    const definition: Definition = {
      ...annualLeave,
      figures: [{ id: 'days', name: 'Days', formula: 'leave days(Dates) / 0', unit: 'days' }],
      steps: annualLeave.steps.map(s =>
        s.verb === 'Choose' ? { ...s, rows: [{ ...s.rows[0], condition: 'Days <= 2' }] } : s,
      ),
    };
    const { state } = done(ask({ kind: 'annual', dates: week }, contextFor('ina'), definition));
    expect(told(state.stuck)).toContain('Days is not known');
  });
});

describe('deciding', () => {
  test('approving books the leave and closes', () => {
    const { state, events } = done(answer(asked().state, 'approve'));
    expect(state).toMatchObject({ status: 'closed', closing: 'approved', leave: { state: 'booked' }, tasks: [] });
    expect(events.map(e => e.kind)).toEqual(
      expect.arrayContaining(['answered', 'skipped', 'booked', 'closed', 'told']),
    );
  });

  test('declining needs a note, gives the held leave back and closes', () => {
    const { state } = asked();
    expect(refusal(answer(state, 'decline', '  ')).code).toBe('note needed');
    expect(done(answer(state, 'decline', 'the gauge is serviced')).state).toMatchObject({
      status: 'closed',
      closing: 'declined',
      leave: null,
    });
  });

  test('someone else, an unknown outcome, an old version and a closed request are refused', () => {
    const { state } = asked();
    expect(refusal(answer(state, 'approve', undefined, 'per')).code).toBe('not yours');
    expect(refusal(answer(state, 'approve', undefined, 'ina')).code).toBe('not yours');
    expect(refusal(answer(state, 'shrug')).code).toBe('no such outcome');
    const stale: Command = { kind: 'answer', seen: state.version - 1, task: state.tasks[0].id, outcome: 'approve' };
    expect(refusal(handle(annualLeave, state, stale, contextFor('tom'))).code).toBe('stale');
    const closed = done(answer(state, 'approve')).state;
    expect(refusal(answer(closed, 'approve')).message).toContain('already closed: Approved');
  });
});

describe('rework', () => {
  const sentBack = () => done(answer(asked().state, 'back', 'The gauge service is on the 12th.')).state;
  const resubmit = (state: RequestState, answers: Record<string, unknown>, actor = 'ina') =>
    handle(annualLeave, state, { kind: 'resubmit', seen: state.version, answers }, contextFor(actor));

  test('only the named fields may be changed, by the asker alone; the change is kept old and new', () => {
    const state = sentBack();
    expect(state).toMatchObject({ status: 'rework', returned: { fields: ['dates'], resume: 'choose' }, tasks: [] });
    expect(refusal(resubmit(state, { kind: 'sick', dates: week })).faults).toMatchObject([{ field: 'kind' }]);
    expect(refusal(resubmit(state, { kind: 'annual', dates: week }, 'tom')).code).toBe('not yours');
    const shorter = halves('2026-02-09', '2026-02-11');
    const after = done(resubmit(state, { kind: 'annual', dates: shorter })).state;
    expect(after).toMatchObject({ status: 'open', at: ['manager'], figures: { days: 3 } });
    expect(after.changes).toEqual([{ field: 'dates', before: week, after: shorter }]);
    expect(after.leave?.span).toEqual(shorter);
  });

  test('after the most rounds allowed it may not be sent back again', () => {
    let { state } = asked();
    for (let round = 0; round < 3; round++) {
      state = done(answer(state, 'back', 'again')).state;
      state = done(resubmit(state, { kind: 'annual', dates: week })).state;
    }
    expect(refusal(answer(state, 'back', 'again')).code).toBe('too many rounds');
    // Whoever answers by mail is not offered it either.
    const resent = done(resubmit(done(answer(asked().state, 'back', 'once')).state, { kind: 'annual', dates: week }));
    expect(mailTo('tom', resent.effects)).toContain('“Approve”, “Send back” or “Decline”');
    const steps = annualLeave.steps.map(s =>
      s.verb === 'Decide'
        ? {
            ...s,
            outcomes: s.outcomes.map(o => (o.leads.to === 'rework' ? { ...o, leads: { ...o.leads, atMost: 1 } } : o)),
          }
        : s,
    );
    const once = { ...annualLeave, steps };
    const sent = done(
      answer(done(ask({ kind: 'annual', dates: week }, undefined, once)).state, 'back', 'once', 'tom', once),
    );
    const command: Command = { kind: 'resubmit', seen: sent.state.version, answers: { kind: 'annual', dates: week } };
    expect(mailTo('tom', done(handle(once, sent.state, command, contextFor('ina'))).effects)).toContain(
      '“Approve” or “Decline”',
    );
  });
});

describe('limits and reminders', () => {
  const tick = (
    state: RequestState,
    what: TimerCommand['what'],
    task = state.tasks[0]?.id ?? 'gone',
    now = '2026-02-04T17:00:00Z',
  ) => done(handle(annualLeave, state, { kind: 'timer', task, what }, contextFor(null, { now: instant(now) })));

  test('a reminder says what the first mail said, and none comes as the limit passes', () => {
    const first = tick(asked().state, 'remind');
    // The second would come in the moment in which the limit passes: it would remind nobody, and is not set.
    expect(first.effects).toMatchObject([{ kind: 'mail', to: 'tom', task: 'R-1.1' }]);
    const [mail] = first.effects as { body: string }[];
    expect(mail?.body).toContain('Dates: ');
    expect(mail?.body).toContain('You can answer by replying');
    expect(tick(first.state, 'remind').effects).toEqual([]);
    expect(tick(first.state, 'remind', 'R-1.1', '2026-02-05T17:00:00Z').effects).toEqual([]);
  });

  test('at the limit it is passed to the manager above, and the one who had it is told', () => {
    const passed = tick(asked().state, 'limit');
    expect(passed.state.tasks).toMatchObject([{ holder: 'dora' }]);
    expect(passed.effects.filter(e => e.kind === 'mail').map(e => e.to)).toEqual(['tom', 'dora', 'ina']);
  });

  test('the manager above who is covered is stood in for, but not by whoever let the limit pass', () => {
    const covered = (by: string) =>
      withDirectory({
        covers: [{ person: person('dora'), by: person(by), from: date('2026-02-01'), to: date('2026-02-27') }],
      });
    const passedWith = (by: string) => {
      const context = contextFor(null, { index: covered(by), now: instant('2026-02-05T17:00:00Z') });
      return done(handle(annualLeave, asked().state, { kind: 'timer', task: 'R-1.1', what: 'limit' }, context)).state
        .tasks;
    };
    expect(passedWith('kay')).toMatchObject([{ holder: 'kay', coverFor: 'dora' }]);
    expect(
      passedWith('kay')[0]
        .reasons.map(r => told(r))
        .join(' '),
    ).toContain('Kay Voss covers for Dora Quill');
    expect(passedWith('tom')).toMatchObject([{ holder: 'dora', coverFor: null }]);
    // The asker does not decide their own request as somebody’s cover either.
    expect(passedWith('ina')).toMatchObject([{ holder: 'dora', coverFor: null }]);
  });

  test('a timer that comes too late does nothing', () => {
    const closed = done(answer(asked().state, 'approve')).state;
    expect(tick(closed, 'limit', 'R-1.1')).toMatchObject({ events: [], effects: [] });
  });
});

describe('withdrawing', () => {
  test('gives the leave back and tells whoever had it', () => {
    const { state } = asked();
    const command: Command = { kind: 'withdraw', seen: state.version };
    expect(refusal(handle(annualLeave, state, command, contextFor('tom'))).code).toBe('not yours');
    const { state: after, effects } = done(handle(annualLeave, state, command, contextFor('ina')));
    expect(after).toMatchObject({ status: 'withdrawn', leave: null, tasks: [] });
    expect(effects.map(e => e.kind === 'mail' && e.to)).toEqual(['tom']);
  });
});

describe('laws', () => {
  const step = fc.record({
    actor: fc.constantFrom('ina', 'tom', 'dora', 'per'),
    what: fc.constantFrom('answer', 'resubmit', 'withdraw', 'remind', 'limit', 'try again', 'submit'),
    outcome: fc.constantFrom('approve', 'back', 'decline'),
    days: fc.integer({ min: 1, max: 14 }),
  });

  test('whatever people do, the state is the fold of the events, and an open request waits for somebody', () => {
    expect(findings(annualLeave).filter(f => f.level === 'stops')).toEqual([]);
    fc.assert(
      fc.property(fc.array(step, { maxLength: 15 }), steps => {
        let state = newRequest('R-1');
        const events: RequestEvent[] = [];
        for (const { actor, what, outcome, days } of [
          { actor: 'ina', what: 'submit', outcome: '', days: 9 },
          ...steps,
        ]) {
          const answers = {
            kind: 'annual',
            dates: halves('2026-03-02', `2026-03-${String(1 + days).padStart(2, '0')}`),
          };
          const task = state.tasks[0]?.id ?? 'none';
          const seen = state.version;
          const command: Command | TimerCommand =
            what === 'answer'
              ? { kind: 'answer', seen, task, outcome, note: 'so' }
              : what === 'submit' || what === 'resubmit'
                ? { kind: what, seen, answers }
                : what === 'remind' || what === 'limit'
                  ? { kind: 'timer', task, what }
                  : { kind: what as 'withdraw' | 'try again', seen };
          const result = handle(annualLeave, state, command, contextFor(actor));
          if (!result.ok) continue;
          state = result.state;
          events.push(...result.events);
          expect(fold('R-1', events)).toEqual(state);
          if (state.status === 'open') expect(state.tasks.length).toBeGreaterThan(0);
          if (!isOpen(state)) expect(state.tasks).toEqual([]);
          if (state.status === 'withdrawn' || state.closing === 'declined') expect(state.leave).toBeNull();
          if (state.closing === 'approved') expect(state.leave?.state).toBe('booked');
          expect(wholeTrail(annualLeave, events, contextFor(null)).length).toBeGreaterThan(0);
        }
      }),
      { numRuns: 400 },
    );
  });

  test('the same command twice on the new state is refused, so nothing happens twice', () => {
    const { state } = asked();
    const command: Command = { kind: 'answer', seen: state.version, task: state.tasks[0].id, outcome: 'approve' };
    const after = done(handle(annualLeave, state, command, contextFor('tom'))).state;
    expect(handle(annualLeave, after, command, contextFor('tom')).ok).toBe(false);
  });
});
