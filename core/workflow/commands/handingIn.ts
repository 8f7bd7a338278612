/** Handing in what a request waits for: a document, or the last day of an absence without an end. */
import { isEmptyAnswer, isLeaveSpan } from '../../form/index.ts';
import { isOpen } from '../../leave/index.ts';
import { type Definition, fieldById } from '../definition/definition.ts';
import { isHandedIn } from '../definition/steps/hold.ts';
import { stepById } from '../definition/structure.ts';
import { fillIn } from '../figures/filling.ts';
import { type Command, type Result, refuse, refuseAnswers } from '../request/command.ts';
import { type Context, factsOf, houseListsOf, nameOf } from '../request/context.ts';
import type { Reason } from '../request/reason.ts';
import { mayActForAsker, ownerOf, type RequestState } from '../request/state.ts';
import { filledOf } from './answering.ts';
import { leaveFaults } from './asking.ts';
import { executionOf } from './executionOf.ts';

/** What a Hold waits for is handed in by the asker or the person that it is for. */
export function handIn(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'hand in' }>,
  context: Context,
): Result {
  const step = stepById(definition, command.step);
  if (!state.holds.some(h => h.step === command.step) || step?.verb !== 'Hold' || !isHandedIn(step.until)) {
    return refuse('not open', 'Nothing is waited for here.');
  }
  if (!mayActForAsker(state, context.actor)) {
    return refuse('not yours', `This waits for ${nameOf(context.index, ownerOf(state))}.`);
  }
  const { field } = step.until;
  const facts = factsOf(context, state.asker!, state.subject, state.request);
  const read = fillIn(definition, step.id, state.answers, command.answers, facts, houseListsOf(context), [field]);
  const faults = read.ok ? [] : read.faults;
  const answer = read.filled.answers[field] ?? null;
  if (isEmptyAnswer(answer) && faults.length === 0) {
    faults.push({ field, message: `${fieldById(definition, field)?.label ?? field} is needed.` });
  }
  if (step.until.kind === 'last day' && faults.length === 0) {
    if (isLeaveSpan(answer) && isOpen(answer)) faults.push({ field, message: 'Say the last day.' });
    else
      faults.push(
        ...leaveFaults(
          definition,
          read.filled.answers,
          context,
          state.subject ?? state.asker!,
          state.request,
          state.answers,
        ),
      );
  }
  if (faults.length > 0) return refuseAnswers(faults);
  const execution = executionOf(definition, state, context);
  const reason: Reason =
    step.until.kind === 'document' ? { code: 'document is in' } : { code: 'last day is known', field };
  execution.emit({ kind: 'waited', step: step.id, reason, filled: filledOf(read.filled) });
  execution.remember(read.filled.answers, read.filled.scope);
  if (step.until.kind === 'last day') execution.rebook();
  execution.goOn({ to: 'next' }, step.id);
  return { ok: true, ...execution.outcome() };
}
