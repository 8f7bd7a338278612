/** Clarifying: the holder of a step asks the asker something, and the clock of the step stands still until the reply. */

import type { Definition } from '../definition/definition.ts';
import { personStep } from '../execution/assigning.ts';
import { Course } from '../execution/execution.ts';
import { type Command, type Result, refuse } from '../request/command.ts';
import { type Context, dueAfterPause, dueFor, nameOf } from '../request/context.ts';
import type { RequestState } from '../request/state.ts';
import { heldTask } from './answering.ts';

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
  if (state.asker === context.actor) return refuse('not yours', 'You asked for this yourself.');
  const course = new Course(definition, state, context);
  course.happen({ kind: 'questioned', step: task.step, task: task.id, question: command.question });
  course.mailAsker(
    `A question: ${course.title()}`,
    `${course.who(context.actor)} asks: “${command.question}”\n\nYour request waits for your reply.`,
  );
  return { ok: true, ...course.outcome() };
}

export function reply(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'reply' }>,
  context: Context,
): Result {
  const task = state.tasks.find(t => t.id === command.task);
  if (!task?.question) return refuse('not open', 'Nothing is asked here any more.');
  if (context.actor !== state.asker && context.actor !== state.subject) {
    return refuse('not yours', `${nameOf(context.index, state.asker)} is asked, not you.`);
  }
  const course = new Course(definition, state, context);
  const due = task.due && !task.late ? dueAfterPause(context, task.holder, task.due, task.question.at) : null;
  const at = due && 'at' in due ? due.at : task.due;
  const remind = personStep(course, task.step)?.limit?.remind;
  const next = remind && task.reminders < remind.atMost ? dueFor(context, task.holder, remind.after) : null;
  const remindAt = next && 'at' in next ? next.at : null;
  course.happen({
    kind: 'replied',
    step: task.step,
    task: task.id,
    reply: command.reply,
    due: at,
    dueReason: due && 'at' in due ? due.reason : task.dueReason,
    ...(remindAt ? { remindAt } : {}),
  });
  if (at && !task.late) course.timer(task.id, 'limit', at);
  if (remindAt) course.timer(task.id, 'remind', remindAt);
  course.mail(
    task.question.by,
    `Replied: ${course.title()}`,
    `${course.who(context.actor)} replies: “${command.reply}”\n\nYou asked: “${task.question.text}”`,
  );
  return { ok: true, ...course.outcome() };
}
