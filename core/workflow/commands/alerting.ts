/** Telling people in time that something is not ready for its date, and that it is. */
import { resolve } from '../../people/index.ts';
import {
  type CivilDate,
  dateWords,
  type Instant,
  toInstant,
  toMilliseconds,
  workingWords,
  yearOf,
} from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';
import { stepById, stepNumber } from '../definition/structure.ts';
import { questionFor } from '../execution/assigning.ts';
import type { Execution } from '../execution/execution.ts';
import { type PlanLine, planOf } from '../planning/plan.ts';
import { countedFrom } from '../planning/tasks.ts';
import type { Result } from '../request/command.ts';
import { type Context, morningBefore } from '../request/context.ts';
import { dateIn } from '../request/date.ts';
import { isOpen, type RequestState } from '../request/state.ts';
import { executionOf } from './executionOf.ts';

/** Told at seven, before the day begins. */
const seven = 7 * 3_600_000;

/** The morning on which people are told, where the date is known. */
function alertAt(execution: Execution, date: CivilDate): Instant | undefined {
  const days = execution.definition.countsBack?.alert?.workingDays;
  if (days === undefined) return undefined;
  const midnight = morningBefore(execution.context, execution.subject, date, days, execution.placeOn(date));
  return midnight && toInstant(toMilliseconds(midnight) + seven);
}

/** What follows from a command for the alert: its timer, when the date is new, and its end, when all is ready. */
export function mindAlert(
  definition: Definition,
  before: RequestState,
  result: Extract<Result, { ok: true }>,
  context: Context,
): Result {
  const from = countedFrom(definition);
  const { state } = result;
  if (!from || !isOpen(state)) return result;
  const execution = executionOf(definition, state, context);
  const date = dateIn(state.answers, from.field.id);
  const isNew = date !== null && (!isOpen(before) || date !== dateIn(before.answers, from.field.id));
  const at = isNew ? alertAt(execution, date) : undefined;
  if (state.alerted) {
    const plan = planOf(definition, state, context);
    const ready = plan?.ok === true && plan.plan.state === 'ready';
    const isFar = at !== undefined && toMilliseconds(at) > toMilliseconds(context.now);
    if (ready || isFar) execution.emit({ kind: 'alert over', ready });
  }
  if (at !== undefined) execution.timer('plan', 'alert', at);
  const more = execution.outcome();
  if (more.events.length + more.effects.length === 0) return result;
  return {
    ok: true,
    events: [...result.events, ...more.events],
    effects: [...result.effects, ...more.effects],
    state: more.state,
  };
}

const lateness = ({ days }: PlanLine): string => {
  if (!days) return '';
  if (days.slack < 0) return `, ${workingWords({ workingDays: -days.slack })} late`;
  return days.slack === 0 ? ', no day to spare' : `, ${workingWords({ workingDays: days.slack })} to spare`;
};

/** The morning has come: whoever is to know is told what is left, once for each date. */
export function alert(execution: Execution): void {
  const { definition, state, context } = execution;
  const rule = definition.countsBack?.alert;
  const found = planOf(definition, state, context);
  if (!rule || !found?.ok || found.plan.state === 'ready' || state.alerted) return;
  const { plan } = found;
  const at = alertAt(execution, plan.date);
  // A timer for a date that has been moved since says nothing.
  if (at === undefined || toMilliseconds(at) > toMilliseconds(context.now)) return;
  const told = resolve(rule.tell, questionFor(execution));
  const people = told.ok ? [...new Set(told.holders.map(holder => holder.person))] : [];
  const left = plan.lines.filter(line => line.days !== null);
  execution.emit({ kind: 'alerted', people, left: left.map(line => line.step), slack: plan.slack ?? 0 });
  const year = yearOf(context.now);
  const lines = left.map(line => {
    const step = stepById(definition, line.step);
    const what = step?.verb === 'Do' ? step.task : 'Decision';
    const who = line.people.length > 0 ? `, with ${line.people.map(p => execution.who(p)).join(', ')}` : ', not begun';
    const by = line.days ? `, by ${dateWords(line.days.latestFinish, year)}` : '';
    return `- ${stepNumber(definition, line.step)} ${what}${who}${by}${lateness(line)}`;
  });
  const label = countedFrom(definition)?.field.label ?? 'The date';
  const toGo = plan.toGo === 1 ? '1 working day is' : `${plan.toGo} working days are`;
  for (const person of people)
    execution.mail(
      person,
      `Not ready: ${execution.title()}`,
      `${label} is ${dateWords(plan.date, year)}; ${toGo} left. Not finished:\n\n${lines.join('\n')}\n\nThis goes off your desk by itself once all is done.`,
    );
}
