/** What comes back from connections, and what HR operations do where they do not: one way for all effects. */
import { type Change, GivenFile } from '../../form/index.ts';
import type { Definition, Step } from '../definition/definition.ts';
import { stepById } from '../definition/structure.ts';
import type { Execution } from '../execution/execution.ts';
import { evaluateFigures } from '../figures/evaluate.ts';
import { type Command, type EffectCommand, type Result, refuse } from '../request/command.ts';
import { type Context, factsOf } from '../request/context.ts';
import type { Filled, NamedValues } from '../request/events.ts';
import type { Reason } from '../request/reason.ts';
import { isOpen, type RequestState, type Undelivered } from '../request/state.ts';
import { executionOf } from './executionOf.ts';

export type HandCommand = Extract<Command, { kind: 'done by hand' | 'ask again' | 'go on without' }>;
export const isHandCommand = (command: Command): command is HandCommand =>
  command.kind === 'done by hand' || command.kind === 'ask again' || command.kind === 'go on without';

const outstanding = (state: RequestState, key: string): Undelivered | undefined =>
  (state.undelivered ?? []).find(one => one.key === key && !one.givenUp);

/** The answers with what came back put into the fields that the step names. */
function filledWith(execution: Execution, step: string, result: NamedValues): Filled | undefined {
  const { definition, state } = execution;
  const found = stepById(definition, step);
  if (found?.verb === 'Record' && found.effect.kind === 'make letter') {
    const { field } = found.effect;
    const file = GivenFile.safeParse(result.file);
    if (!file.success) return undefined;
    return filledBy(execution, [{ field, before: state.answers[field] ?? null, after: [file.data] }]);
  }
  if (found?.verb !== 'Provision' || !found.fills) return undefined;
  const changes = found.fills.flatMap(({ from, field }) => {
    const after = result[from];
    const before = state.answers[field] ?? null;
    const fits = typeof after === 'string' || typeof after === 'number' || typeof after === 'boolean';
    return fits && after !== before ? [{ field, before, after }] : [];
  });
  return changes.length === 0 ? undefined : filledBy(execution, changes);
}

/** The answers with changes, and the figures that follow. */
function filledBy(execution: Execution, changes: readonly Change[]): Filled {
  const { definition, state, context } = execution;
  const answers = { ...state.answers, ...Object.fromEntries(changes.map(c => [c.field, c.after])) };
  const { figures } = evaluateFigures(
    definition,
    answers,
    factsOf(context, execution.asker, state.subject, state.request),
  );
  return { answers, figures, changes };
}

const isLetter = (step: Step | undefined): boolean => step?.verb === 'Record' && step.effect.kind === 'make letter';

/** The step that waited for it goes on, where an outcome leads it. */
function goOnFrom(execution: Execution, step: string, reason: Reason): void {
  const found = stepById(execution.definition, step);
  const waits = (found?.verb === 'Provision' && found.waits) || isLetter(found);
  if (!waits || !execution.state.at.includes(step)) return;
  execution.emit({ kind: 'waited', step, reason });
  execution.goOn({ to: 'next' }, step);
}

function deliver(execution: Execution, one: Undelivered, result: NamedValues, note?: string): void {
  const filled = filledWith(execution, one.step, result);
  execution.emit({
    kind: 'delivered',
    step: one.step,
    key: one.key!,
    result,
    ...(note === undefined ? {} : { note }),
    ...(filled ? { filled } : {}),
  });
  goOnFrom(execution, one.step, { code: 'it is done' });
  execution.letOut();
}

/** What a connection answered. One that answers twice is heard once. */
export function effect(definition: Definition, state: RequestState, command: EffectCommand, context: Context): Result {
  const execution = executionOf(definition, state, context);
  const { key, outcome } = command;
  const nothing = { ok: true as const, ...execution.outcome() };
  if (outcome.state === 'undone') {
    const provided = (state.provided ?? []).find(one => one.key === key);
    if (!provided) return nothing;
    const { stays } = outcome;
    execution.emit({ kind: 'undone', step: provided.step, key, ...(stays === undefined ? {} : { stays }) });
    return { ok: true, ...execution.outcome() };
  }
  const one = outstanding(state, key);
  if (!one) return nothing;
  if (outcome.state === 'delivered') {
    deliver(execution, one, outcome.result);
    return { ok: true, ...execution.outcome() };
  }
  execution.emit({ kind: 'refused', step: one.step, key, reason: outcome.reason });
  const step = stepById(definition, one.step);
  if (isLetter(step) && step && isOpen(state) && state.at.includes(step.id))
    execution.stuck(step.id, { code: 'refused outside', what: one.what, said: outcome.reason });
  else if (step?.verb === 'Provision' && step.waits && isOpen(state) && state.at.includes(step.id)) {
    if (step.refused) {
      execution.emit({ kind: 'waited', step: step.id, reason: { code: 'was refused', said: outcome.reason } });
      execution.note = outcome.reason;
      execution.goOn(step.refused, step.id);
    } else execution.stuck(step.id, { code: 'refused outside', what: one.what, said: outcome.reason });
  }
  return { ok: true, ...execution.outcome() };
}

/** HR operations help where a connection did not: on requests that are open and on those that have ended. */
export function byHand(definition: Definition, state: RequestState, command: HandCommand, context: Context): Result {
  const one = outstanding(state, command.key);
  if (!one) return refuse('not open', 'This is done already, or was given up.');
  const execution = executionOf(definition, state, context);
  switch (command.kind) {
    case 'done by hand':
      execution.effect({ kind: 'call off', key: `${command.key}:by hand`, of: command.key });
      deliver(execution, one, {}, command.note.trim());
      break;
    case 'ask again':
      if (one.refused === undefined) return refuse('not open', 'It is on its way already.');
      execution.emit({ kind: 'asked again', step: one.step, key: command.key });
      execution.effect({ kind: 'again', key: `${command.key}:${state.version}`, of: command.key });
      break;
    case 'go on without': {
      execution.effect({ kind: 'call off', key: `${command.key}:given up`, of: command.key });
      execution.emit({ kind: 'given up', step: one.step, key: command.key, note: command.note.trim() });
      goOnFrom(execution, one.step, { code: 'goes on without it', by: context.actor });
      break;
    }
  }
  return { ok: true, ...execution.outcome() };
}
