/** Leave that HR keeps: booked, changed and voided for anybody, also when it has begun or passed, with a reason. */

import { type Answers, spanWords } from '../../../form/index.ts';
import {
  isOpen as isLeaveOpen,
  isTimed,
  type LeaveSpan,
  leaveType,
  leftOfLeave,
  leftToTake,
  obstacles,
  obstacleWords,
} from '../../../leave/index.ts';
import type { PersonId } from '../../../people/index.ts';
import { yearOf } from '../../../time/index.ts';
import type { Definition, StepOf } from '../../definition/definition.ts';
import { allSteps } from '../../definition/structure.ts';
import type { Execution } from '../../execution/execution.ts';
import { evaluateFigures } from '../../figures/evaluate.ts';
import { type FilledIn, fillIn } from '../../figures/filling.ts';
import { type Command, type Result, refuse, refuseAnswers } from '../../request/command.ts';
import { type Context, factsOf, houseListsOf, whoseWords } from '../../request/context.ts';
import { isOpen, type RequestState } from '../../request/state.ts';
import { holdsFollow } from '../../verbs/hold.ts';
import { filledOf } from '../answering.ts';
import { executionOf } from '../executionOf.ts';

type Books = Extract<StepOf<'Record'>['effect'], { kind: 'book leave' }>;

/** The effect by which a workflow books leave of a type; nothing when it books none of it. */
export function bookingOf(definition: Definition, type: string): Books | undefined {
  for (const step of allSteps(definition)) {
    if (step.verb !== 'Record' || step.effect.kind !== 'book leave') continue;
    const { effect } = step;
    const field = definition.form.fields.find(f => f.id === effect.type);
    if (field?.kind === 'choice' && field.options === 'leave types' && (field.only?.includes(type) ?? true))
      return effect;
  }
  return undefined;
}

/** HR decides about balances; what cannot be leave at all is refused to HR too. */
function barred(context: Context, person: PersonId, type: string, span: LeaveSpan, request: string) {
  return obstacles(context.book, person, type, span, { request, how: 'by HR' }).find(o => o.code !== 'over balance');
}

/** Books leave for somebody at once, under a request of its own whose trail says who did it and why. */
export function bookLeaveFor(
  definition: Definition,
  state: RequestState,
  { subject, type, span, reason, restOf }: Extract<Command, { kind: 'book leave' }>,
  context: Context,
): Result {
  const asker = context.actor;
  if (!asker) return refuse('not yours', 'Somebody has to book it.');
  const books = bookingOf(definition, type);
  const closing = definition.closings.find(c => c.tone === 'good');
  if (!books || !closing) return refuse('not open', 'This workflow does not book leave of this type.');
  const obstacle = barred(context, subject, type, span, state.request);
  if (obstacle)
    return refuseAnswers([
      { field: books.span, message: obstacleWords(obstacle, { ...context.book, whose: whoseWords(context, subject) }) },
    ]);
  const answers: Answers = {
    ...Object.fromEntries(definition.form.fields.map(f => [f.id, null])),
    [books.span]: span,
    [books.type]: leaveType(context.book, type)?.id ?? type,
  };
  const { figures, scope } = evaluateFigures(definition, answers, factsOf(context, asker, subject, state.request));
  const execution = executionOf(definition, state, context);
  execution.emit({ kind: 'asked', asker, ...(subject === asker ? {} : { subject }), answers, figures });
  execution.remember(answers, scope);
  execution.emit({ kind: 'booked', type, span, planner: books.planner, reason, ...(restOf ? { restOf } : {}) });
  execution.emit({ kind: 'closed', closing: closing.id });
  // Whoever was called back is told of the rest with that.
  if (subject !== asker && restOf === undefined)
    execution.mail(
      subject,
      `Booked: ${execution.title()}`,
      `${execution.who(asker)} has booked this for you: ${reason}`,
    );
  return { ok: true, ...execution.outcome() };
}

type Kept = { execution: Execution; filled: FilledIn; person: PersonId; before: string };

/** The dates of booked leave are others: what that makes of the answers, or why it cannot be. */
function withDates(
  definition: Definition,
  state: RequestState,
  span: LeaveSpan,
  context: Context,
): { ok: true; kept: Kept } | { ok: false; refused: Result } {
  const { leave } = state;
  const person = state.subject ?? state.asker;
  const books = leave && bookingOf(definition, leave.type);
  if (!leave || !books || !person || leave.state !== 'booked')
    return { ok: false, refused: refuse('not open', 'No leave is booked here.') };
  const obstacle = barred(context, person, leave.type, span, state.request);
  if (obstacle)
    return {
      ok: false,
      refused: refuseAnswers([
        {
          field: books.span,
          message: obstacleWords(obstacle, { ...context.book, whose: whoseWords(context, person) }),
        },
      ]),
    };
  const facts = factsOf(context, state.asker!, state.subject, state.request);
  const input = { [books.span]: span };
  const [ask] = definition.steps;
  const read = fillIn(definition, ask.id, state.answers, input, facts, houseListsOf(context), [books.span]);
  const faults = read.ok ? [] : read.faults.filter(f => f.field === books.span);
  if (faults.length > 0) return { ok: false, refused: refuseAnswers(faults) };
  if (read.filled.changes.length === 0) return { ok: false, refused: refuse('bad answers', 'Nothing is changed.') };
  const execution = executionOf(definition, state, context);
  const before = execution.title();
  return { ok: true, kept: { execution, filled: read.filled, person, before } };
}

/** Books the other dates, once it is said what they are for. */
function rebooked({ execution, filled }: Kept, reason: string): void {
  execution.remember(filled.answers, filled.scope);
  execution.rebook(reason);
  holdsFollow(execution);
}

/** Leave under way or passed is set right: other dates, for a reason. */
export function changeLeave(
  definition: Definition,
  state: RequestState,
  { span, reason }: Extract<Command, { kind: 'change leave' }>,
  context: Context,
): Result {
  const found = withDates(definition, state, span, context);
  if (!found.ok) return found.refused;
  const { execution, filled, person, before } = found.kept;
  execution.emit({ kind: 'corrected', filled: filledOf(filled), reason });
  rebooked(found.kept, reason);
  if (person !== context.actor)
    execution.mail(
      person,
      `Changed: ${execution.title()}`,
      `${execution.who(context.actor)} has changed your leave (it was ${before}): ${reason}`,
    );
  return { ok: true, ...execution.outcome() };
}

/**
 * Somebody is called back to work for some days of booked leave. What is left before them stays this leave, or what is left
 * after them where nothing to be taken is before; both, and the rest is for the house to book under a request of its own.
 */
export function callBack(
  definition: Definition,
  state: RequestState,
  { days, reason }: Extract<Command, { kind: 'call back' }>,
  context: Context,
): Result {
  const span = state.leave?.span;
  if (!span || state.leave?.state !== 'booked') return refuse('not open', 'No leave is booked here.');
  if (isTimed(span) || isLeaveOpen(span))
    return refuse('not open', 'Only leave by whole and half days with a last day can be called back from. Change it.');
  const rests = leftOfLeave(span, days);
  if (!rests) return refuseAnswers([{ field: 'days', message: 'These are no days of the leave.' }]);
  const type = leaveType(context.book, state.leave.type);
  const whose = state.subject ?? state.asker;
  const left = type && whose ? leftToTake(context.book, whose, type, rests) : rests;
  const stays = left.before ?? left.after;
  if (!stays) return refuseAnswers([{ field: 'days', message: 'That is all of the leave. Void it instead.' }]);
  const rest = left.before ? left.after : null;
  const found = withDates(definition, state, stays, context);
  if (!found.ok) return found.refused;
  const { execution, filled, person, before } = found.kept;
  execution.emit({ kind: 'called back', days, rest, filled: filledOf(filled), reason });
  rebooked(found.kept, reason);
  const year = yearOf(context.now);
  if (person !== context.actor)
    execution.mail(
      person,
      `Called back: ${before}`,
      `${execution.who(context.actor)} has called you back to work for ${spanWords(days, year)}. That is no leave any more. ${spanWords(stays, year)}${rest ? ` and ${spanWords(rest, year)}` : ''} ${rest ? 'stay' : 'stays'} leave: ${reason}`,
    );
  return { ok: true, ...execution.outcome() };
}

/** Booked leave is taken back, also when it has begun or passed; the days are free again. */
export function voidLeave(definition: Definition, state: RequestState, reason: string, context: Context): Result {
  if (state.leave?.state !== 'booked' || isOpen(state)) return refuse('not open', 'No leave is booked here.');
  const person = state.subject ?? state.asker;
  const execution = executionOf(definition, state, context);
  const title = execution.title();
  execution.emit({ kind: 'voided', reason });
  for (const told of new Set([person, state.asker])) {
    if (told && told !== context.actor)
      execution.mail(told, `Voided: ${title}`, `${execution.who(context.actor)} has taken this leave back: ${reason}`);
  }
  return { ok: true, ...execution.outcome() };
}
