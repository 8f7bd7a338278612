/**
 * One command on one request: events and effects, or a refusal with its reason.
 * Pure: no clock, no randomness, nothing read or written. Running, rehearsing, replaying and the demo all call this.
 */

import { fileFault, isEmptyAnswer, mayChange } from '../../form/index.ts';
import type { PersonId } from '../../people/index.ts';
import { civilDateAt, dateWords, type Instant, toMilliseconds, yearOf } from '../../time/index.ts';
import { type Definition, fieldById } from '../definition/definition.ts';
import { stepById } from '../definition/structure.ts';
import { passLimit, remind } from '../execution/assigning.ts';
import { passedOn } from '../execution/daysPassed.ts';
import { limitsFollow, moveAlong } from '../execution/movingAlong.ts';
import { evaluateFigures } from '../figures/evaluate.ts';
import { fillIn, levelAt } from '../figures/filling.ts';
import {
  type Command,
  type EffectCommand,
  type GuestCommand,
  type MailCommand,
  type OpenedClosed,
  type OutsideCommand,
  type OwnerCommand,
  type Result,
  refuse,
  refuseAnswers,
  type TimerCommand,
} from '../request/command.ts';
import { type Context, factsOf, houseListsOf, nameOf, zoneOfPerson } from '../request/context.ts';
import { isOpen, ownerOf, type RequestState } from '../request/state.ts';
import { remindOfHold } from '../verbs/hold.ts';
import { afterwards, isAfterwards } from './afterwards/amending.ts';
import { bookLeaveFor } from './afterwards/keptLeave.ts';
import { moveDate } from './afterwards/movingDate.ts';
import { barredByDays, daysPass, decidePast, isPast } from './afterwards/passed.ts';
import { alert, mindAlert } from './alerting.ts';
import { answer, complete, couldNot, filledOf, putBack, take } from './answering.ts';
import { checkedAnswers, keepLimits, leaveFaults, leaveLimits, mayAsk } from './asking.ts';
import { ask, reply } from './clarifying.ts';
import { appoint, bringBack, comeBack, handOver, setAside } from './delegating.ts';
import { byHand, effect, isHandCommand } from './effects.ts';
import { executionOf } from './executionOf.ts';
import { aboutGuest, byGuest, isOfGuests, remindGuest } from './fromOutside/guests.ts';
import { mailNews } from './fromOutside/mailNews.ts';
import { askFromOutside } from './fromOutside/outside.ts';
import { handIn } from './handingIn.ts';
import { changeOwner, mindOwner } from './owner/owning.ts';
import { withdrawn } from './owner/withdrawing.ts';

/** What people, timers, guests, mails, connections and the house itself ask of a request. */
export type AnyCommand =
  | Command
  | TimerCommand
  | OpenedClosed
  | EffectCommand
  | GuestCommand
  | OutsideCommand
  | MailCommand
  | OwnerCommand;

/**
 * The result of a command, with what follows from it for the plan of the request: when people are told that it is not
 * ready, and that it is.
 */
export function handle(definition: Definition, state: RequestState, command: AnyCommand, context: Context): Result {
  const result = carryOut(definition, state, command, context);
  return result.ok && definition.countsBack?.alert ? mindAlert(definition, state, result, context) : result;
}

function carryOut(definition: Definition, state: RequestState, command: AnyCommand, context: Context): Result {
  if (command.kind === 'timer') return timer(definition, state, command, context);
  if (command.kind === 'effect') return effect(definition, state, command, context);
  if (command.kind === 'guest') return byGuest(definition, state, command, context);
  if (command.kind === 'ask from outside') return askFromOutside(definition, state, command.answers, context);
  if (command.kind === 'mind owner') return mindOwner(definition, state, command, context);
  if (command.kind === 'mail') return mailNews(definition, state, command, context);
  if (command.kind === 'opened closed') return openedClosed(definition, state, command, context);
  if (command.kind === 'submit') return submit(definition, state, command, context);
  if (command.kind === 'book leave') return bookLeaveFor(definition, state, command, context);
  if (command.kind === 'comment') return comment(definition, state, command, context);
  if (command.kind === 'look') return look(definition, state, command.field, context);
  if ((command.seen < state.changed || command.seen > state.version) && (isOpen(state) || isAfterwards(command))) {
    return refuse('stale', `${lastWords(state, context)} Look at it as it is now, then decide.`);
  }
  if (isHandCommand(command)) return byHand(definition, state, command, context);
  if (isAfterwards(command)) return afterwards(definition, state, command, context);
  if (!isOpen(state)) return refuse('not open', closedWords(definition, state, context));
  if (isPast(command)) return decidePast(definition, state, command, context);
  const passed = barredByDays(state, command, context);
  if (passed) return passed;
  if (isOfGuests(command)) return aboutGuest(definition, state, command, context);
  switch (command.kind) {
    case 'answer':
      return answer(definition, state, command, context);
    case 'take':
      return take(definition, state, command.task, context);
    case 'put back':
      return putBack(definition, state, command.task, context);
    case 'complete':
      return complete(definition, state, command, context);
    case 'could not':
      return couldNot(definition, state, command, context);
    case 'resubmit':
      return resubmit(definition, state, command.answers, context);
    case 'hand in':
      return handIn(definition, state, command, context);
    case 'withdraw':
      return withdraw(definition, state, command.note ?? null, context);
    case 'try again':
      return tryAgain(definition, state, context);
    case 'move date':
      return moveDate(definition, state, command, context);
    case 'ask':
      return ask(definition, state, command, context);
    case 'reply':
      return reply(definition, state, command, context);
    case 'hand over':
      return handOver(definition, state, command, context);
    case 'set aside':
      return setAside(definition, state, command, context);
    case 'bring back':
      return bringBack(definition, state, command.task, context);
    case 'change owner':
      return changeOwner(definition, state, command, context);
    case 'appoint':
      return appoint(definition, state, command, context);
  }
}

/** `Tobias Fennimore answered this 2 minutes ago.` */
function lastWords(state: RequestState, context: Context): string {
  if (!state.last) return 'This request has moved on since you opened it.';
  const minutes = Math.floor((toMilliseconds(context.now) - toMilliseconds(state.last.at)) / 60_000);
  const ago =
    minutes < 1
      ? 'a moment ago'
      : minutes < 60
        ? `${minutes} ${minutes === 1 ? 'minute' : 'minutes'} ago`
        : `on ${dateWords(civilDateAt(state.last.at, zoneOfPerson(context, context.actor, context.now)), yearOf(context.now))}`;
  return `${nameOf(context.index, state.last.by)} ${state.last.did} this ${ago}.`;
}

function closedWords(definition: Definition, state: RequestState, context: Context): string {
  if (state.status === 'withdrawn') return `${lastWords(state, context)} It is withdrawn.`;
  const closing = definition.closings.find(c => c.id === state.closing);
  return closing
    ? `${lastWords(state, context)} It is already closed: ${closing.name}.`
    : 'This request has not been sent.';
}

function submit(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'submit' }>,
  context: Context,
): Result {
  if (state.status !== 'new') return refuse('stale', 'This request has been sent already.');
  const asker = context.actor;
  if (!asker) return refuse('not yours', 'Somebody has to ask.');
  const subject = (command.subject ?? asker) as PersonId;
  const barred = mayAsk(definition, context, asker, subject);
  if (barred) return refuse('not yours', barred);
  const asking = { asker, subject, request: state.request };
  const { faults, filled, limits } = checkedAnswers(definition, command.answers, context, asking);
  if (faults.length > 0) return refuseAnswers(faults);
  const execution = executionOf(definition, state, context);
  execution.emit({
    kind: 'asked',
    asker,
    ...(subject === asker ? {} : { subject }),
    answers: filled.answers,
    figures: filled.figures,
  });
  keepLimits(execution, limits);
  execution.remember(filled.answers, filled.scope);
  execution.hold();
  execution.goOn({ to: 'next' }, definition.steps[0].id);
  return { ok: true, ...execution.outcome() };
}

function resubmit(definition: Definition, state: RequestState, input: unknown, context: Context): Result {
  const { returned, asker } = state;
  if (!returned || !asker) return refuse('not open', 'This request is not with you for rework.');
  if (context.actor !== returned.to)
    return refuse('not yours', `Only ${nameOf(context.index, returned.to)} may change this.`);
  const facts = factsOf(context, asker, state.subject, state.request);
  const read = fillIn(
    definition,
    definition.steps[0].id,
    state.answers,
    input,
    facts,
    houseListsOf(context),
    returned.fields,
  );
  const subject = state.subject ?? asker;
  const leave = leaveFaults(definition, read.filled.answers, context, subject, state.request, state.answers);
  const { answers } = read.filled;
  const limits = leaveLimits(definition, answers, context, subject, state.request, state.answers);
  const faults = [...(read.ok ? [] : read.faults), ...leave, ...(leave.length > 0 ? [] : limits.faults)];
  if (faults.length > 0) {
    const isBarred = !read.ok && read.barred.length > 0;
    return refuseAnswers(faults, isBarred ? 'Only the fields that were sent back may be changed.' : undefined);
  }
  const execution = executionOf(definition, state, context);
  execution.emit({ kind: 'reworked', ...filledOf(read.filled) });
  keepLimits(execution, limits);
  execution.remember(read.filled.answers, read.filled.scope);
  execution.hold();
  execution.goOn({ to: 'step', step: returned.resume }, returned.step);
  return { ok: true, ...execution.outcome() };
}

function withdraw(definition: Definition, state: RequestState, words: string | null, context: Context): Result {
  const isTheirs = context.actor === state.asker || context.actor === ownerOf(state);
  if (!isTheirs && !context.helps)
    return refuse('not yours', `Only ${nameOf(context.index, ownerOf(state))} and HR operations may withdraw this.`);
  if (!isTheirs && !words?.trim())
    return refuse('note needed', 'Give a reason: whoever asked reads it.', [
      { field: 'note', message: 'Give a reason.' },
    ]);
  const execution = executionOf(definition, state, context);
  withdrawn(execution, words, null);
  return { ok: true, ...execution.outcome() };
}

function tryAgain(definition: Definition, state: RequestState, context: Context): Result {
  if (state.stuckAt.length === 0) return refuse('not open', 'This request is not stuck.');
  const execution = executionOf(definition, state, context);
  execution.tryAgain();
  return { ok: true, ...execution.outcome() };
}

/** A timer whose task is gone does nothing: it is not an error to come too late. */
function timer(definition: Definition, state: RequestState, command: TimerCommand, context: Context): Result {
  const execution = executionOf(definition, state, context);
  if (!isOpen(state)) return { ok: true, ...execution.outcome() };
  if (command.what === 'alert') {
    alert(execution);
    return { ok: true, ...execution.outcome() };
  }
  if (command.what === 'facts') {
    limitsFollow(execution);
    moveAlong(execution);
    return { ok: true, ...execution.outcome() };
  }
  if (command.what === 'leave') {
    daysPass(execution);
    return { ok: true, ...execution.outcome() };
  }
  // Nothing goes on by itself that only HR may decide.
  if (passedOn(state, context) !== null) return { ok: true, ...execution.outcome() };
  if (command.what === 'guest') {
    remindGuest(execution, command.task);
    return { ok: true, ...execution.outcome() };
  }
  if (command.what === 'hold') {
    const hold = state.holds.find(h => h.step === command.task);
    if (hold?.remindAt) remindOfHold(execution, hold.step);
    if (hold?.until && toMilliseconds(hold.until) <= toMilliseconds(context.now)) {
      execution.emit({ kind: 'waited', step: hold.step, reason: hold.reason });
      execution.goOn({ to: 'next' }, hold.step);
    }
    return { ok: true, ...execution.outcome() };
  }
  const task = state.tasks.find(t => t.id === command.task);
  const isDue = (at: Instant | null | undefined) => !at || toMilliseconds(at) <= toMilliseconds(context.now);
  if (task) {
    if (command.what === 'aside') {
      if (isDue(task.aside?.back ?? context.now)) comeBack(execution, task);
      // A clock that stands still passes no limit, and an old timer does not count for a later time.
    } else if (!task.question) {
      if (command.what === 'remind' && isDue(task.remindAt)) remind(execution, task);
      else if (command.what === 'limit' && isDue(task.due) && !task.late) passLimit(execution, task);
    }
  }
  return { ok: true, ...execution.outcome() };
}

function openedClosed(definition: Definition, state: RequestState, command: OpenedClosed, context: Context): Result {
  const execution = executionOf(definition, state, context);
  if (!isOpen(state) || !state.opened.includes(command.key)) return { ok: true, ...execution.outcome() };
  execution.emit({ kind: 'opened closed', key: command.key, closing: command.closing });
  if (execution.state.opened.length > 0) return { ok: true, ...execution.outcome() };
  for (const hold of state.holds) {
    const step = stepById(definition, hold.step);
    if (step?.verb !== 'Hold' || step.until.kind !== 'requests') continue;
    execution.emit({ kind: 'waited', step: step.id, reason: { code: 'every request ended' } });
    execution.goOn({ to: 'next' }, step.id);
  }
  return { ok: true, ...execution.outcome() };
}

/** A word for everybody who sees the request; it changes nothing and is said at any time. */
function comment(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'comment' }>,
  context: Context,
): Result {
  if (state.status === 'new') return refuse('not open', 'This request has not been sent.');
  const execution = executionOf(definition, state, context);
  const mentions = [...new Set(command.mentions)].filter(person => context.index.person(person));
  const { files = [] } = command;
  const wrong = files.map(file => fileFault({}, file)).find(fault => fault !== undefined);
  if (wrong) return refuse('bad answers', wrong, [{ field: 'files', message: wrong }]);
  execution.emit({ kind: 'commented', text: command.text, mentions, ...(files.length > 0 ? { files } : {}) });
  for (const person of mentions) {
    execution.mail(
      person,
      `A comment for you: ${execution.title()}`,
      `${execution.who(context.actor)}: “${command.text}”`,
    );
  }
  return { ok: true, ...execution.outcome() };
}

/** What only named readers may see is opened by one of them. Who that is, is said by whoever asks for it. */
function look(definition: Definition, state: RequestState, field: string, context: Context): Result {
  if (state.status === 'new' || isEmptyAnswer(state.answers[field]) || !fieldById(definition, field)) {
    return refuse('not open', 'There is nothing to look at.');
  }
  const execution = executionOf(definition, state, context);
  execution.emit({ kind: 'looked', field });
  return { ok: true, ...execution.outcome() };
}

/** The fields that the holder of a step fills in there. */
export const ownFields = (definition: Definition, step: string) =>
  definition.form.fields.filter(f => mayChange(levelAt(definition, step, f)));

/** The figures of a request worked out anew over its answers, as they stand now. */
export const figuresNow = (definition: Definition, state: RequestState, context: Context) =>
  evaluateFigures(definition, state.answers, factsOf(context, state.asker!, state.subject, state.request)).figures;
