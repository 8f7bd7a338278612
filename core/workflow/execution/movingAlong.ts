/** Open tasks that go to whoever has the step by the records as they are now, where the workflow says so. */

import type { DirectoryIndex } from '../../people/index.ts';
import { toMilliseconds } from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';
import { peopleWords } from '../language/ruleWords.ts';
import { dueFor } from '../request/context.ts';
import { assignTo, dueOf, find, meantOf, personStep, tellAsker } from './assigning.ts';
import type { Execution } from './execution.ts';

/** What becomes of open tasks when somebody else would have their step, in words. */
export const tasksMoveWords = ({ tasksMove }: Pick<Definition, 'tasksMove'>): string =>
  tasksMove
    ? 'When somebody else would have a step, what is open goes to them.'
    : 'When somebody else would have a step, what is open stays with whom it is with.';

/** Who looks after a request whose owner is not here any more, in words. */
export const ownedNextWords = ({ ownedNext }: Pick<Definition, 'ownedNext'>, index?: DirectoryIndex): string =>
  `When the owner leaves or is away for long, the request goes to ${ownedNext ? `${peopleWords(ownedNext, index)}, else to ` : ''}their cover, else to HR operations.`;

/**
 * Limits of open tasks counted anew by the records as they are now, from when each was given. One that would be over already
 * stays as it was: nobody is late by a change of the calendar. A clock that stood still, or a limit that went on from
 * before, is not counted from the beginning again.
 */
export function limitsFollow(execution: Execution): void {
  const { context } = execution;
  for (const task of execution.state.tasks) {
    const step = personStep(execution, task.step);
    if (!step?.limit || task.due === null || task.late || task.question || task.aside) continue;
    const { within } = step.limit;
    const hangs = 'byPlan' in within || 'workingDaysBefore' in within;
    const due = hangs
      ? dueOf(execution, step, task.holder, within)
      : dueFor({ ...context, now: task.given }, task.holder, within);
    if (!('at' in due) || due.at === task.due || due.reason.code !== task.dueReason?.code) continue;
    if (toMilliseconds(due.at) <= toMilliseconds(context.now)) continue;
    execution.emit({ kind: 'due again', task: task.id, due: due.at, dueReason: due.reason });
    execution.timer(task.id, 'limit', due.at);
  }
}

/** What somebody was named for, was handed or is in the middle of stays; so do voices that are counted together. */
export function moveAlong(execution: Execution): void {
  if (!execution.definition.tasksMove) return;
  for (const task of [...execution.state.tasks]) {
    const step = personStep(execution, task.step);
    const isGiven = task.reasons.some(reason => reason.code === 'named by' || reason.code === 'handed over');
    if (!step || isGiven || task.aside || task.question || task.pool === 'taken') continue;
    if (step.verb === 'Decide' && step.count !== undefined) continue;
    const found = find(execution, step);
    if (!found.ok) continue;
    const meant = meantOf(task);
    const stays = found.holders.some(
      one => one.person === task.holder || one.person === meant || one.coverFor === meant,
    );
    if (stays) continue;
    const reason = { code: 'somebody else has it by now' } as const;
    execution.emit({ kind: 'ended', task: task.id, reason });
    execution.mail(task.holder, `No longer needed: ${execution.title()}`, execution.noLongerNeeded(reason));
    const asked = new Set(execution.state.tasks.filter(one => one.step === step.id).map(one => one.holder));
    const fresh = found.holders.filter(one => !asked.has(one.person));
    for (const holder of fresh) assignTo(execution, step, holder, found.reasons);
    if (fresh.length > 0)
      tellAsker(
        execution,
        `It went to ${fresh.map(one => execution.who(one.person)).join(', ')}, who has it by now instead of ${execution.who(task.holder)}.`,
      );
  }
}
