/**
 * One command on one request: events and effects, or a refusal with its reason.
 * Pure: no clock, no randomness, nothing read or written. Running, rehearsing, replaying and the demo all call this.
 */
import { z } from 'zod';
import { obstacles } from '../leave/index.ts';
import type { PersonId } from '../people/index.ts';
import { civilDateAt, dateWords, toMilliseconds } from '../time/index.ts';
import { type Answers, changesBetween, type FieldFault, readAnswers } from './answers.ts';
import { type Context, nameOf } from './context.ts';
import { Course } from './course.ts';
import { type Definition, fieldById, type Outcome, type Rework, type StepOf, stepById } from './definition.ts';
import { evaluateFigures } from './evaluate.ts';
import type { Effect, RequestEvent } from './events.ts';
import { isOpen, type RequestState, type Task } from './state.ts';

/** Commands of people. `seen` is the version of the request that the person had in front of them. */
export const Command = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('submit'), answers: z.record(z.string(), z.unknown()) }),
  z.object({
    kind: z.literal('answer'),
    seen: z.number().int().nonnegative(),
    task: z.string(),
    outcome: z.string(),
    note: z.string().max(5000).nullish(),
  }),
  z.object({
    kind: z.literal('resubmit'),
    seen: z.number().int().nonnegative(),
    answers: z.record(z.string(), z.unknown()),
  }),
  z.object({ kind: z.literal('withdraw'), seen: z.number().int().nonnegative(), note: z.string().max(5000).nullish() }),
  z.object({ kind: z.literal('try again'), seen: z.number().int().nonnegative() }),
]);
export type Command = z.infer<typeof Command>;

/** A timer that has come due. */
export type TimerCommand = { kind: 'timer'; task: string; what: 'remind' | 'limit' };

export type Refusal = {
  code: 'stale' | 'not open' | 'not yours' | 'bad answers' | 'no such outcome' | 'note needed' | 'too many rounds';
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

export function handle(
  definition: Definition,
  state: RequestState,
  command: Command | TimerCommand,
  context: Context,
): Result {
  if (command.kind === 'timer') return timer(definition, state, command, context);
  if (command.kind === 'submit') return submit(definition, state, command.answers, context);
  if (!isOpen(state)) return refuse('not open', closedWords(definition, state, context));
  if (command.seen !== state.version) {
    return refuse('stale', `${lastWords(state, context)} Look at it as it is now, then decide.`);
  }
  switch (command.kind) {
    case 'answer':
      return answer(definition, state, command, context);
    case 'resubmit':
      return resubmit(definition, state, command.answers, context);
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

/** The leave that a request would book, with every reason why it may not. */
function leaveFaults(definition: Definition, answers: Answers, context: Context, asker: PersonId, request: string) {
  const faults: FieldFault[] = [];
  for (const step of definition.steps) {
    if (step.verb !== 'Record') continue;
    const span = answers[step.effect.span];
    const type = answers[step.effect.type];
    if (typeof span !== 'object' || span === null || typeof type !== 'string') continue;
    for (const obstacle of obstacles(context.book, asker, type, span, request)) {
      const field = obstacle.code === 'unknown type' ? step.effect.type : step.effect.span;
      if (!faults.some(f => f.message === obstacle.message)) faults.push({ field, message: obstacle.message });
    }
  }
  return faults;
}

function checkedAnswers(
  definition: Definition,
  input: unknown,
  context: Context,
  asker: PersonId,
  request: string,
): { ok: true; answers: Answers } | { ok: false; faults: FieldFault[] } {
  const types = context.book.types.map(t => t.id);
  const read = readAnswers(definition, input, types);
  if (!read.ok) return read;
  const faults = leaveFaults(definition, read.answers, context, asker, request);
  return faults.length > 0 ? { ok: false, faults } : read;
}

/** The faults that sending these answers would meet now, and the figures: what the asker sees while typing. */
export function preview(
  definition: Definition,
  input: Record<string, unknown>,
  context: Context,
  asker: PersonId,
  request = 'new',
) {
  const read = readAnswers(
    definition,
    input,
    context.book.types.map(t => t.id),
  );
  const known: Record<string, unknown> = { ...input };
  if (!read.ok) for (const fault of read.faults) known[fault.field] = null;
  const answers = known as Answers;
  const checked = checkedAnswers(definition, input, context, asker, request);
  return {
    faults: checked.ok ? [] : checked.faults,
    figures: evaluateFigures(definition, answers, context.book, asker, request).figures,
  };
}

function submit(definition: Definition, state: RequestState, input: unknown, context: Context): Result {
  if (state.status !== 'new') return refuse('stale', 'This request has been sent already.');
  const asker = context.actor;
  if (!asker) return refuse('not yours', 'Somebody has to ask.');
  const checked = checkedAnswers(definition, input, context, asker, state.request);
  if (!checked.ok) return refuse('bad answers', checked.faults[0].message, checked.faults);
  const course = new Course(definition, state, context);
  const { figures } = evaluateFigures(definition, checked.answers, context.book, asker, state.request);
  course.happen({ kind: 'asked', asker, answers: checked.answers, figures });
  course.hold();
  course.goOn({ to: 'next' }, definition.steps[0].id);
  return { ok: true, ...course.outcome() };
}

function answer(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'answer' }>,
  context: Context,
): Result {
  const task = state.tasks.find(t => t.id === command.task);
  if (!task) return refuse('not open', 'This is not waiting for anybody’s answer any more.');
  if (task.holder !== context.actor) {
    return refuse('not yours', `This waits for ${nameOf(context.index, task.holder)}, not for you.`);
  }
  const step = stepById(definition, task.step) as StepOf<'Decide'>;
  const outcome = step.outcomes.find(o => o.id === command.outcome);
  if (!outcome) {
    return refuse('no such outcome', `Choose one of: ${step.outcomes.map(o => o.label).join(', ')}.`);
  }
  const note = command.note?.trim() || null;
  if (outcome.note === 'must' && !note) {
    return refuse('note needed', `“${outcome.label}” needs a note.`, [
      { field: 'note', message: 'Write a short note.' },
    ]);
  }
  const rounds = state.rounds[`${step.id}/${outcome.id}`] ?? 0;
  if (outcome.leads.to === 'rework' && rounds >= outcome.leads.atMost) {
    return refuse(
      'too many rounds',
      `This was already sent back ${rounds} times, the most allowed. Choose another outcome.`,
    );
  }
  const course = new Course(definition, state, context);
  course.happen({
    kind: 'answered',
    step: step.id,
    task: task.id,
    outcome: outcome.id,
    note,
    coverFor: task.coverFor,
  });
  course.endTasks(`${nameOf(context.index, context.actor)} answered`);
  if (outcome.leads.to === 'rework') sendBack(course, step, outcome, outcome.leads, note);
  else course.goOn(outcome.leads, step.id);
  return { ok: true, ...course.outcome() };
}

function sendBack(course: Course, step: StepOf<'Decide'>, outcome: Outcome, rework: Rework, note: string | null): void {
  course.happen({
    kind: 'sent back',
    step: step.id,
    outcome: outcome.id,
    fields: rework.fields,
    resume: rework.resume,
    note,
  });
  const fields = rework.fields.map(id => fieldById(course.definition, id)?.label ?? id).join(', ');
  course.mailAsker(
    `Sent back: ${course.title()}`,
    `${nameOf(course.context.index, course.context.actor)} sent your request back.${note ? `\n\n“${note}”` : ''}\n\nYou may change: ${fields}.`,
  );
}

function resubmit(definition: Definition, state: RequestState, input: unknown, context: Context): Result {
  const { returned, asker } = state;
  if (state.status !== 'rework' || !returned || !asker)
    return refuse('not open', 'This request is not with you for rework.');
  if (context.actor !== asker) return refuse('not yours', `Only ${nameOf(context.index, asker)} may change this.`);
  const checked = checkedAnswers(definition, input, context, asker, state.request);
  if (!checked.ok) return refuse('bad answers', checked.faults[0].message, checked.faults);
  const changes = changesBetween(definition, state.answers, checked.answers);
  const barred = changes.filter(c => !returned.fields.includes(c.field));
  if (barred.length > 0) {
    const faults = barred.map(c => ({ field: c.field, message: 'This may not be changed now.' }));
    return refuse('bad answers', 'Only the fields that were sent back may be changed.', faults);
  }
  const course = new Course(definition, state, context);
  const { figures } = evaluateFigures(definition, checked.answers, context.book, asker, state.request);
  course.happen({ kind: 'reworked', answers: checked.answers, figures, changes });
  course.hold();
  course.goOn({ to: 'step', step: returned.resume }, returned.step);
  return { ok: true, ...course.outcome() };
}

function withdraw(definition: Definition, state: RequestState, note: string | null, context: Context): Result {
  if (context.actor !== state.asker) {
    return refuse('not yours', `Only ${nameOf(context.index, state.asker)} may withdraw this.`);
  }
  const course = new Course(definition, state, context);
  course.endTasks(`${nameOf(context.index, context.actor)} withdrew the request`);
  course.release('withdrawn');
  course.happen({ kind: 'withdrawn', note });
  return { ok: true, ...course.outcome() };
}

function tryAgain(definition: Definition, state: RequestState, context: Context): Result {
  if (state.status !== 'stuck' || !state.at) return refuse('not open', 'This request is not stuck.');
  const course = new Course(definition, state, context);
  course.happen({ kind: 'tried again' });
  course.goOn({ to: 'step', step: state.at }, state.at);
  return { ok: true, ...course.outcome() };
}

/** A timer whose task is gone does nothing: it is not an error to come too late. */
function timer(definition: Definition, state: RequestState, command: TimerCommand, context: Context): Result {
  const course = new Course(definition, state, context);
  const task: Task | undefined = state.tasks.find(t => t.id === command.task);
  if (task && isOpen(state)) {
    if (command.what === 'remind') course.remind(task);
    else if (!task.late) course.passLimit(task);
  }
  return { ok: true, ...course.outcome() };
}
