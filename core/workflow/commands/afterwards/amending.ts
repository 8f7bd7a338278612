/** After approval: a change of which only the difference is booked, a cancellation, and corrections by administrators. */

import { type Afterwards, closingById, type Definition } from '../../definition/definition.ts';
import { allSteps, mayGoTo } from '../../definition/structure.ts';
import { fillIn } from '../../figures/filling.ts';
import { type Command, type Result, refuse, refuseAnswers } from '../../request/command.ts';
import { type Context, factsOf, houseListsOf, nameOf, todayOf } from '../../request/context.ts';
import { dateIn } from '../../request/date.ts';
import { isOpen, mayActForAsker, ownerOf, type RequestState } from '../../request/state.ts';
import { holdsFollow } from '../../verbs/hold.ts';
import { filledOf } from '../answering.ts';
import { checkedAnswers, keepLimits } from '../asking.ts';
import { executionOf } from '../executionOf.ts';
import { callBack, changeLeave, voidLeave } from './keptLeave.ts';
import { followDate, moveUndoing } from './movingDate.ts';

const kinds = [
  'change after approval',
  'cancel after approval',
  'correct',
  'change leave',
  'call back',
  'void leave',
] as const;
export type AfterwardsCommand = Extract<Command, { kind: (typeof kinds)[number] }>;
export const isAfterwards = (command: Command): command is AfterwardsCommand =>
  (kinds as readonly string[]).includes(command.kind);

/** What a workflow says about changing and cancelling; when it says nothing, booked leave may be both. */
export const afterwardsOf = (definition: Definition): Afterwards =>
  definition.afterwards ??
  (allSteps(definition).some(s => s.verb === 'Record' && s.effect.kind === 'book leave')
    ? { change: 'decided', cancel: 'at once' }
    : { change: 'not', cancel: 'not' });

/** Why an approved request may not be changed or cancelled by its asker; nothing when it may. */
export function mayAfterwards(
  definition: Definition,
  state: RequestState,
  what: 'change' | 'cancel',
  context: Pick<Context, 'index' | 'now' | 'actor'>,
): string | undefined {
  const closing = state.closing === null ? undefined : closingById(definition, state.closing);
  if (state.status !== 'closed' || closing?.tone !== 'good') return 'Only what was approved can be changed afterwards.';
  if (!mayActForAsker(state, context.actor)) {
    return `Only ${nameOf(context.index, ownerOf(state))} may do this.`;
  }
  if (afterwardsOf(definition)[what] === 'not') return `In this workflow nothing is ${what}d after approval.`;
  const today = todayOf(context, state.subject ?? state.asker!);
  if (state.leave && state.leave.span.to.date < today) return 'It is past already. HR operations can correct it.';
  if (what === 'cancel' && state.leave && state.leave.span.from.date <= today) {
    return 'It has begun already. Change its last day, or ask HR operations to correct it.';
  }
  return undefined;
}

export function afterwards(
  definition: Definition,
  state: RequestState,
  command: AfterwardsCommand,
  context: Context,
): Result {
  if (command.kind === 'correct') return correct(definition, state, command, context);
  if (command.kind === 'change leave') return changeLeave(definition, state, command, context);
  if (command.kind === 'call back') return callBack(definition, state, command, context);
  if (command.kind === 'void leave') return voidLeave(definition, state, command.reason, context);
  const what = command.kind === 'change after approval' ? 'change' : 'cancel';
  const barred = mayAfterwards(definition, state, what, context);
  if (barred) return refuse('not open', barred);
  const note = command.note?.trim() || null;
  return command.kind === 'change after approval'
    ? change(definition, state, command.answers, note, context)
    : cancel(definition, state, note, context);
}

function change(
  definition: Definition,
  state: RequestState,
  input: Readonly<Record<string, unknown>>,
  note: string | null,
  context: Context,
): Result {
  const asking = { asker: state.asker!, subject: state.subject, request: state.request };
  const { faults, filled, limits } = checkedAnswers(definition, input, context, asking, state.answers);
  if (faults.length > 0) return refuseAnswers(faults);
  if (filled.changes.length === 0) return refuse('bad answers', 'Nothing is changed.');
  const execution = executionOf(definition, state, context);
  execution.note = note;
  execution.emit({ kind: 'reopened', what: 'change', note });
  execution.emit({ kind: 'reworked', ...filledOf(filled) });
  keepLimits(execution, limits);
  execution.remember(filled.answers, filled.scope);
  if (afterwardsOf(definition).change === 'at once') {
    execution.rebook();
    execution.reinvite();
    execution.emit({ kind: 'closed', closing: state.closing! });
  } else {
    execution.hold();
    execution.goOn({ to: 'next' }, definition.steps[0].id);
  }
  return { ok: true, ...execution.outcome() };
}

function cancel(definition: Definition, state: RequestState, note: string | null, context: Context): Result {
  const execution = executionOf(definition, state, context);
  execution.note = note;
  const decides = allSteps(definition).filter(s => s.verb === 'Decide');
  const last = [...state.settled].reverse().find(s => decides.some(d => d.id === s.step));
  const [ask] = definition.steps;
  // Inside a lane nobody can be asked alone.
  if (afterwardsOf(definition).cancel === 'decided' && last && mayGoTo(definition, ask.id, last.step)) {
    execution.emit({ kind: 'reopened', what: 'cancel', note });
    execution.goOn({ to: 'step', step: last.step }, ask.id);
  } else execution.cancel(note);
  return { ok: true, ...execution.outcome() };
}

/** What was answered is set right by an administrator; what was booked for it follows. */
function correct(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'correct' }>,
  context: Context,
): Result {
  if (state.status === 'new') return refuse('not open', 'This request has not been sent.');
  const facts = factsOf(context, state.asker!, state.subject, state.request);
  const fields = definition.form.fields.map(f => f.id);
  const unknown = Object.keys(command.answers).find(id => !fields.includes(id));
  if (unknown) return refuseAnswers([{ field: unknown, message: 'The form has no such field.' }]);
  const read = fillIn(
    definition,
    definition.steps[0].id,
    state.answers,
    command.answers,
    facts,
    houseListsOf(context),
    Object.keys(command.answers),
  );
  const faults = read.ok ? [] : read.faults.filter(f => f.field in command.answers);
  if (faults.length > 0) return refuseAnswers(faults);
  if (read.filled.changes.length === 0) return refuse('bad answers', 'Nothing is changed.');
  const execution = executionOf(definition, state, context);
  execution.emit({ kind: 'corrected', filled: filledOf(read.filled), reason: command.reason });
  execution.remember(read.filled.answers, read.filled.scope);
  execution.reinvite();
  // What is being decided is not booked by a correction: it is held, and decided as it is now.
  if (state.approved) execution.hold();
  else if (state.leave) execution.rebook(command.reason);
  holdsFollow(execution);
  execution.mailOtherAskers(
    `Corrected: ${execution.title()}`,
    `${execution.who(context.actor)} corrected your request: ${command.reason}`,
  );
  if (isOpen(state)) {
    for (const { field } of read.filled.changes)
      if (dateIn(execution.state.answers, field) !== null)
        followDate(execution, state, field, command.reason, execution.askers());
    if (state.stuckAt.length > 0) execution.tryAgain();
  } else moveUndoing(execution, state);
  return { ok: true, ...execution.outcome() };
}
