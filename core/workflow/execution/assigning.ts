/** Giving a step to people: whom, until when, what is asked again and what is not, and what happens at the limit. */

import {
  type Found,
  type Gap,
  type Holder,
  hrOperations,
  lineAbove,
  type PersonId,
  type Question,
  type Resolution,
  resolve,
  takenBy,
} from '../../people/index.ts';
import { type Instant, toMilliseconds } from '../../time/index.ts';
import {
  fieldById,
  type LimitTime,
  type Outcome,
  type PersonStep,
  type Rework,
  type StepOf,
} from '../definition/definition.ts';
import { roleOf, stepById } from '../definition/structure.ts';
import { levelAt } from '../figures/filling.ts';
import { leaveInMail } from '../mail/leaveInMail.ts';
import { dueWords, factsInMail } from '../mail/letters.ts';
import { planOf } from '../planning/plan.ts';
import { type Context, type Due, dueBefore, dueFor, dueOn, todayOf } from '../request/context.ts';
import type { Attached } from '../request/outgoing.ts';
import type { Reason } from '../request/reason.ts';
import type { Task } from '../request/state.ts';
import type { Execution } from './execution.ts';
import { mailedOutcomes, openOutcomes, type Settled, type Settlement, settle } from './voting.ts';

/** Nobody decides their own wish; a step at which the asker answers for the course of the request alone may be theirs. */
export const mayBeAsker = (step: PersonStep): boolean => step.verb === 'Do' || step.askerMay === true;

/** What a rule is asked that gives nobody a step: who may be told, or may do something about the request. */
export const questionFor = (execution: Execution): Question => ({
  ...questionAbout(execution),
  mayBeAsker: true,
  away: [],
  whenAway: 'waits',
});

export const questionOf = (execution: Execution, step: PersonStep): Question => ({
  ...questionAbout(execution),
  // Who keeps it in the house for somebody outside has no wish of their own in it.
  mayBeAsker: mayBeAsker(step) || execution.state.outside !== undefined,
  whenAway: step.whenAway,
});

function questionAbout(execution: Execution) {
  const { context } = execution;
  return {
    index: context.index,
    day: todayOf(context, execution.asker),
    asker: execution.asker,
    subject: execution.subject,
    ...(execution.state.owner === undefined ? {} : { owner: execution.state.owner }),
    facts: execution.ruleFacts(),
    away: context.away,
    workflow: context.workflow,
  };
}

/** Whom a rule finds for a step of this request. */
export const find = (execution: Execution, step: PersonStep, who = step.who): Resolution =>
  resolve(who, questionOf(execution, step));

/** A step as its answers are counted now. */
const countable = ({ state }: Execution, step: StepOf<'Decide'>): StepOf<'Decide'> => ({
  ...step,
  outcomes: openOutcomes(step, state),
});

export function assign(execution: Execution, step: PersonStep): void {
  const found = find(execution, step);
  if (!found.ok) return execution.stuck(step.id, found.gap);
  if (step.verb === 'Do') {
    for (const holder of found.holders) assignTo(execution, step, holder, found.reasons);
    return;
  }
  if (openOutcomes(step, execution.state).length === 0) {
    return execution.stuck(step.id, { code: 'every outcome spent' });
  }
  const of = found.holders.length;
  if (typeof step.count === 'object' && step.count.atLeast > of) {
    return execution.stuck(step.id, { code: 'too few answer', needed: step.count.atLeast, found: of });
  }
  const counted = step.count === undefined ? undefined : of;
  const waiting: { holder: Holder; again: Reason | null }[] = [];
  for (const holder of found.holders) {
    const before = keptAnswer(execution, step, holder);
    if (before && 'outcome' in before) {
      execution.emit({ kind: 'kept', step: step.id, holder: holder.person, ...before });
    } else waiting.push({ holder, again: before?.again ?? null });
  }
  const settled = settle(countable(execution, step), execution.state.votes[step.id] ?? [], of);
  if (settled) return conclude(execution, step, settled, true);
  const [first, ...rest] = waiting;
  const reasonsFor = (again: Reason | null): readonly Reason[] => (again ? [...found.reasons, again] : found.reasons);
  if (step.count === 'in turn') {
    return assignTo(execution, step, first.holder, reasonsFor(first.again), { of, rest: rest.map(w => w.holder) });
  }
  for (const { holder, again } of waiting) assignTo(execution, step, holder, reasonsFor(again), { of: counted });
}

/**
 * An earlier answer of this person that still stands: after a rework when nothing changed that they looked at,
 * or because they approved the step before and would be asked twice in a row: where the step asks nobody twice, and
 * always where one of the two comes to them in somebody else's place.
 */
function keptAnswer(
  execution: Execution,
  step: StepOf<'Decide'>,
  { person, coverFor }: Holder,
): Settled | { again: Reason } | undefined {
  const { definition, state } = execution;
  const good = (id: string) => step.outcomes.find(o => o.id === id)?.tone === 'good';
  const given = state.answered[step.id]?.find(g => g.person === person);
  if (given && good(given.outcome) && given.round < state.reworks) {
    const seen = (id: string) => {
      const field = fieldById(definition, id);
      return field ? levelAt(definition, step.id, field) !== 'hidden' : definition.figures.some(f => f.id === id);
    };
    const changed = given.changed.filter(seen);
    if (changed.length === 0) return { outcome: given.outcome, reason: { code: 'answered before', person } };
    return { again: { code: 'asked again', fields: changed } };
  }
  const last = state.settled[state.settled.length - 1];
  const inPlace = coverFor !== null || (last?.stoodIn?.includes(person) ?? false);
  if ((step.once || inPlace) && last && last.step !== step.id && last.people.includes(person)) {
    const before = stepById(definition, last.step);
    const agreed = before?.verb === 'Decide' && before.outcomes.find(o => o.id === last.outcome)?.tone === 'good';
    const outcome = step.outcomes.find(o => o.tone === 'good');
    if (agreed && outcome) return { outcome: outcome.id, reason: { code: 'approved the step before', person } };
  }
  return undefined;
}

/** When a step is due for a holder. */
export function dueOf(execution: Execution, step: PersonStep, holder: PersonId, within: LimitTime): Due {
  if ('byPlan' in within) return dueByPlan(execution, step, holder);
  if (!('workingDaysBefore' in within)) return dueFor(execution.context, holder, within);
  const { workingDaysBefore, field } = within;
  const date = execution.dateOf(field);
  if (!date) return { never: { code: 'field not known', field } };
  const from = { subject: execution.subject, place: execution.placeOn(date), date, field };
  return dueBefore(execution.context, holder, workingDaysBefore, from);
}

/** The last day that the plan leaves for a step. */
function dueByPlan(execution: Execution, step: PersonStep, holder: PersonId): Due {
  const found = planOf(execution.definition, execution.state, execution.context);
  if (!found) return { never: { code: 'nothing counts back' } };
  if (!found.ok) return { never: found.reason };
  const { date, field, place, lines } = found.plan;
  const days = lines.find(line => line.step === step.id)?.days;
  if (!days) return { never: { code: 'nothing counts back' } };
  return dueOn(execution.context, holder, days.latestFinish, { subject: execution.subject, place, date, field });
}

/** How a task is given besides to whom: its turn, and what it takes over from a task before it. */
type Assignment = {
  of?: number;
  rest?: readonly Holder[];
  /** Its limit goes on, it does not begin anew. */
  due?: Task['due'];
  lentBy?: PersonId;
  /** For whom it was meant, when it comes to somebody else by a limit or by being passed on. */
  meantFor?: PersonId;
  had?: readonly PersonId[];
  note?: string | null;
};

export function assignTo(
  execution: Execution,
  step: PersonStep,
  holder: Holder,
  reasons: readonly Reason[],
  assignment: Assignment = {},
): void {
  const { state } = execution;
  const task = `${state.request}.${state.given + 1}`;
  const due: Due | null =
    assignment.due === undefined
      ? step.limit
        ? dueOf(execution, step, holder.person, step.limit.within)
        : null
      : assignment.due && { at: assignment.due, reason: { code: 'limit goes on' } };
  const remind = step.limit?.remind ? dueFor(execution.context, holder.person, step.limit.remind.after) : null;
  const dueAt = due && 'at' in due ? due.at : null;
  const remindAt = remind && 'at' in remind && isBefore(remind.at, dueAt) ? remind.at : null;
  execution.emit({
    kind: 'given',
    step: step.id,
    task,
    holder: holder.person,
    coverFor: holder.coverFor,
    reasons,
    due: due && 'at' in due ? due.at : null,
    dueReason: due && ('at' in due ? due.reason : { code: 'no due time', why: due.never }),
    ...(step.verb === 'Do' && step.pool ? { pool: true as const } : {}),
    ...(assignment.of === undefined ? {} : { of: assignment.of }),
    ...(assignment.rest ? { rest: assignment.rest } : {}),
    ...(remindAt ? { remindAt } : {}),
    ...(assignment.lentBy ? { lentBy: assignment.lentBy } : {}),
    ...(assignment.meantFor && assignment.meantFor !== holder.person ? { meantFor: assignment.meantFor } : {}),
    ...(assignment.had ? { had: assignment.had } : {}),
  });
  if (due && 'at' in due && toMilliseconds(due.at) > toMilliseconds(execution.context.now)) {
    execution.timer(task, 'limit', due.at);
  }
  if (remindAt) execution.timer(task, 'remind', remindAt);
  mailHolder(execution, step, task, holder.person, assignment.note ?? null);
}

/** A reminder comes in time: what would come with the deadline or after it reminds nobody. */
const isBefore = (at: Instant, due: Instant | null): boolean =>
  due === null || toMilliseconds(at) < toMilliseconds(due);

const dueSentence = (context: Context, task: Task | undefined): string =>
  task?.due ? ` It is due ${dueWords(context, task.holder, task.due)}.` : '';

/** What a holder decides by, or does their work by. */
function toDecideBy({ definition, state, context }: Execution, step: PersonStep, reader: PersonId): string {
  const facts = factsInMail(definition, state, context, step.id);
  return (
    step.verb === 'Decide' ? [...facts, ...leaveInMail(definition, state, context, step.id, reader)] : facts
  ).join('\n');
}

function mailHolder(
  execution: Execution,
  step: PersonStep,
  taskId: string,
  holder: PersonId,
  note: string | null,
): void {
  const task = execution.state.tasks.find(t => t.id === taskId);
  const asker = execution.askerName();
  const cover = task?.coverFor ? ` You stand in for ${execution.who(task.coverFor)}.` : '';
  const what = step.verb === 'Decide' ? 'decide' : 'do';
  const todo = step.verb === 'Do' ? ` To be done: ${step.task}.` : '';
  const due = dueSentence(execution.context, task);
  const facts = toDecideBy(execution, step, task?.coverFor ?? holder);
  execution.mail(
    holder,
    `For you to ${what}${execution.state.approved ? ' again' : ''}: ${asker}${execution.forWhom()}, ${execution.title()}`,
    `${afterApproval(execution)}${asker} asks${execution.forWhom()}: ${execution.title()}.${todo}${due}${cover}${facts && `\n\n${facts}`}${note ? `\n\n“${note}”` : ''}${byMail(execution, step)}`,
    { ...(step.verb === 'Decide' ? { task: taskId } : {}), ...forRole(step), ...withFiles(execution, step) },
  );
}

/** The files that somebody decides by go along. */
const withFiles = (execution: Execution, step: PersonStep): { attach?: Attached } => {
  const attach = execution.filesAt(step.id);
  return attach ? { attach } : {};
};

/** What was approved already and is asked about again. */
function afterApproval(execution: Execution): string {
  const { approved } = execution.state;
  if (!approved) return '';
  return approved.what === 'cancel'
    ? 'This was approved, and is to be cancelled: until you decide, it stays as it is.\n\n'
    : 'This was approved, and is to be changed: until you decide, what was approved stands.\n\n';
}

/** Whether a step comes to a role, so that its mails may be turned off by those who share it. */
const forRole = (step: PersonStep): { forRole?: true } =>
  roleOf(step) !== null || (step.verb === 'Do' && step.pool) ? { forRole: true } : {};

/** How a decision can be given by a reply to the mail. */
function byMail({ definition, state }: Execution, step: PersonStep): string {
  if (step.verb !== 'Decide') return '';
  const outcomes = mailedOutcomes(definition, step, state);
  if (outcomes.length === 0) return '';
  const named = (outcomes: readonly Outcome[], last: string) =>
    outcomes
      .map(o => `“${o.label}”`)
      .reduce((words, one, n, all) => `${words}${n === all.length - 1 ? last : ', '}${one}`);
  const noted = outcomes.filter(o => o.note === 'must');
  const notes = noted.length > 0 ? ` Below ${named(noted, ' and ')} a note is needed.` : '';
  return `\n\nYou can answer by replying to this mail: write ${named(outcomes, ' or ')} as the first line.${notes}`;
}

/** The step of a task, when people hold it. */
export const personStep = (execution: Execution, id: string): PersonStep | undefined => {
  const step = stepById(execution.definition, id);
  return step?.verb === 'Decide' || step?.verb === 'Do' ? step : undefined;
};

export function remind(execution: Execution, task: Task): void {
  const step = personStep(execution, task.step);
  const remind = step?.limit?.remind;
  if (!step || !remind || task.reminders >= remind.atMost) return;
  // None is set any more: the next would have come with the deadline.
  if (task.reminders > 0 && task.remindAt === undefined) return;
  const again = task.reminders + 1 < remind.atMost;
  const next = again ? dueFor(execution.context, task.holder, remind.every ?? remind.after) : null;
  const remindAt = next && 'at' in next && isBefore(next.at, task.due) ? next.at : null;
  execution.emit({ kind: 'reminded', task: task.id, ...(remindAt ? { remindAt } : {}) });
  const asker = execution.askerName();
  const todo = step.verb === 'Do' ? ` To be done: ${step.task}.` : '';
  const facts = toDecideBy(execution, step, task.coverFor ?? task.holder);
  // It says what the first mail said, and is answered like it.
  execution.mail(
    task.holder,
    `Reminder: ${asker}${execution.forWhom()}, ${execution.title()}`,
    `This still waits for your answer.${todo}${dueSentence(execution.context, task)}${facts && `\n\n${facts}`}${byMail(execution, step)}`,
    { ...(step.verb === 'Decide' ? { task: task.id } : {}), ...forRole(step) },
  );
  if (remindAt) execution.timer(task.id, 'remind', remindAt);
}

/** The limit has passed: it stays late where it is, goes to somebody else, is decided, or somebody is told. */
export function passLimit(execution: Execution, task: Task): void {
  const step = personStep(execution, task.step);
  if (!step?.limit) return;
  const { atLimit } = step.limit;
  const late = (next: Reason) => {
    execution.emit({ kind: 'passed limit', task: task.id, next });
    execution.mail(
      task.holder,
      `Past the limit: ${execution.title()}`,
      'This is late and still waits for your answer.',
    );
    tellAsker(execution, `It is late: it still waits for ${execution.who(task.holder)}, whose limit has passed.`);
  };
  if (atLimit === 'wait') return late({ code: 'goes on waiting' });
  if (atLimit === 'pass up') {
    const meant = meantOf(task);
    const had = [...(task.had ?? []), task.holder, meant];
    const next = nextAbove(execution, meant, had);
    if ('gap' in next) {
      late({ code: 'nobody above, HR operations told' });
      return execution.mail(
        hrOperations,
        `Nobody is left to pass it up to: ${execution.title()}`,
        `The deadline of ${execution.who(task.holder)} has passed, and nobody above them is left to ask. Name somebody to handle this step.`,
      );
    }
    const taken = takenBy(next.person, questionOf(execution, step));
    // Whoever let the limit pass does not get it back as the cover of the manager above.
    const comesBack = had.includes(taken.holder.person);
    const holder = comesBack ? { person: next.person.id, coverFor: null } : taken.holder;
    const reasons = comesBack ? next.reasons : [...next.reasons, ...taken.reasons];
    return passTo(execution, step, task, [holder], reasons, 'passed up at limit', [...had, next.person.id]);
  }
  if ('passTo' in atLimit) {
    const found = find(execution, step, atLimit.passTo);
    const others = found.ok ? found.holders.filter(h => h.person !== task.holder) : [];
    if (!found.ok || others.length === 0) return late({ code: 'nobody else, goes on waiting' });
    return passTo(execution, step, task, others, found.reasons, 'passed on at limit');
  }
  if ('tell' in atLimit) {
    // Telling is not deciding: the asker may be told of their own request, and whoever is away reads it later.
    const found = resolve(atLimit.tell, questionFor(execution));
    const told = found.ok ? found.holders.map(h => h.person) : [];
    late(told.length > 0 ? { code: 'told of it', people: told } : { code: 'nobody to tell' });
    for (const person of told) {
      // The asker has been told already, as of everything that is late.
      if (!execution.askers().includes(person) && person !== task.holder)
        execution.mail(
          person,
          `Past the limit: ${execution.title()}`,
          `This still waits for ${execution.who(task.holder)}.`,
        );
    }
    return;
  }
  if (step.verb === 'Do') return late({ code: 'goes on waiting' });
  // What was sent back as often as it may be is not sent back once more by nobody.
  const outcome = openOutcomes(step, execution.state).find(o => o.id === atLimit.take);
  if (!outcome) return late({ code: 'goes on waiting' });
  execution.emit({
    kind: 'passed limit',
    task: task.id,
    next: { code: 'outcome taken', step: step.id, outcome: outcome.id },
  });
  lead(execution, step, { outcome: outcome.id, reason: { code: 'nobody in time' } }, true);
}

/** The next in the line of whoever it was meant for: above everybody who had it, and never one of them again. */
function nextAbove(execution: Execution, meant: PersonId, had: readonly PersonId[]): Found | Gap {
  const { index } = execution.context;
  const passed = new Set([execution.asker, execution.subject, ...had]);
  const line = lineAbove(index, meant, todayOf(execution.context, meant));
  let found: Found | undefined;
  for (let next = line.next(); ; next = line.next()) {
    if (next.done) return found ?? { gap: next.value, reasons: [] };
    if (had.includes(next.value.person.id)) found = undefined;
    else if (!passed.has(next.value.person.id)) found ??= next.value;
  }
}

function passTo(
  execution: Execution,
  step: PersonStep,
  task: Task,
  holders: readonly Holder[],
  reasons: readonly Reason[],
  code: 'passed up at limit' | 'passed on at limit',
  had?: readonly PersonId[],
): void {
  const names = holders.map(h => execution.who(h.person)).join(', ');
  const { state } = execution;
  const counted = state.asked[step.id];
  const votes = state.votes[step.id] ?? [];
  // Whoever was asked at this step already has one voice, not two.
  const asked = (person: PersonId) =>
    votes.some(v => v.person === person) || state.tasks.some(t => t.step === step.id && t.holder === person);
  const fresh = holders.filter(h => !asked(h.person));
  execution.emit({
    kind: 'passed limit',
    task: task.id,
    next: { code: 'passed to', people: holders.map(h => h.person) },
  });
  execution.emit({
    kind: 'ended',
    task: task.id,
    reason: { code },
    ...(counted === undefined ? {} : { of: { step: step.id, people: counted - 1 + fresh.length } }),
  });
  execution.mail(task.holder, `No longer needed: ${execution.title()}`, execution.noLongerNeeded({ code }));
  for (const holder of fresh)
    assignTo(execution, step, holder, reasons, { ...turnOf(task), meantFor: meantOf(task), ...(had ? { had } : {}) });
  if (fresh.length > 0)
    tellAsker(execution, `${execution.who(task.holder)} has not answered in time, so it went to ${names} instead.`);
  else withFewer(execution, step, task);
}

/** For whom a task was meant in the first place: the one who is stood in for, or who had it before it was passed on. */
export const meantOf = (task: Pick<Task, 'holder' | 'coverFor' | 'meantFor'>): PersonId =>
  task.meantFor ?? task.coverFor ?? task.holder;

/** Whose turn comes after a task, where people are asked in turn. */
const turnOf = (task: Task) => (task.rest ? { rest: task.rest } : {});

/** What is news to the asker, who has not done it. */
export function tellAsker(execution: Execution, words: string): void {
  execution.mailOtherAskers(`News: ${execution.title()}`, words);
}

/** One fewer is asked than before: that may settle the step, or it is the next one’s turn. */
function withFewer(execution: Execution, step: PersonStep, task: Task): void {
  if (step.verb === 'Decide') countAnswer(execution, step, task);
  else if (allDone(execution, step)) execution.goOn({ to: 'next' }, step.id);
}

/** After an answer: the next in turn is asked, or the step is settled and leads on. */
export function countAnswer(execution: Execution, step: StepOf<'Decide'>, task: Task): void {
  const votes = execution.state.votes[step.id] ?? [];
  const of = execution.state.asked[step.id] ?? 1;
  const settled = of > 0 && votes.length > 0 ? settle(countable(execution, step), votes, of) : undefined;
  if (settled) return conclude(execution, step, settled, step.count !== undefined);
  const [next, ...rest] = task.rest ?? [];
  if (next) assignTo(execution, step, next, [{ code: 'next in turn', after: task.holder }], { rest });
}

function conclude(execution: Execution, step: StepOf<'Decide'>, settled: Settlement, say: boolean): void {
  if ('outcome' in settled) return lead(execution, step, settled, say);
  execution.endTasks(settled.blocked, [step.id]);
  execution.stuck(step.id, settled.blocked);
}

function lead(execution: Execution, step: StepOf<'Decide'>, settled: Settled, say: boolean): void {
  const outcome = step.outcomes.find(o => o.id === settled.outcome);
  if (!outcome) throw new Error(`step ${step.id} has no outcome ${settled.outcome}`);
  if (say) execution.emit({ kind: 'settled', step: step.id, ...settled });
  execution.endTasks(
    execution.context.actor ? { code: 'answered by', by: execution.context.actor } : { code: 'limit passed' },
    [step.id],
  );
  const { approved } = execution.state;
  if (approved?.what === 'cancel') {
    if (outcome.tone === 'good') execution.cancel(approved.note);
    else execution.keepAsApproved({ code: 'answered as', step: step.id, outcome: outcome.id });
  } else if (outcome.leads.to === 'rework') sendBack(execution, step, outcome, outcome.leads);
  else execution.goOn(outcome.leads, step.id);
}

function sendBack(execution: Execution, step: StepOf<'Decide'>, outcome: Outcome, rework: Rework): void {
  const settledBy = rework.whom ? execution.state.settled.find(s => s.step === rework.whom)?.people[0] : undefined;
  const to = settledBy ?? execution.owner;
  const note = execution.note;
  execution.emit({
    kind: 'sent back',
    step: step.id,
    outcome: outcome.id,
    ...(settledBy ? { to } : {}),
    fields: rework.fields,
    resume: rework.resume,
    note,
  });
  const fields = rework.fields.map(id => fieldById(execution.definition, id)?.label ?? id).join(', ');
  execution.mail(
    to,
    `Sent back: ${execution.title()}`,
    `${execution.who(execution.context.actor)} sent ${to === execution.asker && !execution.state.outside ? 'your' : 'this'} request back.${note ? `\n\n“${note}”` : ''}\n\nYou may change: ${fields}.`,
  );
}

/** A task of a pool goes back: it is offered to everybody of the pool again. */
export function offerAgain(execution: Execution, step: StepOf<'Do'>): void {
  const found = find(execution, step);
  if (!found.ok) return execution.stuck(step.id, found.gap);
  for (const holder of found.holders) assignTo(execution, step, holder, found.reasons);
}

/** Everybody who was given a task of the step has done it. */
export const allDone = (execution: Execution, step: StepOf<'Do'>): boolean =>
  execution.state.tasks.every(t => t.step !== step.id);
