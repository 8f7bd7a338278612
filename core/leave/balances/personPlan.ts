/** The plan of one person through time: whoever goes over to another plan keeps what they earned by the one before. */
import { type Person, recordOn } from '../../people/index.ts';
import { type CivilDate, type DayNumber, fromDay, toDay } from '../../time/index.ts';
import { type LeavePlan, type NamedPlan, type PlanRules, rulesOn } from './plan.ts';

/** From a record on until the next one: what the plan of it says, from when. */
function versionsOf(
  plan: LeavePlan | undefined,
  nothing: PlanRules,
  from: CivilDate,
  until: CivilDate | undefined,
): { from: CivilDate; rules: PlanRules }[] {
  if (!plan) return [{ from, rules: nothing }];
  const later = (plan.later ?? []).filter(version => version.from > from && (!until || version.from < until));
  return [{ from, rules: rulesOn(plan, toDay(from)) }, ...later];
}

/**
 * Whether what moved on a day is of a balance in this unit: what somebody took and was given while they were on a plan in
 * another unit is of the balance that they had then.
 * @returns nothing where everything is
 */
export function isOnUnit(
  plans: readonly NamedPlan[],
  person: Person,
  unit: NamedPlan['unit'],
): ((day: DayNumber) => boolean) | undefined {
  const unitOf = (plan: string | null) => plans.find(one => one.id === plan)?.unit ?? unit;
  if (person.records.every(record => unitOf(record.plan) === unit)) return undefined;
  return day => unitOf(recordOn(person, fromDay(day)).plan) === unit;
}

const known = new WeakMap<Person, { readonly plans: readonly NamedPlan[]; readonly found: Map<string, NamedPlan> }>();

/**
 * The plan that a person is on on a day, as one that says something else before and after where they were or will be on
 * another. Leave years and the unit are those of the plan of the day: by a plan in another unit nothing is earned in this one.
 * @returns nothing for whoever is on none then
 */
export function planThrough(plans: readonly NamedPlan[], person: Person, day: CivilDate): NamedPlan | undefined {
  const { plan: id } = recordOn(person, day);
  const own = plans.find(one => one.id === id);
  if (!own || person.records.every(record => record.plan === id)) return own;
  let kept = known.get(person);
  if (kept?.plans !== plans) {
    kept = { plans, found: new Map() };
    known.set(person, kept);
  }
  const before = kept.found.get(own.id);
  if (before) return before;
  const { later: _, ...rules } = own.rules;
  const nothing: PlanRules = { ...rules, perYear: [] };
  const versions = person.records.flatMap((record, n) => {
    const named = plans.find(one => one.id === record.plan && one.unit === own.unit);
    const from = n === 0 ? person.joined : record.from;
    return versionsOf(named?.rules, nothing, from, person.records[n + 1]?.from);
  });
  const [first, ...later] = versions;
  const found: NamedPlan = {
    ...own,
    rules: { ...(first?.rules ?? rules), yearStart: own.rules.yearStart, later },
  };
  kept.found.set(own.id, found);
  return found;
}
