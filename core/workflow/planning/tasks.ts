/** What a definition says of its plan: which steps are tasks, how long they take, and which waits for which. */
import { datedKinds } from '../../form/index.ts';
import { type Definition, fieldById, isPersonStep, type PersonStep, type Step } from '../definition/definition.ts';
import { structure } from '../definition/structure.ts';

export type PlanTask = {
  readonly step: PersonStep;
  /** Working days, 1 or more. */
  readonly takes: number;
  /** Working days before the date by which it must be finished. */
  readonly daysBefore: number;
  /** Ids of the tasks that it waits for: those before it in the order of lines and lanes, and those that it names. */
  readonly after: readonly string[];
  /** Waits in front of it, by the ids of their steps: it cannot begin before they are over. */
  readonly behind: readonly string[];
};

/** What comes before the next step of a sequence. */
type Before = { tasks: readonly string[]; waits: readonly string[] };

function* walk(steps: readonly Step[], before: Before): Generator<PlanTask, Before> {
  let { tasks, waits } = before;
  for (const step of steps) {
    if (step.verb === 'Hold') waits = [...waits, step.id];
    else if (step.verb === 'Split') {
      // Whichever lanes are needed, it is planned as if all were: what is called off then is won.
      const ends: Before[] = [];
      for (const lane of step.lanes) ends.push(yield* walk(lane.steps, { tasks, waits }));
      tasks = [...new Set(ends.flatMap(end => end.tasks))];
      waits = [...new Set([...waits, ...ends.flatMap(end => end.waits)])];
    } else if (isPersonStep(step)) {
      const { takes = 1, daysBefore = 0, after = [] } = step.plan ?? {};
      const named = after.filter(id => !tasks.includes(id));
      yield { step, takes, daysBefore, after: [...tasks, ...named], behind: waits };
      tasks = [step.id];
    }
  }
  return { tasks, waits };
}

const tasksBefore = new WeakMap<Definition, readonly PlanTask[]>();

/** The tasks of the plan in the order in which they are written; `after` may name what is no task. */
export function planTasks(definition: Definition): readonly PlanTask[] {
  const known = tasksBefore.get(definition);
  if (known) return known;
  const tasks = [...walk(definition.steps, { tasks: [], waits: [] })];
  tasksBefore.set(definition, tasks);
  return tasks;
}

/** The date that a definition counts back from, where it names one that is there. */
export function countedFrom(definition: Definition) {
  const { countsBack } = definition;
  const field = countsBack && fieldById(definition, countsBack.field);
  return field && datedKinds.some(kind => kind === field.kind) ? { countsBack, field } : null;
}

/** The steps of a definition that a plan names by `after` and that are no tasks of it. */
export function strangers(definition: Definition): { step: PersonStep; name: string; position: number }[] {
  const known = new Set(planTasks(definition).map(task => task.step.id));
  return structure(definition).all.flatMap(({ step }) =>
    isPersonStep(step)
      ? (step.plan?.after ?? []).flatMap((name, position) => (known.has(name) ? [] : [{ step, name, position }]))
      : [],
  );
}
