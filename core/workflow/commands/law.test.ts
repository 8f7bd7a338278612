import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyAnswers, anyWorkflow } from '../../testing/anyWorkflow.ts';
import { bookOf, contextFor, date, index, instant, person } from '../../testing/house.ts';
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
  stepById,
  stopsPublishing,
  type TimerCommand,
  withPosts,
} from '../index.ts';

const around = { people: { index, days: [date('2026-02-02')] }, lists: withPosts(index) };

/** A request with its open timers, as the server keeps them. */
type Run = { state: RequestState; events: RequestEvent[]; timers: Extract<Effect, { kind: 'timer' }>[]; now: string };

const contextAt = (now: string, actor: string | null): Context =>
  contextFor(actor, { now: instant(now), book: bookOf([], { today: date(now.slice(0, 10)) }) });

function carryOut(
  definition: Definition,
  run: Run,
  command: Parameters<typeof handle>[2],
  actor: string | null,
): boolean {
  const result = handle(definition, run.state, command, contextAt(run.now, actor));
  if (!result.ok) return false;
  run.state = result.state;
  run.events.push(...result.events);
  run.timers.push(...result.effects.flatMap(e => (e.kind === 'timer' ? [e] : [])));
  return true;
}

const answers = { paper: { file: { id: 'f', name: 'signed.pdf', size: 1, type: 'application/pdf' }, expires: null } };

/** Every command that somebody may sensibly give now. */
function choices(
  definition: Definition,
  run: Run,
): { command: Command | TimerCommand; actor: string | null; at?: string }[] {
  const { state } = run;
  const seen = state.version;
  const found: { command: Command | TimerCommand; actor: string | null; at?: string }[] = [];
  const until = date(new Date(Date.parse(run.now) + 3 * 86_400_000).toISOString().slice(0, 10));
  for (const task of state.tasks) {
    const own = { seen, task: task.id };
    found.push(
      { command: { kind: 'ask', ...own, question: 'Which?' }, actor: task.holder },
      { command: { kind: 'reply', ...own, reply: 'That.' }, actor: state.asker },
      { command: { kind: 'hand over', ...own, to: { person: person('kay') }, note: 'yours' }, actor: task.holder },
      { command: { kind: 'set aside', ...own, until, to: { person: person('per') } }, actor: task.holder },
      { command: { kind: 'set aside', ...own, until }, actor: task.holder },
      { command: { kind: 'bring back', ...own }, actor: task.holder },
    );
    const step = stepById(definition, task.step);
    if (step?.verb === 'Decide') {
      for (const outcome of step.outcomes)
        found.push({
          command: { kind: 'answer', seen, task: task.id, outcome: outcome.id, note: 'so' },
          actor: task.holder,
        });
    }
    if (step?.verb === 'Do') {
      const ticked = (step.checklist ?? []).map(c => c.id);
      found.push({
        command: { kind: 'complete', seen, task: task.id, ticked, answers: {}, note: null },
        actor: task.holder,
      });
      found.push({ command: { kind: 'could not', seen, task: task.id, note: 'no keys' }, actor: task.holder });
      found.push({
        command: { kind: task.pool === 'free' ? 'take' : 'put back', seen, task: task.id },
        actor: task.holder,
      });
    }
  }
  if (state.returned) found.push({ command: { kind: 'resubmit', seen, answers: {} }, actor: state.returned.to });
  for (const hold of state.holds)
    found.push({ command: { kind: 'hand in', seen, step: hold.step, answers }, actor: state.asker });
  for (const { step } of state.stuckAt) {
    found.push({ command: { kind: 'try again', seen }, actor: 'dora' });
    found.push({ command: { kind: 'appoint', seen, step, to: person('kay') }, actor: 'dora' });
  }
  for (const timer of run.timers)
    found.push({ command: { kind: 'timer', task: timer.task, what: timer.what }, actor: null, at: timer.at });
  return found;
}

/** What a request that is open must be waiting for: a person, a date, a document, or HR operations. */
const waitsForSomething = (state: RequestState): boolean =>
  state.tasks.length > 0 || state.returned !== null || state.holds.length > 0 || state.stuckAt.length > 0;

const play = (definition: Definition, given: Record<string, unknown>, picks: number[]): Run => {
  const run: Run = { state: newRequest('R-1'), events: [], timers: [], now: '2026-02-02T10:00:00Z' };
  if (!carryOut(definition, run, { kind: 'submit', answers: given }, 'ina')) return run;
  for (const pick of picks) {
    const all = choices(definition, run);
    if (!isOpen(run.state) || all.length === 0) break;
    const chosen = all[pick % all.length];
    if (chosen.at && chosen.at > run.now) run.now = chosen.at;
    if (chosen.command.kind === 'timer')
      run.timers = run.timers.filter(t => t.task !== (chosen.command as TimerCommand).task || t.at !== chosen.at);
    carryOut(definition, run, chosen.command, chosen.actor);
  }
  return run;
};

describe('the law of publishing', () => {
  test('what no finding stops always reaches a closing or waits for somebody, never throws and never loops by itself', () => {
    let published = 0;
    let tried = 0;
    fc.assert(
      fc.property(anyWorkflow, anyAnswers, fc.array(fc.nat(), { maxLength: 25 }), (definition, given, picks) => {
        tried++;
        if (stopsPublishing(findings(definition, around))) return;
        published++;
        const { state, events } = play(definition, given, picks);
        if (state.status === 'new') return;
        expect(fold('R-1', events)).toEqual(state);
        if (isOpen(state)) expect(waitsForSomething(state)).toBe(true);
        else expect([state.tasks, state.holds, state.at]).toEqual([[], [], []]);
        const codes = state.stuckAt.map(s => s.reason.code);
        for (const code of ['round in a circle', 'no further step']) expect(codes).not.toContain(code);
      }),
      { numRuns: 4000 },
    );
    // The law would be empty if hardly any were published.
    expect(published / tried).toBeGreaterThan(0.06);
  }, 120_000);

  test('whatever a definition is, running it never throws, and the state is the fold of the events', () => {
    fc.assert(
      fc.property(anyWorkflow, anyAnswers, fc.array(fc.nat(), { maxLength: 12 }), (definition, given, picks) => {
        const { state, events } = play(definition, given, picks);
        expect(fold('R-1', events)).toEqual(state);
        if (isOpen(state)) expect(waitsForSomething(state)).toBe(true);
      }),
      { numRuns: 1500 },
    );
  }, 120_000);

  test('nobody ever decides a request of their own', () => {
    fc.assert(
      fc.property(anyWorkflow, anyAnswers, (definition, given) => {
        const { state } = play(definition, given, []);
        for (const task of state.tasks) {
          if (stepById(definition, task.step)?.verb === 'Decide') expect(task.holder).not.toBe(person('ina'));
        }
      }),
      { numRuns: 500 },
    );
  });
});
