/** Leave whose days pass before it is decided: HR books it, or lets it end. Nobody else may book it any more. */
import { obstacles, obstacleWords } from '../../../leave/index.ts';
import { dateWords, yearOf } from '../../../time/index.ts';
import type { Definition } from '../../definition/definition.ts';
import { passedOn } from '../../execution/daysPassed.ts';
import type { Execution } from '../../execution/execution.ts';
import { type Command, type Result, refuse } from '../../request/command.ts';
import { type Context, whoseWords } from '../../request/context.ts';
import { isOpen, type RequestState } from '../../request/state.ts';
import { executionOf } from '../executionOf.ts';

/** It goes to HR when its days have passed; before that, it is looked at again. */
export function daysPass(execution: Execution): void {
  const { state } = execution;
  const last = passedOn(state, execution.context);
  if (last === null) return execution.watchDays();
  if (state.stuckAt.some(one => one.reason.code === 'days have passed')) return;
  const reason = { code: 'days have passed', last } as const;
  execution.endTasks(reason);
  execution.stuck(state.at[0] ?? execution.definition.steps[0].id, reason);
}

/** What may still be done with it by anybody: all else is refused. */
const stillOpen: ReadonlySet<string> = new Set([
  ...['book past', 'let end', 'withdraw', 'comment', 'look', 'move date'],
  ...['done by hand', 'ask again', 'go on without'],
]);

export function barredByDays(state: RequestState, command: { readonly kind: string }, context: Context) {
  const last = stillOpen.has(command.kind) ? null : passedOn(state, context);
  return last === null
    ? null
    : refuse(
        'not open',
        `Its last day was ${dateWords(last, yearOf(context.now))}, before it was decided. HR operations book it, or let it end.`,
      );
}

export type PastCommand = Extract<Command, { kind: 'book past' | 'let end' }>;
export const isPast = (command: Command): command is PastCommand =>
  command.kind === 'book past' || command.kind === 'let end';

export function decidePast(
  definition: Definition,
  state: RequestState,
  command: PastCommand,
  context: Context,
): Result {
  const last = passedOn(state, context);
  if (!isOpen(state) || last === null) return refuse('not open', 'Its days have not passed, or it has been decided.');
  const execution = executionOf(definition, state, context);
  const title = execution.title();
  const { reason } = command;
  if (command.kind === 'let end') {
    execution.endTasks({ code: 'days have passed', last });
    if (state.approved) execution.keepAsApproved({ code: 'days have passed', last });
    else {
      execution.release({ code: 'days have passed', last });
      execution.undoProvided();
      execution.emit({ kind: 'let end', last, reason });
      execution.mailAsker(
        `Ended: ${title}`,
        `Its last day was ${dateWords(last, yearOf(context.now))}, and it had not been decided. ${execution.who(context.actor)} let it end: ${reason}`,
      );
    }
    return { ok: true, ...execution.outcome() };
  }
  const held = state.leave?.state === 'held' ? state.leave : state.leave?.instead;
  const closing =
    definition.closings.find(one => one.id === state.approved?.closing) ??
    definition.closings.find(one => one.tone === 'good');
  if (!held || !closing) return refuse('not open', 'This workflow has no end by which leave is granted.');
  const how = { request: state.request, how: 'by HR' } as const;
  const obstacle = obstacles(context.book, execution.subject, held.type, held.span, how).find(
    one => one.code !== 'over balance',
  );
  if (obstacle)
    return refuse(
      'bad answers',
      obstacleWords(obstacle, { ...context.book, whose: whoseWords(context, execution.subject) }),
    );
  execution.endTasks({ code: 'days have passed', last });
  execution.emit({
    kind: 'booked',
    ...{ type: held.type, span: held.span, planner: state.leave?.planner ?? false, reason },
  });
  execution.emit({ kind: 'closed', closing: closing.id });
  execution.mailAsker(
    `Booked: ${title}`,
    `${execution.who(context.actor)} booked it after its days had passed: ${reason}`,
  );
  return { ok: true, ...execution.outcome() };
}
