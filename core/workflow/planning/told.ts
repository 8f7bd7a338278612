/** A plan with everything that its readers are told of it, made of plain values: the same on a request and in a rehearsal. */
import { type DirectoryIndex, type PersonId, personName } from '../../people/index.ts';
import { type CivilDate, fromDay, type Instant, toDay } from '../../time/index.ts';
import { type Definition, fieldById, isPersonStep } from '../definition/definition.ts';
import { stepById, stepNumber } from '../definition/structure.ts';
import { peopleWords } from '../language/ruleWords.ts';
import type { RequestState } from '../request/state.ts';
import type { Plan, PlanDays, PlanLine } from './plan.ts';
import { type PlanSays, type PlanWhy, planName, planSays, planWhy } from './why.ts';

export type ToldLine = {
  step: string;
  number: string;
  what: string;
  /** Who has it, had it, or is to have it: a name, or the rule in words. */
  holder: string;
  people: readonly PersonId[];
  state: PlanLine['state'];
  doneAt: Instant | null;
  days: PlanDays | null;
  inHand: boolean;
  left: number;
  after: readonly string[];
  why: PlanWhy | null;
};

export type ToldPlan = {
  date: CivilDate;
  label: string;
  placeName: string;
  today: CivilDate;
  toGo: number;
  freeDays: readonly CivilDate[];
  state: Plan['state'];
  slack: number | null;
  lines: ToldLine[];
  chain: readonly string[];
  says: readonly PlanSays[];
  told: { at: Instant; names: readonly string[] } | null;
};

/** What a line is called without its number. */
export const planWhat = (definition: Definition, step: string): string =>
  planName(definition, step).slice(stepNumber(definition, step).length + 1);

/** Who has a step, had it, or is to have it. */
export function planHolder(definition: Definition, { step, people }: PlanLine, index: DirectoryIndex): string {
  if (people.length > 0) return people.map(person => personName(index, person)).join(', ');
  const found = stepById(definition, step);
  return isPersonStep(found) ? peopleWords({ ...found.who, otherwise: [], except: undefined }, index, definition) : '';
}

export const toldLine = (definition: Definition, plan: Plan, line: PlanLine, index: DirectoryIndex): ToldLine => ({
  step: line.step,
  number: stepNumber(definition, line.step),
  what: planWhat(definition, line.step),
  holder: planHolder(definition, line, index),
  people: line.people,
  state: line.state,
  doneAt: line.doneAt,
  days: line.days,
  inHand: line.inHand,
  left: line.left,
  after: line.after,
  why: planWhy(definition, plan, line, index),
});

/** So far back and ahead days are drawn; a date in ten years is told and not drawn day by day. */
const mostDrawn = 500;

/** Days on which nobody works at the place, within what is drawn. */
function freeDays(plan: Plan, index: DirectoryIndex): CivilDate[] {
  const time = index.placeTime(plan.place);
  const drawn = plan.lines.flatMap(({ days }) =>
    days ? [days.latestStart, days.earliestStart, days.earliestFinish] : [],
  );
  const all = [plan.today, plan.date, ...drawn].map(toDay);
  const [first, last] = [Math.min(...all), Math.max(...all)];
  const free: CivilDate[] = [];
  for (let day = Math.max(first, last - mostDrawn); day <= last; day++) {
    const { am, pm } = time.parts(day);
    if (!am && !pm) free.push(fromDay(day));
  }
  return free;
}

export const toldPlan = (
  definition: Definition,
  plan: Plan,
  { alerted }: Pick<RequestState, 'alerted'>,
  index: DirectoryIndex,
): ToldPlan => ({
  date: plan.date,
  label: fieldById(definition, plan.field)?.label ?? plan.field,
  placeName: index.place(plan.place)?.name ?? plan.place,
  today: plan.today,
  toGo: plan.toGo,
  freeDays: freeDays(plan, index),
  state: plan.state,
  slack: plan.slack,
  lines: plan.lines.map(line => toldLine(definition, plan, line, index)),
  chain: plan.chain,
  says: planSays(definition, plan, index),
  told: alerted ? { at: alerted.at, names: alerted.people.map(person => personName(index, person)) } : null,
});
