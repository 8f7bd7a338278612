/**
 * The plan of a request: its tasks counted back from the date that its definition names, from the facts of now. It is
 * worked out and never stored, so that it is always the plan of what is known.
 */
import { type CountedTask, countback, type TaskState, type WorkdayLine, workdayLine } from '../../countback/index.ts';
import type { DirectoryIndex, PersonId } from '../../people/index.ts';
import {
  type CivilDate,
  civilDateAt,
  type DayNumber,
  fromDay,
  type Instant,
  toDay,
  workingDayFrom,
} from '../../time/index.ts';
import type { Definition, StepOf } from '../definition/definition.ts';
import { structure } from '../definition/structure.ts';
import { evaluateFigures, judge, workOut } from '../figures/evaluate.ts';
import { type Context, factsOf } from '../request/context.ts';
import { dateIn } from '../request/date.ts';
import { placeOfWork } from '../request/place.ts';
import type { Reason } from '../request/reason.ts';
import { isOpen, type RequestState } from '../request/state.ts';
import { standingOf } from './standing.ts';
import { countedFrom, type PlanTask, planTasks } from './tasks.ts';

export type PlanDays = {
  readonly earliestStart: CivilDate;
  readonly earliestFinish: CivilDate;
  readonly latestStart: CivilDate;
  readonly latestFinish: CivilDate;
  /** Working days to spare; below 0 when it is late. */
  readonly slack: number;
};

export type PlanLine = {
  readonly step: string;
  /** Not needed: what its condition asks does not hold, or the request went another way. */
  readonly state: TaskState | 'done' | 'not needed';
  readonly doneAt: Instant | null;
  /** Nothing when it is done or not needed. */
  readonly days: PlanDays | null;
  /** Who has it now, or had it when it was finished. */
  readonly people: readonly PersonId[];
  readonly inHand: boolean;
  /** Working days that are left of it: fewer than it takes once it is in hand. */
  readonly left: number;
  readonly takes: number;
  readonly daysBefore: number;
  readonly after: readonly string[];
};

export type Plan = {
  readonly date: CivilDate;
  readonly field: string;
  readonly place: string;
  /** Today at that place. */
  readonly today: CivilDate;
  /** Working days from today, counted, up to the date, not counted; 0 once it has come. */
  readonly toGo: number;
  readonly lines: readonly PlanLine[];
  /** Ids of the steps that decide, in the order of time. */
  readonly chain: readonly string[];
  /** Ready when nothing is left to do. */
  readonly state: TaskState | 'ready';
  /** The least slack of what is left; nothing when it is ready. */
  readonly slack: number | null;
};

export type PlanOrNot = { ok: true; plan: Plan } | { ok: false; reason: Reason };

type Around = Pick<Context, 'index' | 'now' | 'lists' | 'book'>;

/** The working days of each place in a row; a directory never changes. */
const lines = new WeakMap<DirectoryIndex, Map<string, WorkdayLine>>();

export function lineOf(index: DirectoryIndex, place: string, anchor: DayNumber): WorkdayLine {
  let known = lines.get(index);
  if (!known) {
    known = new Map();
    lines.set(index, known);
  }
  let line = known.get(place);
  if (!line) {
    const time = index.placeTime(place);
    line = workdayLine(day => {
      const { am, pm } = time.parts(day);
      return am !== null || pm !== null;
    }, anchor);
    known.set(place, line);
  }
  return line;
}

/** The first day on which a wait in front of a task is over; nothing where that is not known. */
function overOn(
  definition: Definition,
  { until }: StepOf<'Hold'>,
  state: RequestState,
  context: Around,
  place: string,
): DayNumber | undefined {
  if (until.kind === 'before') {
    const date = dateIn(state.answers, until.field);
    if (date === null) return undefined;
    return until.workingDays === 0
      ? toDay(date)
      : workingDayFrom(context.index.placeTime(place), toDay(date), until.workingDays);
  }
  if (until.kind !== 'date' || !state.asker) return undefined;
  const facts = factsOf(context as Context, state.asker, state.subject, state.request);
  const { scope } = evaluateFigures(definition, state.answers, facts);
  const worked = workOut(definition, until.formula, 'date', scope, facts.lists);
  return worked.known ? toDay(worked.value as CivilDate) : undefined;
}

/** Whether a condition in front of a task is known not to hold. */
function isNotNeeded(definition: Definition, task: PlanTask, state: RequestState, context: Around): boolean {
  if (!state.asker) return false;
  const conditions: string[] = [];
  for (let at = structure(definition).of(task.step.id); at; ) {
    if ('when' in at.step && at.step.when) conditions.push(at.step.when);
    at = at.around ? structure(definition).of(at.around.split.id) : undefined;
  }
  if (conditions.length === 0) return false;
  const facts = factsOf(context as Context, state.asker, state.subject, state.request);
  const { scope } = evaluateFigures(definition, state.answers, facts);
  return conditions.some(source => {
    const verdict = judge(definition, source, scope, facts.lists);
    return verdict.known && !verdict.holds;
  });
}

const settledBy = (state: RequestState, step: string): readonly PersonId[] =>
  state.settled.find(one => one.step === step)?.people ?? [];

/** @returns nothing where the definition counts back from no date */
export function planOf(definition: Definition, state: RequestState, context: Around): PlanOrNot | null {
  const from = countedFrom(definition);
  if (!from) return null;
  const { field, countsBack } = from;
  const date = dateIn(state.answers, field.id);
  if (date === null) return { ok: false, reason: { code: 'field not known', field: field.id } };
  const place = placeOfWork(definition, state, context, date);
  if (place === undefined)
    return { ok: false, reason: { code: 'place not on file', person: (state.subject ?? state.asker) as PersonId } };

  const today = civilDateAt(context.now, context.index.place(place)?.zone ?? 'UTC');
  const line = lineOf(context.index, place, toDay(today));
  const standing = standingOf(definition, state);
  const tasks = planTasks(definition).map(task => {
    const where = standing(task.step.id);
    const doneAt = state.finished?.[task.step.id] ?? null;
    const isOver = where === 'passed';
    const isNeeded = isOver ? doneAt !== null : where === 'here' || !isNotNeeded(definition, task, state, context);
    return { task, where, doneAt, isOver, isNeeded };
  });
  const known = new Set(tasks.map(({ task }) => task.step.id));
  const counted = tasks.map(({ task, where, isOver, isNeeded }): CountedTask => {
    const opens = task.behind
      .filter(hold => standing(hold) !== 'passed')
      .map(hold => structure(definition).of(hold)?.step)
      .map(hold => (hold?.verb === 'Hold' ? overOn(definition, hold, state, context, place) : undefined))
      .filter(day => day !== undefined);
    return {
      id: task.step.id,
      workingDays: where === 'here' ? leftOf(task, state, line, context, place) : task.takes,
      after: task.after.filter(id => known.has(id)),
      daysBefore: task.daysBefore,
      done: isOver || !isNeeded,
      ...(opens.length > 0 ? { notBefore: Math.max(...opens) } : {}),
    };
  });
  const found = countback({
    startDate: toDay(date),
    today: toDay(today),
    line,
    tightWithin: countsBack.tightWithin ?? 0,
    // What waits for a task that is not needed waits for what that one waits for.
    tasks: throughUnneeded(counted, new Set(tasks.filter(t => !t.isNeeded).map(t => t.task.step.id))),
  });
  if ('error' in found)
    return {
      ok: false,
      reason:
        found.error === 'circle'
          ? { code: 'plan in a circle', steps: found.tasks }
          : { code: 'no working day before', place, date },
    };
  const planned = new Map(found.tasks.map(task => [task.id, task]));
  const [first, last] = [line.onOrAfter(toDay(today)), line.before(toDay(date))];
  const slacks = found.tasks.map(task => task.slack);
  const slack = slacks.length > 0 ? Math.min(...slacks) : null;
  return {
    ok: true,
    plan: {
      date,
      field: field.id,
      place,
      today,
      toGo: first === undefined || last === undefined ? 0 : Math.max(0, last - first + 1),
      lines: tasks.map(({ task, doneAt, isNeeded }, n): PlanLine => {
        const days = planned.get(task.step.id);
        const held = state.tasks.filter(one => one.step === task.step.id);
        return {
          step: task.step.id,
          state: days ? days.state : isNeeded ? 'done' : 'not needed',
          doneAt: days || !isNeeded ? null : doneAt,
          days: days
            ? {
                earliestStart: fromDay(days.earliestStart),
                earliestFinish: fromDay(days.earliestFinish),
                latestStart: fromDay(days.latestStart),
                latestFinish: fromDay(days.latestFinish),
                slack: days.slack,
              }
            : null,
          people: days ? held.map(one => one.holder) : settledBy(state, task.step.id),
          inHand: held.length > 0,
          left: counted[n].workingDays,
          takes: task.takes,
          daysBefore: task.daysBefore,
          after: task.after,
        };
      }),
      chain: found.chain,
      state: slack === null ? 'ready' : slack < 0 ? 'late' : slack <= (countsBack.tightWithin ?? 0) ? 'tight' : 'fine',
      slack,
    },
  };
}

/** What is left of a task in hand: the working days that have gone by since it was given are worked off, but for the last. */
function leftOf(
  { step, takes }: PlanTask,
  state: RequestState,
  line: WorkdayLine,
  context: Around,
  place: string,
): number {
  const given = state.tasks.filter(task => task.step === step.id).map(task => task.given);
  if (given.length === 0) return takes;
  const zone = context.index.place(place)?.zone ?? 'UTC';
  const since = Math.min(...given.map(at => toDay(civilDateAt(at, zone))));
  const [first, now] = [line.onOrAfter(since), line.onOrAfter(toDay(civilDateAt(context.now, zone)))];
  return first === undefined || now === undefined ? takes : Math.max(1, takes - (now - first));
}

/** Whatever waits for a task that is left out waits for what that one waits for. */
function throughUnneeded(tasks: readonly CountedTask[], unneeded: ReadonlySet<string>): CountedTask[] {
  if (unneeded.size === 0) return [...tasks];
  const byId = new Map(tasks.map(task => [task.id, task]));
  const needed = (id: string, seen: ReadonlySet<string>): string[] => {
    if (!unneeded.has(id) || seen.has(id)) return [id];
    return (byId.get(id)?.after ?? []).flatMap(next => needed(next, new Set([...seen, id])));
  };
  return tasks.map(task =>
    unneeded.has(task.id) ? task : { ...task, after: [...new Set(task.after.flatMap(id => needed(id, new Set())))] },
  );
}

export const isReady = (found: PlanOrNot | null): boolean => found?.ok === true && found.plan.state === 'ready';
export const hasPlan = (definition: Definition, state: RequestState): boolean =>
  isOpen(state) && countedFrom(definition) !== null;
