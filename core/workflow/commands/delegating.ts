/** Passing a task on: handed over for good, set aside until a day, lent to somebody until then, or given to somebody named. */

import { type Holder, isEmployed, isTheirOwn, mayHold, type PeopleRule, type PersonId } from '../../people/index.ts';
import { fullDate, toDay } from '../../time/index.ts';
import type { Definition, PersonStep } from '../definition/definition.ts';
import { assignTo, find, mayBeAsker, meantOf, personStep, questionOf, tellAsker } from '../execution/assigning.ts';
import type { Execution } from '../execution/execution.ts';
import { openOutcomes } from '../execution/voting.ts';
import { peopleWords } from '../language/ruleWords.ts';
import { type Command, type Result, refuse, type ToWhom } from '../request/command.ts';
import { type Context, morningBefore, todayOf } from '../request/context.ts';
import type { RequestState, Task } from '../request/state.ts';
import { heldTask } from './answering.ts';
import { executionOf } from './executionOf.ts';

type Delegated = { task: Task; step: PersonStep; execution: Execution } | { refused: Result };

function delegated(definition: Definition, state: RequestState, id: string, context: Context): Delegated {
  const found = heldTask(definition, state, id, context);
  if ('refused' in found) return found;
  const { task } = found;
  const execution = executionOf(definition, state, context);
  const step = personStep(execution, task.step);
  if (!step) throw new Error(`task ${id} stands at a step that nobody holds`);
  if (task.pool === 'free') return { refused: refuse('not open', 'Take it first, then pass it on.') };
  return { task, step, execution };
}

type FoundOrGap = { found: readonly Holder[] } | { gap: string };

/** Somebody named, or whoever covers for them: never the asker where something is decided, nobody who has left. */
function named(execution: Execution, step: PersonStep, id: PersonId): FoundOrGap {
  const { state, context } = execution;
  if (!mayBeAsker(step) && !state.outside && isTheirOwn(state, id)) {
    return { gap: 'Nobody decides their own request.' };
  }
  const person = context.index.person(id);
  if (!person || !isEmployed(person, todayOf(context, id))) {
    return { gap: `${person?.name ?? 'Nobody of that name'} does not work here now.` };
  }
  const barred = mayNotHold(execution, step, id);
  if (barred) return { gap: barred };
  return ruled(execution, step, { kind: 'person', person: id });
}

/** Why somebody may not have a step, by its own rule; nothing when they may, or when it may go to anybody. */
function mayNotHold(execution: Execution, step: PersonStep, id: PersonId): string | undefined {
  if (step.handTo === 'anybody' || mayHold(step.who, questionOf(execution, step), id)) return undefined;
  return `${execution.who(id)} may not have this step: it is for ${peopleWords(step.who, execution.context.index, execution.definition)}. Choose one of them, or let HR operations open the step to others.`;
}

function ruled(execution: Execution, step: PersonStep, first: PeopleRule['first']): FoundOrGap {
  const found = find(execution, step, { first, otherwise: [] });
  if (!found.ok) return { gap: execution.words(found.gap) };
  // Whoever covers for them, or holds that role, must be among those who may have it too.
  const able = found.holders.filter(h => mayNotHold(execution, step, h.person) === undefined || h.coverFor !== null);
  if (able.length > 0) return { found: able };
  return { gap: mayNotHold(execution, step, found.holders[0].person) ?? 'Nobody of them may have this step.' };
}

/** Who would have a task instead of its holder: nobody who has a voice at this step already. */
function others(execution: Execution, step: PersonStep, task: Task, to: ToWhom): FoundOrGap {
  const { state, context } = execution;
  const wanted =
    'person' in to ? named(execution, step, to.person) : ruled(execution, step, { kind: 'role', role: to.role });
  if ('gap' in wanted) return wanted;
  const voices = new Set([
    ...(state.votes[step.id] ?? []).map(v => v.person),
    ...state.tasks.filter(t => t.step === step.id && t.id !== task.id).map(t => t.holder),
    task.holder,
  ]);
  const fresh = wanted.found.filter(h => !voices.has(h.person));
  if (fresh.length === 0) {
    const [one] = wanted.found;
    return {
      gap: one.person === context.actor ? 'That is you.' : `${execution.who(one.person)} is asked here already.`,
    };
  }
  if (fresh.length > 1 && (step.verb === 'Decide' ? step.count !== undefined : !step.pool)) {
    return { gap: `Here one voice goes to one person, and ${fresh.length} hold that role. Name one of them.` };
  }
  return { found: fresh };
}

/** What a task takes over from the one before it. */
const carried = (task: Task) => ({
  due: task.due,
  meantFor: meantOf(task),
  ...(task.had ? { had: task.had } : {}),
  ...(task.rest ? { rest: task.rest } : {}),
});

export function handOver(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'hand over' }>,
  context: Context,
): Result {
  const start = delegated(definition, state, command.task, context);
  if ('refused' in start) return start.refused;
  const { task, step, execution } = start;
  const to = others(execution, step, task, command.to);
  if ('gap' in to) return refuse('bad answers', to.gap, [{ field: 'to', message: to.gap }]);
  const people = to.found.map(h => h.person);
  execution.emit({
    kind: 'handed over',
    step: step.id,
    task: task.id,
    to: people,
    ...('role' in command.to ? { role: command.to.role } : {}),
    note: command.note,
  });
  const reason = { code: 'handed over', by: context.actor } as const;
  for (const holder of to.found) assignTo(execution, step, holder, [reason], { ...carried(task), note: command.note });
  tellAsker(execution, `${execution.who(context.actor)} has handed it over to ${names(execution, people)}.`);
  return { ok: true, ...execution.outcome() };
}

export function setAside(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'set aside' }>,
  context: Context,
): Result {
  const start = delegated(definition, state, command.task, context);
  if ('refused' in start) return start.refused;
  const { task, step, execution } = start;
  const { until } = command;
  if (toDay(until) <= toDay(todayOf(context, task.holder))) {
    return refuse('bad answers', 'Set it aside until a day to come.', [
      { field: 'until', message: 'Choose a day after today.' },
    ]);
  }
  const back = morningBefore(context, task.holder, until, 0, undefined);
  if (!back) return refuse('bad answers', 'That day is not in the calendar of the holder.');
  const note = command.note?.trim() || null;
  const wanted = command.to ? others(execution, step, task, command.to) : null;
  if (wanted && 'gap' in wanted) return refuse('bad answers', wanted.gap, [{ field: 'to', message: wanted.gap }]);
  const lent = wanted?.found ?? [];
  execution.emit({
    kind: 'set aside',
    step: step.id,
    task: task.id,
    until,
    back,
    ...(lent.length > 0 ? { to: lent.map(h => h.person) } : {}),
    ...(command.to && 'role' in command.to ? { role: command.to.role } : {}),
    note,
  });
  const timer = (id: string) => execution.timer(id, 'aside', back);
  if (lent.length === 0) timer(task.id);
  for (const holder of lent) {
    const reason = { code: 'lent', by: context.actor, until } as const;
    assignTo(execution, step, holder, [reason], { ...carried(task), lentBy: task.holder, note });
    timer(execution.state.tasks[execution.state.tasks.length - 1].id);
  }
  const where =
    lent.length > 0
      ? ` and given it to ${names(
          execution,
          lent.map(h => h.person),
        )} meanwhile`
      : '';
  tellAsker(execution, `${execution.who(context.actor)} has set it aside until ${fullDate(until)}${where}.`);
  return { ok: true, ...execution.outcome() };
}

/** Before its day: back on the desk, or back to whoever lent it. */
export function bringBack(definition: Definition, state: RequestState, id: string, context: Context): Result {
  const start = delegated(definition, state, id, context);
  if ('refused' in start) return start.refused;
  if (!start.task.aside && !start.task.lentBy) return refuse('not open', 'This is on the desk already.');
  comeBack(start.execution, start.task);
  return { ok: true, ...start.execution.outcome() };
}

/** The day of something set aside has come, or somebody did not want to wait for it. */
export function comeBack(execution: Execution, task: Task): void {
  const step = personStep(execution, task.step);
  if (!step || (!task.aside && !task.lentBy)) return;
  execution.emit({ kind: 'brought back', step: step.id, task: task.id });
  if (!task.lentBy) return;
  // Lent to several, it comes back once.
  for (const other of execution.state.tasks) {
    if (other.step !== step.id || other.lentBy !== task.lentBy) continue;
    execution.emit({ kind: 'brought back', step: step.id, task: other.id });
  }
  const reason = { code: 'back again', from: task.holder, at: execution.context.now } as const;
  assignTo(execution, step, { person: task.lentBy, coverFor: null }, [reason], carried(task));
}

/** HR operations name who is to do a step for which nobody is found, or instead of somebody who cannot. */
export function appoint(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'appoint' }>,
  context: Context,
): Result {
  const execution = executionOf(definition, state, context);
  const step = personStep(execution, command.step);
  const before = state.tasks.find(t => t.id === command.task && t.step === command.step);
  if (!step || (!before && !state.stuckAt.some(s => s.step === command.step))) {
    return refuse('not open', 'This step does not wait for somebody to be named.');
  }
  if (step.verb === 'Decide' && openOutcomes(step, state).length === 0)
    return refuse('not open', execution.words({ code: 'every outcome spent' }));
  // Where somebody has it already, whoever takes it over must not have a voice here yet.
  const to = before ? others(execution, step, before, { person: command.to }) : named(execution, step, command.to);
  if ('gap' in to) return refuse('bad answers', to.gap, [{ field: 'to', message: to.gap }]);
  const note = command.note?.trim() || null;
  execution.emit({ kind: 'appointed', step: step.id, to: command.to, note });
  if (before) {
    execution.emit({
      kind: 'ended',
      task: before.id,
      reason: { code: 'given to somebody else', by: context.actor },
    });
  }
  const assignment = before?.rest
    ? { rest: before.rest }
    : !before && step.verb === 'Decide' && step.count
      ? { of: 1 }
      : {};
  for (const holder of to.found) {
    assignTo(execution, step, holder, [{ code: 'named by', by: context.actor }], { ...assignment, note });
  }
  return { ok: true, ...execution.outcome() };
}

const names = (execution: Execution, people: readonly PersonId[]): string =>
  people.map(p => execution.who(p)).join(', ');
