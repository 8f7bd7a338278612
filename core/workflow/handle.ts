/**
 * One command on one request: events and effects, or a refusal with its reason.
 * Pure: no clock, no randomness, nothing read or written. Running, rehearsing, replaying and the demo all call this.
 */
import { z } from 'zod';
import { type FieldFault, isEmptyAnswer, mayChange } from '../form/index.ts';
import type { PersonId } from '../people/index.ts';
import { civilDateAt, dateWords, toMilliseconds } from '../time/index.ts';
import { checkedAnswers, leaveFaults, mayAsk } from './asking.ts';
import { type Context, factsOf, houseListsOf, nameOf } from './context.ts';
import { Course } from './course.ts';
import { type Definition, fieldById, type StepOf } from './definition.ts';
import { evaluateFigures } from './evaluate.ts';
import type { Effect, Filled, RequestEvent, TimerKind } from './events.ts';
import { type FilledIn, fillIn, levelAt } from './filling.ts';
import { allDone, countAnswer, offerAgain, passLimit, remind } from './giving.ts';
import { stepById } from './sequence.ts';
import { isOpen, type RequestState, type Task } from './state.ts';

const seen = z.number().int().nonnegative();
const note = z.string().max(5000).nullish();
const answers = z.record(z.string(), z.unknown());

/** Commands of people. `seen` is the version of the request that the person had in front of them. */
export const Command = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('submit'), answers, subject: z.string().max(40).nullish() }),
  z.object({
    kind: z.literal('answer'),
    seen,
    task: z.string(),
    outcome: z.string(),
    note,
    answers: answers.optional(),
  }),
  z.object({ kind: z.literal('take'), seen, task: z.string() }),
  z.object({ kind: z.literal('put back'), seen, task: z.string() }),
  z.object({
    kind: z.literal('complete'),
    seen,
    task: z.string(),
    /** Of the checklist; all of it must be ticked. */
    ticked: z.array(z.string()).max(40).default([]),
    answers: answers.default({}),
    note,
  }),
  z.object({ kind: z.literal('could not'), seen, task: z.string(), note }),
  z.object({ kind: z.literal('resubmit'), seen, answers }),
  z.object({ kind: z.literal('hand in'), seen, step: z.string(), answers }),
  z.object({ kind: z.literal('withdraw'), seen, note }),
  z.object({ kind: z.literal('try again'), seen }),
]);
export type Command = z.infer<typeof Command>;

/** A timer that has come due, or a request that this one opened and that has ended. */
export type TimerCommand = { kind: 'timer'; task: string; what: TimerKind };
export type OpenedClosed = { kind: 'opened closed'; key: string; closing: string };

export type Refusal = {
  code:
    | 'stale'
    | 'not open'
    | 'not yours'
    | 'bad answers'
    | 'no such outcome'
    | 'note needed'
    | 'too many rounds'
    | 'not ticked';
  message: string;
  faults?: FieldFault[];
};
export type Result =
  | { ok: true; events: RequestEvent[]; effects: Effect[]; state: RequestState }
  | { ok: false; refusal: Refusal };

const refuse = (code: Refusal['code'], message: string, faults?: FieldFault[]): Result => ({
  ok: false,
  refusal: { code, message, ...(faults ? { faults } : {}) },
});
const refuseAnswers = (faults: FieldFault[], message = faults[0].message) => refuse('bad answers', message, faults);

export function handle(
  definition: Definition,
  state: RequestState,
  command: Command | TimerCommand | OpenedClosed,
  context: Context,
): Result {
  if (command.kind === 'timer') return timer(definition, state, command, context);
  if (command.kind === 'opened closed') return openedClosed(definition, state, command, context);
  if (command.kind === 'submit') return submit(definition, state, command, context);
  if (!isOpen(state)) return refuse('not open', closedWords(definition, state, context));
  if (command.seen !== state.version) {
    return refuse('stale', `${lastWords(state, context)} Look at it as it is now, then decide.`);
  }
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
        : `on ${dateWords(civilDateAt(state.last.at, 'UTC'))}`;
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
  const { faults, filled } = checkedAnswers(definition, command.answers, context, asking);
  if (faults.length > 0) return refuseAnswers(faults);
  const course = new Course(definition, state, context);
  course.happen({
    kind: 'asked',
    asker,
    ...(subject === asker ? {} : { subject }),
    answers: filled.answers,
    figures: filled.figures,
  });
  course.remember(filled.answers, filled.scope);
  course.hold();
  course.goOn({ to: 'next' }, definition.steps[0].id);
  return { ok: true, ...course.outcome() };
}

type TaskStep<V extends 'Decide' | 'Do'> = { task: Task; step: StepOf<V> } | { refused: Result };

/** The task of a command and its step, when it is there and waits for whoever acts. */
function taskFor<V extends 'Decide' | 'Do'>(
  definition: Definition,
  state: RequestState,
  id: string,
  context: Context,
  verb: V,
): TaskStep<V> {
  const task = state.tasks.find(t => t.id === id);
  const step = task && stepById(definition, task.step);
  if (!task || step?.verb !== verb) {
    return { refused: refuse('not open', 'This is not waiting for anybody’s answer any more.') };
  }
  if (task.holder !== context.actor) {
    return { refused: refuse('not yours', `This waits for ${nameOf(context.index, task.holder)}, not for you.`) };
  }
  return { task, step: step as StepOf<V> };
}

const filledOf = ({ answers: given, figures, changes }: FilledIn): Filled => ({ answers: given, figures, changes });

/** What a holder filled in at their step. */
function fillAt(definition: Definition, state: RequestState, step: string, input: unknown, context: Context) {
  const facts = factsOf(context, state.asker!, state.subject, state.request);
  return fillIn(definition, step, state.answers, input, facts, houseListsOf(context));
}

function answer(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'answer' }>,
  context: Context,
): Result {
  const found = taskFor(definition, state, command.task, context, 'Decide');
  if ('refused' in found) return found.refused;
  const { task, step } = found;
  const outcome = step.outcomes.find(o => o.id === command.outcome);
  if (!outcome) {
    return refuse('no such outcome', `Choose one of: ${step.outcomes.map(o => o.label).join(', ')}.`);
  }
  const words = command.note?.trim() || null;
  if (outcome.note === 'must' && !words) {
    return refuse('note needed', `“${outcome.label}” needs a note.`, [
      { field: 'note', message: 'Write a short note.' },
    ]);
  }
  const rounds = state.rounds[`${step.id}/${outcome.id}`] ?? 0;
  if (outcome.leads.to === 'rework') {
    if (rounds >= outcome.leads.atMost) {
      return refuse(
        'too many rounds',
        `This was already sent back ${rounds} times, the most allowed. Choose another outcome.`,
      );
    }
    if (state.returned) return refuse('not open', 'It is being reworked already; wait until it is back.');
  }
  // What an outcome does not need is not asked for when it sends the request back or declines it.
  let filled: Filled | undefined;
  const open = definition.form.fields.some(f => mayChange(levelAt(definition, step.id, f)));
  if (Object.keys(command.answers ?? {}).length > 0 || (open && outcome.tone === 'good') || outcome.needs) {
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
    if (faults.length > 0) return refuseAnswers(faults);
    if (read.filled.changes.length > 0) filled = filledOf(read.filled);
  }
  const course = new Course(definition, state, context);
  course.note = words;
  course.happen({
    kind: 'answered',
    step: step.id,
    task: task.id,
    outcome: outcome.id,
    note: words,
    coverFor: task.coverFor,
    ...(filled ? { filled } : {}),
  });
  countAnswer(course, step, task);
  return { ok: true, ...course.outcome() };
}

function take(definition: Definition, state: RequestState, id: string, context: Context): Result {
  const found = taskFor(definition, state, id, context, 'Do');
  if ('refused' in found) return found.refused;
  const { task, step } = found;
  if (task.pool !== 'free') return refuse('not open', 'This is yours already.');
  const course = new Course(definition, state, context);
  course.happen({ kind: 'taken', step: step.id, task: task.id });
  for (const other of state.tasks) {
    if (other.step !== step.id || other.id === task.id) continue;
    course.happen({ kind: 'ended', task: other.id, reason: `${nameOf(context.index, context.actor)} took it` });
  }
  return { ok: true, ...course.outcome() };
}

function putBack(definition: Definition, state: RequestState, id: string, context: Context): Result {
  const found = taskFor(definition, state, id, context, 'Do');
  if ('refused' in found) return found.refused;
  if (found.task.pool !== 'taken') return refuse('not open', 'Only what was taken from a pool can be put back.');
  const course = new Course(definition, state, context);
  course.happen({ kind: 'put back', step: found.step.id, task: id });
  offerAgain(course, found.step);
  return { ok: true, ...course.outcome() };
}

function complete(
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
  if (!read.ok) return refuseAnswers(read.faults);
  const course = new Course(definition, state, context);
  course.happen({
    kind: 'done',
    step: step.id,
    task: task.id,
    ticked: command.ticked,
    filled: filledOf(read.filled),
    note: command.note?.trim() || null,
  });
  if (step.pool) course.endTasks(`${nameOf(context.index, context.actor)} did it`, [step.id]);
  if (allDone(course, step)) course.goOn({ to: 'next' }, step.id);
  return { ok: true, ...course.outcome() };
}

function couldNot(
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
  const course = new Course(definition, state, context);
  course.note = words;
  course.happen({ kind: 'could not', step: step.id, task: task.id, note: words });
  course.endTasks(`${nameOf(context.index, context.actor)} could not do it`, [step.id]);
  course.goOn(step.couldNot, step.id);
  return { ok: true, ...course.outcome() };
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
  const leave = leaveFaults(definition, read.filled.answers, context, subject, state.request);
  const faults = [...(read.ok ? [] : read.faults), ...leave];
  if (faults.length > 0) {
    const barred = faults.some(f => !returned.fields.includes(f.field) && f.message === 'This may not be changed now.');
    return refuseAnswers(faults, barred ? 'Only the fields that were sent back may be changed.' : undefined);
  }
  const course = new Course(definition, state, context);
  course.happen({ kind: 'reworked', ...filledOf(read.filled) });
  course.remember(read.filled.answers, read.filled.scope);
  course.hold();
  course.goOn({ to: 'step', step: returned.resume }, returned.step);
  return { ok: true, ...course.outcome() };
}

/** What a Hold waits for is handed in by the asker or the person that it is for. */
function handIn(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'hand in' }>,
  context: Context,
): Result {
  const step = stepById(definition, command.step);
  if (!state.holds.some(h => h.step === command.step) || step?.verb !== 'Hold' || step.until.kind !== 'document') {
    return refuse('not open', 'Nothing is waited for here.');
  }
  if (context.actor !== state.asker && context.actor !== state.subject) {
    return refuse('not yours', `This waits for ${nameOf(context.index, state.asker)}.`);
  }
  const { field } = step.until;
  const facts = factsOf(context, state.asker!, state.subject, state.request);
  const read = fillIn(definition, step.id, state.answers, command.answers, facts, houseListsOf(context), [field]);
  const faults = read.ok ? [] : read.faults;
  if (isEmptyAnswer(read.filled.answers[field]) && faults.length === 0) {
    faults.push({ field, message: `${fieldById(definition, field)?.label ?? field} is needed.` });
  }
  if (faults.length > 0) return refuseAnswers(faults);
  const course = new Course(definition, state, context);
  course.happen({ kind: 'waited', step: step.id, reason: 'it is in', filled: filledOf(read.filled) });
  course.goOn({ to: 'next' }, step.id);
  return { ok: true, ...course.outcome() };
}

function withdraw(definition: Definition, state: RequestState, words: string | null, context: Context): Result {
  if (context.actor !== state.asker) {
    return refuse('not yours', `Only ${nameOf(context.index, state.asker)} may withdraw this.`);
  }
  const course = new Course(definition, state, context);
  course.endTasks(`${nameOf(context.index, context.actor)} withdrew the request`);
  course.release('withdrawn');
  course.happen({ kind: 'withdrawn', note: words });
  return { ok: true, ...course.outcome() };
}

function tryAgain(definition: Definition, state: RequestState, context: Context): Result {
  if (state.stuckAt.length === 0) return refuse('not open', 'This request is not stuck.');
  const course = new Course(definition, state, context);
  course.happen({ kind: 'tried again' });
  for (const { step } of state.stuckAt) {
    const found = stepById(definition, step);
    // A lane that another try has called off is not taken up again.
    if (found && course.state.at.includes(step)) course.retry(found);
  }
  return { ok: true, ...course.outcome() };
}

/** A timer whose task is gone does nothing: it is not an error to come too late. */
function timer(definition: Definition, state: RequestState, command: TimerCommand, context: Context): Result {
  const course = new Course(definition, state, context);
  if (!isOpen(state)) return { ok: true, ...course.outcome() };
  if (command.what === 'hold') {
    const hold = state.holds.find(h => h.step === command.task);
    if (hold?.until && toMilliseconds(hold.until) <= toMilliseconds(context.now)) {
      course.happen({ kind: 'waited', step: hold.step, reason: hold.reason });
      course.goOn({ to: 'next' }, hold.step);
    }
    return { ok: true, ...course.outcome() };
  }
  const task: Task | undefined = state.tasks.find(t => t.id === command.task);
  if (task) {
    if (command.what === 'remind') remind(course, task);
    else if (!task.late) passLimit(course, task);
  }
  return { ok: true, ...course.outcome() };
}

function openedClosed(definition: Definition, state: RequestState, command: OpenedClosed, context: Context): Result {
  const course = new Course(definition, state, context);
  if (!isOpen(state) || !state.opened.includes(command.key)) return { ok: true, ...course.outcome() };
  course.happen({ kind: 'opened closed', key: command.key, closing: command.closing });
  if (course.state.opened.length > 0) return { ok: true, ...course.outcome() };
  for (const hold of state.holds) {
    const step = stepById(definition, hold.step);
    if (step?.verb !== 'Hold' || step.until.kind !== 'requests') continue;
    course.happen({ kind: 'waited', step: step.id, reason: 'every request that it opened has come to its end' });
    course.goOn({ to: 'next' }, step.id);
  }
  return { ok: true, ...course.outcome() };
}

/** The fields that the holder of a step fills in there. */
export const ownFields = (definition: Definition, step: string) =>
  definition.form.fields.filter(f => mayChange(levelAt(definition, step, f)));

/** The figures of a request worked out anew over its answers, as they stand now. */
export const figuresNow = (definition: Definition, state: RequestState, context: Context) =>
  evaluateFigures(definition, state.answers, factsOf(context, state.asker!, state.subject, state.request)).figures;
