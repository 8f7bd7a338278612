/** Answering what waits for one: deciding, taking from a pool and putting back, doing, and saying that it could not be done. */

import { type FieldFault, isEmptyAnswer, mayChange } from '../../form/index.ts';
import { coverOn, isTheirOwn, mayCoverFor, type PersonId } from '../../people/index.ts';
import { type Definition, fieldById, type StepOf } from '../definition/definition.ts';
import { isGuestStep } from '../definition/guests.ts';
import { allSteps, stepById } from '../definition/structure.ts';
import { allDone, countAnswer, offerAgain } from '../execution/assigning.ts';
import { missingFrom } from '../execution/inviting.ts';
import { openOutcomes } from '../execution/voting.ts';
import { type FilledIn, fillIn, levelAt } from '../figures/filling.ts';
import { type Command, type Result, refuse, refuseAnswers } from '../request/command.ts';
import { type Context, factsOf, houseListsOf, nameOf, todayOf } from '../request/context.ts';
import type { Filled } from '../request/events.ts';
import type { RequestState, Task } from '../request/state.ts';
import { leaveFaults } from './asking.ts';
import { consentsNow } from './consents.ts';
import { executionOf } from './executionOf.ts';

type Held = Pick<Task, 'step' | 'holder' | 'coverFor'>;
type Around = Pick<Context, 'index' | 'now' | 'workflow'>;

/**
 * Whether somebody covers for the holder now, so that what was given before the cover began is theirs too; not what only
 * those of a group may have.
 */
function covers(
  definition: Definition,
  task: Held,
  person: PersonId,
  { index, now, workflow }: Around,
  { asker, subject, outside }: Pick<RequestState, 'asker' | 'subject' | 'outside'>,
): boolean {
  const day = todayOf({ index, now }, task.holder);
  if (coverOn({ index, workflow, day }, task.holder)?.by !== person) return false;
  const step = stepById(definition, task.step);
  if (!asker || (step?.verb !== 'Decide' && step?.verb !== 'Do') || step.handTo) return true;
  const q = {
    index,
    day,
    asker,
    ...(subject ? { subject } : {}),
    away: [],
    mayBeAsker: outside !== undefined,
    whenAway: step.whenAway,
  };
  return mayCoverFor(step.who, q, person);
}

/** A task is its holder’s, that of the person for whom the holder stands in, and that of whoever covers for the holder. */
export const isHeldBy = (
  definition: Definition,
  task: Held,
  person: PersonId | null,
  context: Around,
  state: Pick<RequestState, 'asker' | 'subject' | 'outside'>,
): boolean =>
  person !== null &&
  (task.holder === person ||
    task.coverFor === person ||
    // Nobody decides their own request, not as a cover either.
    ((state.outside !== undefined || !isTheirOwn(state, person)) && covers(definition, task, person, context, state)));

/** For whom somebody answers: nobody else when the one who was stood in for answers after all. */
const coverOf = (task: Task, actor: PersonId | null): PersonId | null =>
  task.holder === actor ? task.coverFor : task.coverFor === actor ? null : task.holder;

/** A task by its id, when it is there and waits for whoever acts. */
export function heldTask(
  definition: Definition,
  state: RequestState,
  id: string,
  context: Context,
): { task: Task } | { refused: Result } {
  const task = state.tasks.find(t => t.id === id);
  if (!task) return { refused: refuse('not open', 'This is not waiting for anybody’s answer any more.') };
  if (!isHeldBy(definition, task, context.actor, context, state)) {
    return { refused: refuse('not yours', `This waits for ${nameOf(context.index, task.holder)}, not for you.`) };
  }
  return { task };
}

/** The same with its step, when that has the verb of the command. */
function taskFor<V extends 'Decide' | 'Do'>(
  definition: Definition,
  state: RequestState,
  id: string,
  context: Context,
  verb: V,
): { task: Task; step: StepOf<V> } | { refused: Result } {
  const found = heldTask(definition, state, id, context);
  if ('refused' in found) return found;
  const step = stepById(definition, found.task.step);
  if (step?.verb === verb) return { task: found.task, step: step as StepOf<V> };
  return { refused: refuse('not open', 'This is not waiting for anybody’s answer any more.') };
}

export const filledOf = ({ answers: given, figures, changes }: FilledIn): Filled => ({
  answers: given,
  figures,
  changes,
});

/** What a holder filled in at their step. */
export function fillAt(definition: Definition, state: RequestState, step: string, input: unknown, context: Context) {
  const facts = factsOf(context, state.asker!, state.subject, state.request);
  const stamped = consentsNow(definition, input, state.answers, context.now);
  return fillIn(definition, step, state.answers, stamped, facts, houseListsOf(context));
}

/** Whether a form that is left as it is may still lack something at a step: working that out is dear, and most lack nothing. */
const mayLack = (definition: Definition, step: string): boolean =>
  definition.form.fields.some(field => {
    const level = levelAt(definition, step, field);
    return level === 'required' || (mayChange(level) && Boolean(field.neededWhen || field.checks?.length));
  });

/** Whether what a holder filled in makes other leave of it: another kind, or other days. */
const changesLeave = (definition: Definition, { changes }: Pick<Filled, 'changes'>): boolean =>
  allSteps(definition).some(
    step =>
      step.verb === 'Record' &&
      step.effect.kind === 'book leave' &&
      changes.some(
        ({ field }) => step.effect.kind === 'book leave' && [step.effect.span, step.effect.type].includes(field),
      ),
  );

/** Why leave may not be granted as a holder changed it: what its balance does not bear, what overlaps other leave. */
function leaveGranted(definition: Definition, state: RequestState, filled: FilledIn, context: Context): FieldFault[] {
  if (!state.leave || !changesLeave(definition, filled)) return [];
  const subject = state.subject ?? state.asker;
  return subject ? leaveFaults(definition, filled.answers, context, subject, state.request, state.answers) : [];
}

export function answer(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'answer' }>,
  context: Context,
): Result {
  const found = taskFor(definition, state, command.task, context, 'Decide');
  if ('refused' in found) return found.refused;
  const { task, step } = found;
  const outcome = step.outcomes.find(o => o.id === command.outcome);
  const open = openOutcomes(step, state);
  if (!outcome) return refuse('no such outcome', `Choose one of: ${open.map(o => o.label).join(', ')}.`);
  if (!open.includes(outcome)) {
    return refuse('too many rounds', `“${outcome.label}” was chosen as often as it may be. Choose another answer.`);
  }
  const words = command.note?.trim() || null;
  if (outcome.note === 'must' && !words) {
    return refuse('note needed', `“${outcome.label}” needs a note.`, [
      { field: 'note', message: 'Write a short note.' },
    ]);
  }
  if (outcome.leads.to === 'rework' && state.returned) {
    return refuse('not open', 'It is being reworked already; wait until it is back.');
  }
  // What an outcome does not need is not asked for when it sends the request back or declines it.
  let filled: Filled | undefined;
  const given = Object.keys(command.answers ?? {}).length > 0;
  if (given || outcome.needs || (outcome.tone === 'good' && mayLack(definition, step.id))) {
    const read = fillAt(definition, state, step.id, command.answers ?? {}, context);
    const faults = read.ok
      ? []
      : outcome.tone === 'good'
        ? read.faults
        : read.faults.filter(f => f.field in (command.answers ?? {}));
    for (const id of outcome.needs ?? []) {
      if (!isEmptyAnswer(read.filled.answers[id]) || faults.some(f => f.field === id)) continue;
      faults.push({ field: id, message: `“${outcome.label}” needs ${fieldById(definition, id)?.label ?? id}.` });
    }
    faults.push(...leaveGranted(definition, state, read.filled, context));
    if (faults.length > 0) return refuseAnswers(faults);
    if (read.filled.changes.length > 0) filled = filledOf(read.filled);
  }
  const execution = executionOf(definition, state, context);
  execution.note = words;
  execution.emit({
    kind: 'answered',
    step: step.id,
    task: task.id,
    outcome: outcome.id,
    note: words,
    coverFor: coverOf(task, context.actor),
    ...(filled ? { filled } : {}),
  });
  // What was held goes along: granted as another kind or for other days, it is the balance of these that holds it.
  if (filled && changesLeave(definition, filled)) execution.hold();
  countAnswer(execution, step, task);
  return { ok: true, ...execution.outcome() };
}

export function take(definition: Definition, state: RequestState, id: string, context: Context): Result {
  const found = taskFor(definition, state, id, context, 'Do');
  if ('refused' in found) return found.refused;
  const { task, step } = found;
  if (task.pool !== 'free') return refuse('not open', 'This is yours already.');
  const execution = executionOf(definition, state, context);
  execution.emit({ kind: 'taken', step: step.id, task: task.id });
  for (const other of state.tasks) {
    if (other.step !== step.id || other.id === task.id) continue;
    execution.emit({ kind: 'ended', task: other.id, reason: { code: 'taken by', by: context.actor } });
  }
  return { ok: true, ...execution.outcome() };
}

export function putBack(definition: Definition, state: RequestState, id: string, context: Context): Result {
  const found = taskFor(definition, state, id, context, 'Do');
  if ('refused' in found) return found.refused;
  if (found.task.pool !== 'taken') return refuse('not open', 'Only what was taken from a pool can be put back.');
  const execution = executionOf(definition, state, context);
  execution.emit({ kind: 'put back', step: found.step.id, task: id });
  offerAgain(execution, found.step);
  return { ok: true, ...execution.outcome() };
}

export function complete(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'complete' }>,
  context: Context,
): Result {
  const found = taskFor(definition, state, command.task, context, 'Do');
  if ('refused' in found) return found.refused;
  const { task, step } = found;
  const missing = (step.checklist ?? []).filter(item => !command.ticked.includes(item.id));
  if (missing.length > 0) {
    const open = missing.map(item => item.label).join(', ');
    return refuse('not ticked', `Still open on the checklist: ${open}.`, [
      { field: 'checklist', message: `Still open: ${open}.` },
    ]);
  }
  const read = fillAt(definition, state, step.id, command.answers, context);
  const granted = leaveGranted(definition, state, read.filled, context);
  if (!read.ok || granted.length > 0) return refuseAnswers([...(read.ok ? [] : read.faults), ...granted]);
  const execution = executionOf(definition, state, context);
  if (isGuestStep(step)) {
    const guests = state.guests?.[step.id];
    if (guests && command.seen < guests.changed)
      return refuse('stale', 'Something was handed in since. Look at it as it is now.');
    const open = missingFrom(execution, step);
    if (open.length > 0) return refuse('not ticked', `Not handed in yet: ${open.join(', ')}.`);
  }
  execution.emit({
    kind: 'done',
    step: step.id,
    task: task.id,
    ticked: command.ticked,
    filled: filledOf(read.filled),
    note: command.note?.trim() || null,
  });
  if (changesLeave(definition, read.filled)) execution.hold();
  if (step.pool) execution.endTasks({ code: 'done by', by: context.actor }, [step.id]);
  if (allDone(execution, step)) execution.goOn({ to: 'next' }, step.id);
  return { ok: true, ...execution.outcome() };
}

export function couldNot(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'could not' }>,
  context: Context,
): Result {
  const found = taskFor(definition, state, command.task, context, 'Do');
  if ('refused' in found) return found.refused;
  const { task, step } = found;
  if (!step.couldNot) return refuse('no such outcome', 'Here it can only be marked as done.');
  const words = command.note?.trim();
  if (!words) {
    return refuse('note needed', 'Say why it could not be done.', [
      { field: 'note', message: 'Write a short reason.' },
    ]);
  }
  const execution = executionOf(definition, state, context);
  execution.note = words;
  execution.emit({ kind: 'could not', step: step.id, task: task.id, note: words });
  execution.endTasks({ code: 'could not be done by', by: context.actor }, [step.id]);
  execution.goOn(step.couldNot, step.id);
  return { ok: true, ...execution.outcome() };
}
