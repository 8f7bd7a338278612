import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { annualLeave, bookOf, contextFor, halves } from '../../testing/house.ts';
import {
  type Definition,
  findings,
  type Go,
  handle,
  idleCircles,
  isOpen,
  leadingOut,
  newRequest,
  reachable,
  type Step,
  stopsPublishing,
  waysFrom,
} from '../index.ts';

describe('ways through a workflow', () => {
  test('every way of a step is there, in the order in which it is written', () => {
    const ways = (id: string) => waysFrom(annualLeave, annualLeave.steps.find(s => s.id === id)!);
    expect(ways('choose').map(w => (w.to === 'step' ? w.step : w.to))).toEqual(['record', 'manager']);
    expect(ways('manager')).toMatchObject([
      { to: 'step', step: 'above', label: 'Approve' },
      { to: 'step', step: 'choose', kind: 'rework' },
      { to: 'close', closing: 'declined' },
    ]);
    expect(ways('above')[0]).toMatchObject({ to: 'step', step: 'record', kind: 'skip' });
    expect(ways('end')).toEqual([{ to: 'close', closing: 'approved', label: 'close' }]);
  });

  test('the sample is reached everywhere, leads out everywhere, and has no idle circle', () => {
    const ids = annualLeave.steps.map(s => s.id);
    expect([...reachable(annualLeave)].sort()).toEqual([...ids].sort());
    expect([...leadingOut(annualLeave)].sort()).toEqual([...ids].sort());
    expect(idleCircles(annualLeave).size).toBe(0);
  });
});

/** Workflows made at random from the verbs of this format: some sound, many not. */
const ids = ['b', 'c', 'd', 'e'];
const anyGo: fc.Arbitrary<Go> = fc.oneof(
  fc.constant<Go>({ to: 'next' }),
  fc.constantFrom(...ids).map(step => ({ to: 'step', step }) as Go),
  fc.constantFrom('approved', 'declined').map(closing => ({ to: 'close', closing }) as Go),
);
const anyCondition = fc.constantFrom(
  'Days > 2',
  'Others away = 0',
  'Days <= 5 and Others away < 3',
  'Kind = "Annual leave"',
);
const anyStep = (id: string): fc.Arbitrary<Step> =>
  fc.oneof(
    fc.tuple(anyCondition, anyGo, anyGo).map(
      ([condition, go, otherwise]): Step => ({
        verb: 'Choose',
        id,
        when: null,
        rows: [{ id: 'r', condition, go }],
        otherwise,
      }),
    ),
    fc.tuple(fc.option(anyCondition, { nil: null }), anyGo, anyGo, fc.integer({ min: 1, max: 2 })).map(
      ([when, yes, no, levels]): Step => ({
        verb: 'Decide',
        id,
        when,
        who: { first: { kind: 'manager', levels }, otherwise: [{ kind: 'role', role: 'HR partner' }] },
        whenAway: 'goes up',
        limit: { within: { workingDays: 1 }, remind: null, atLimit: 'pass up' },
        outcomes: [
          { id: 'yes', label: 'Yes', tone: 'good', note: 'none', leads: yes },
          { id: 'no', label: 'No', tone: 'bad', note: 'none', leads: no },
          {
            id: 'back',
            label: 'Back',
            tone: 'rework',
            note: 'none',
            leads: { to: 'rework', fields: ['dates'], resume: id, atMost: 2 },
          },
        ],
      }),
    ),
    fc.constant<Step>({ verb: 'Close', id, closing: 'approved' }),
    fc.constant<Step>({
      verb: 'Record',
      id,
      when: null,
      effect: { kind: 'book leave', span: 'dates', type: 'kind', planner: true },
    }),
  );
const anyDefinition: fc.Arbitrary<Definition> = fc
  .tuple(...ids.map(anyStep))
  .map(steps => ({ ...annualLeave, steps: [{ verb: 'Ask', id: 'ask' }, ...steps] as Step[] }));
const anyDeed = fc.record({
  actor: fc.constantFrom('ina', 'tom', 'dora'),
  what: fc.constantFrom('yes', 'no', 'back', 'resubmit', 'limit'),
});

describe('laws of running', () => {
  test('a workflow without stopping findings always waits for somebody or ends, and never throws', () => {
    let sound = 0;
    let tried = 0;
    fc.assert(
      fc.property(anyDefinition, fc.array(anyDeed, { maxLength: 12 }), (definition, deeds) => {
        tried++;
        if (stopsPublishing(findings(definition))) return;
        sound++;
        const answers = { kind: 'annual', dates: halves('2026-03-02', '2026-03-06') };
        let result = handle(definition, newRequest('R-1'), { kind: 'submit', answers }, contextFor('ina'));
        for (const { actor, what } of deeds) {
          if (!result.ok) throw new Error(result.refusal.message);
          const { state } = result;
          if (state.status === 'open') expect(state.tasks.length).toBeGreaterThan(0);
          if (state.status === 'closed') expect(definition.closings.some(c => c.id === state.closing)).toBe(true);
          if (!isOpen(state)) break;
          const task = state.tasks[0]?.id ?? 'none';
          const next =
            what === 'limit'
              ? handle(definition, state, { kind: 'timer', task, what }, contextFor(null))
              : what === 'resubmit'
                ? handle(definition, state, { kind: 'resubmit', seen: state.version, answers }, contextFor(actor))
                : handle(
                    definition,
                    state,
                    { kind: 'answer', seen: state.version, task, outcome: what },
                    contextFor(actor),
                  );
          if (next.ok) result = next;
        }
      }),
      { numRuns: 3000 },
    );
    // The law would be empty if hardly any of the workflows were sound.
    expect(sound / tried).toBeGreaterThan(0.03);
  });

  test('leave that is booked in the meantime is never booked over: the request is stuck and says why', () => {
    const answers = { kind: 'annual', dates: halves('2026-03-02', '2026-03-06') };
    const asked = handle(annualLeave, newRequest('R-1'), { kind: 'submit', answers }, contextFor('ina'));
    if (!asked.ok) throw new Error(asked.refusal.message);
    const { state } = asked;
    const taken = {
      request: 'R-9',
      person: state.asker!,
      type: 'annual',
      span: halves('2026-03-03', '2026-03-03'),
      state: 'booked' as const,
    };
    const context = contextFor('tom', { book: bookOf([taken]) });
    const command = { kind: 'answer', seen: state.version, task: state.tasks[0].id, outcome: 'approve' } as const;
    const approved = handle(annualLeave, state, command, context);
    if (!approved.ok) throw new Error(approved.refusal.message);
    expect(approved.state).toMatchObject({
      status: 'stuck',
      stuck: { code: 'leave cannot be booked', obstacle: { code: 'overlaps', request: 'R-9' } },
    });
    expect(approved.state.leave?.state).toBe('held');
  });
});
