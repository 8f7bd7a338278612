/** Clarifying: the holder of a step asks the asker something, and the clock of the step stands still until the reply. */

import type { Definition } from '../definition/definition.ts';
import { personStep } from '../execution/assigning.ts';
import type { Execution } from '../execution/execution.ts';
import { writeOutside } from '../execution/inviting.ts';
import { type Command, type Result, refuse } from '../request/command.ts';
import { type Context, dueAfterPause, dueFor, nameOf } from '../request/context.ts';
import { mayActForAsker, ownerOf, type RequestState, type Task } from '../request/state.ts';
import { heldTask } from './answering.ts';
import { executionOf } from './executionOf.ts';

export function ask(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'ask' }>,
  context: Context,
): Result {
  const found = heldTask(definition, state, command.task, context);
  if ('refused' in found) return found.refused;
  const { task } = found;
  if (task.question) return refuse('not open', 'A question is open already; wait for the reply.');
  if (task.pool === 'free') return refuse('not open', 'Take it first.');
  if (ownerOf(state) === context.actor && !state.outside) return refuse('not yours', 'You asked for this yourself.');
  const execution = executionOf(definition, state, context);
  execution.emit({ kind: 'questioned', step: task.step, task: task.id, question: command.question });
  if (state.outside)
    writeOutside(execution, {
      subject: `A question for you: ${definition.name}`,
      body: `Hello ${state.outside.name},\n\n${execution.who(context.actor)} asks: “${command.question}”\n\nIt waits for your reply; you give it on your own page.`,
    });
  else
    execution.mailAsker(
      `A question: ${execution.title()}`,
      `${execution.who(context.actor)} asks: “${command.question}”\n\nYour request waits for your reply.`,
    );
  return { ok: true, ...execution.outcome() };
}

export function reply(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'reply' }>,
  context: Context,
): Result {
  const task = state.tasks.find(t => t.id === command.task);
  if (!task?.question) return refuse('not open', 'Nothing is asked here any more.');
  if (!mayActForAsker(state, context.actor)) {
    return refuse('not yours', `${nameOf(context.index, ownerOf(state))} is asked, not you.`);
  }
  const execution = executionOf(definition, state, context);
  replied(execution, { ...task, question: task.question }, command.reply, null);
  return { ok: true, ...execution.outcome() };
}

/** The clock of the task goes on, and whoever asked reads the reply. @param guest who replied, where they are on no file */
export function replied(
  execution: Execution,
  task: Task & { readonly question: NonNullable<Task['question']> },
  words: string,
  guest: string | null,
): void {
  const { context } = execution;
  const due = task.due && !task.late ? dueAfterPause(context, task.holder, task.due, task.question.at) : null;
  const at = due && 'at' in due ? due.at : task.due;
  const remind = personStep(execution, task.step)?.limit?.remind;
  const next = remind && task.reminders < remind.atMost ? dueFor(context, task.holder, remind.after) : null;
  const remindAt = next && 'at' in next ? next.at : null;
  execution.emit({
    kind: 'replied',
    step: task.step,
    task: task.id,
    reply: words,
    ...(guest === null ? {} : { guest }),
    due: at,
    dueReason: due && 'at' in due ? due.reason : task.dueReason,
    ...(remindAt ? { remindAt } : {}),
  });
  if (at && !task.late) execution.timer(task.id, 'limit', at);
  if (remindAt) execution.timer(task.id, 'remind', remindAt);
  execution.mail(
    task.question.by,
    `Replied: ${execution.title()}`,
    `${guest ?? execution.who(context.actor)} replies: “${words}”\n\nYou asked: “${task.question.text}”`,
  );
}
