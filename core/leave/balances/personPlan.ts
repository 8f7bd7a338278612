/** The plans of one person through time, by their records. */
import { type Person, recordOn } from '../../people/index.ts';
import { type CivilDate, toDay } from '../../time/index.ts';
import { type Course, courseOf, type Opening, type PlanTurn, stretchOn } from './course.ts';
import type { LeavePlan, NamedPlan } from './plan.ts';

/** By no plan nothing is earned; leave years go on as they were. */
function nothingBy(plan: LeavePlan): LeavePlan {
  const { later: _, ...rules } = plan;
  return { ...rules, perYear: [] };
}

/** What each record says of the plan; whoever is on none earns nothing, in the unit and leave years of the plan before or after. */
function turnsOf(plans: readonly NamedPlan[], person: Person): PlanTurn[] {
  const named = person.records.map(record => plans.find(one => one.id === record.plan));
  let open = named.find(one => one !== undefined);
  if (!open) return [];
  const turns: PlanTurn[] = [];
  person.records.forEach((record, n) => {
    const own = named[n];
    const from = n === 0 && record.from > person.joined ? person.joined : record.from;
    // A record that says nothing new of the plan is no turn of it.
    if (n > 0 && own === named[n - 1]) return;
    open = own ?? open;
    const { rules, unit, name } = open as NamedPlan;
    turns.push({
      from,
      plan: own ? rules : nothingBy(rules),
      unit,
      name,
      ...(record.planPer ? { per: record.planPer } : {}),
    });
  });
  return turns;
}

type Known = {
  readonly plans: readonly NamedPlan[];
  readonly opening: Opening | null;
  readonly course: Course | undefined;
};
const known = new WeakMap<Person, Known>();

/** The course of a person, kept for as long as the person and the plans are what they are; nothing for whoever is never on a plan. */
export function personCourse(
  plans: readonly NamedPlan[],
  person: Person,
  opening: Opening | null = null,
): Course | undefined {
  const before = known.get(person);
  if (before && before.plans === plans && before.opening === opening) return before.course;
  const [first, ...later] = turnsOf(plans, person);
  const course = first && courseOf([first, ...later], person, opening);
  known.set(person, { plans, opening, course });
  return course;
}

/**
 * The plan that a person is on on a day, with what was and will be said where their leave year goes on by another.
 * @returns nothing for whoever is on none then
 */
export function planThrough(plans: readonly NamedPlan[], person: Person, day: CivilDate): NamedPlan | undefined {
  const { plan: id } = recordOn(person, day);
  const own = plans.find(one => one.id === id);
  if (!own) return undefined;
  const course = personCourse(plans, person);
  const stretch = course && stretchOn(course, toDay(day));
  return !stretch || stretch.plan === own.rules ? own : { ...own, rules: stretch.plan };
}
