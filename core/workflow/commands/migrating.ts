/** Moving an open request to another version of its workflow, on purpose, when it fits there. */
import { isEmptyAnswer, readAnswers } from '../../form/index.ts';
import type { Definition } from '../definition/definition.ts';
import { splitsAround, stepById, stepNumber } from '../definition/structure.ts';
import { evaluateFigures } from '../figures/evaluate.ts';
import { isAsked, levelAt } from '../figures/filling.ts';
import type { Result } from '../request/command.ts';
import { type Context, factsOf, houseListsOf } from '../request/context.ts';
import type { RequestEvent } from '../request/events.ts';
import { reduce } from '../request/fold.ts';
import { isOpen, type RequestState } from '../request/state.ts';

/** Why an open request cannot go on by the other version; empty when it can. */
export function obstacles(before: Definition, after: Definition, state: RequestState, context: Context): string[] {
  if (!isOpen(state)) return ['It is not open any more.'];
  const found: string[] = [];
  const standing = new Set([
    ...state.at,
    ...state.tasks.map(t => t.step),
    ...(state.returned ? [state.returned.resume] : []),
  ]);
  for (const id of standing) {
    const old = stepById(before, id);
    const step = stepById(after, id);
    if (!old) continue;
    const where = `step ${stepNumber(before, id)} (${old.verb})`;
    if (!step) found.push(`It stands at ${where}, which is not there any more.`);
    else if (step.verb !== old.verb) found.push(`It stands at ${where}, which is ${step.verb} now.`);
    else {
      const around = (definition: Definition) =>
        splitsAround(definition, id)
          .map(s => s.id)
          .join('/');
      if (around(before) !== around(after)) found.push(`It stands at ${where}, which is in another lane now.`);
    }
  }
  const read = readAnswers(after.form, known(after, state), houseListsOf(context), () => 'may');
  for (const fault of read.ok ? [] : read.faults) {
    const label = after.form.fields.find(f => f.id === fault.field)?.label ?? fault.field;
    found.push(`Its answer to “${label}” does not fit any more: ${fault.message}`);
  }
  const facts = factsOf(context, state.asker!, state.subject, state.request);
  const { scope } = evaluateFigures(after, read.answers, facts);
  const [ask] = after.steps;
  for (const field of after.form.fields) {
    const needed = levelAt(after, ask.id, field) === 'required' && isAsked(after, field, scope, facts);
    if (needed && isEmptyAnswer(read.answers[field.id]) && !found.some(f => f.includes(`“${field.label}”`))) {
      found.push(`“${field.label}” is needed now, and it has no answer.`);
    }
  }
  const lost = before.form.fields.filter(
    f => !after.form.fields.some(g => g.id === f.id) && !isEmptyAnswer(state.answers[f.id]),
  );
  for (const field of lost) found.push(`Its answer to “${field.label}” would be lost; that field is gone.`);
  return found;
}

const known = (definition: Definition, state: RequestState): Record<string, unknown> =>
  Object.fromEntries(definition.form.fields.map(f => [f.id, state.answers[f.id] ?? null]));

/** Moves a request that fits; its figures are worked out anew, everything else stays as it stands. */
export function move(
  before: Definition,
  after: Definition,
  versions: { from: number; to: number; reason: string },
  state: RequestState,
  context: Context,
): Result {
  const found = obstacles(before, after, state, context);
  if (found.length > 0) return { ok: false, refusal: { code: 'not open', message: found.join(' ') } };
  const { answers } = readAnswers(after.form, known(after, state), houseListsOf(context), () => 'may');
  const facts = factsOf(context, state.asker!, state.subject, state.request);
  const { figures } = evaluateFigures(after, answers, facts);
  const event = { kind: 'moved' as const, ...versions, filled: { answers, figures, changes: [] } };
  const moved: RequestEvent = { ...event, at: context.now, by: context.actor };
  return { ok: true, events: [moved], effects: [], state: reduce(state, moved) };
}
