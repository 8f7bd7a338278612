/** Why a day of the plan is what it is, in words: made where it is read, with the numbers that hold there. */
import type { DirectoryIndex } from '../../people/index.ts';
import { type CivilDate, dateWords, fromDay, fullDate, toDay, workingWords, yearOf } from '../../time/index.ts';
import { type Definition, fieldById } from '../definition/definition.ts';
import { stepById, stepNumber } from '../definition/structure.ts';
import { lineOf, type Plan, type PlanLine } from './plan.ts';

/** What a line of the plan is called: its number, and what is to be done. */
export function planName(definition: Definition, step: string): string {
  const found = stepById(definition, step);
  const what = found?.verb === 'Do' ? found.task : 'Decision';
  return `${stepNumber(definition, step)} ${what}`;
}

const days = (workingDays: number): string => workingWords({ workingDays });

/** How much time is left of a line, or how much it lacks. */
export function slackWords(slack: number): string {
  if (slack < 0) return `${days(-slack)} late`;
  return slack === 0 ? 'no day to spare' : `${days(slack)} to spare`;
}

export type PlanWhy = { earliest: string; latest: string };

/** Why a line can be finished on its earliest day and must be on its latest; nothing when it is done or not needed. */
export function planWhy(definition: Definition, plan: Plan, line: PlanLine, index: DirectoryIndex): PlanWhy | null {
  if (!line.days) return null;
  const year = yearOf(plan.today);
  const say = (date: CivilDate) => dateWords(date, year);
  const open = new Map(plan.lines.flatMap(one => (one.days ? [[one.step, one] as const] : [])));
  const waits = line.after.flatMap(id => open.get(id) ?? []);
  const place = index.place(plan.place)?.name ?? plan.place;

  // What ends last of all that it waits for is what lets it begin, where that is not before today.
  const last = waits.reduce<PlanLine | null>(
    (found, one) =>
      !found || (one.days && found.days && one.days.earliestFinish > found.days.earliestFinish) ? one : found,
    null,
  );
  const left =
    line.inHand && line.left < line.takes
      ? `${days(line.left)} of ${days(line.takes)} are left`
      : `takes ${days(line.takes)}`;
  const begins =
    last?.days && last.days.earliestFinish >= plan.today
      ? `${planName(definition, last.step)} can be finished on ${say(last.days.earliestFinish)}; after it this begins on ${say(line.days.earliestStart)}`
      : line.inHand
        ? `It is in hand`
        : `It can begin on ${say(line.days.earliestStart)}`;
  const earliest = `${begins}, and ${left}: ${say(line.days.earliestFinish)}.`;

  const working = lineOf(index, plan.place, toDay(plan.today));
  const end = working.before(toDay(plan.date));
  const own = end === undefined ? undefined : working.day(end - line.daysBefore);
  const label = fieldById(definition, plan.field)?.label ?? 'the date';
  const followers = [...open.values()].filter(one => one.after.includes(line.step));
  const first = followers.reduce<PlanLine | null>(
    (found, one) => (!found || (one.days && found.days && one.days.latestStart < found.days.latestStart) ? one : found),
    null,
  );
  const byFollower =
    first?.days !== undefined && first.days !== null && own !== undefined && own > toDay(line.days.latestFinish);
  const latest =
    byFollower && first.days
      ? `${planName(definition, first.step)} waits for it and must begin by ${say(first.days.latestStart)}, so this is finished the working day before: ${say(line.days.latestFinish)}.`
      : line.daysBefore > 0
        ? `It is finished ${days(line.daysBefore)} before ${label}, ${fullDate(plan.date)}, in working days of ${place}: ${say(line.days.latestFinish)}.`
        : `It is finished on the last working day before ${label}, ${fullDate(plan.date)}, in working days of ${place}: ${say(line.days.latestFinish)}.`;
  return { earliest, latest };
}

/** What the plan as a whole comes to: what decides, what would make it right, what else has no time left. */
export type PlanSays = { tone: 'late' | 'tight' | 'fine'; title: string; text: string };

export function planSays(definition: Definition, plan: Plan, index: DirectoryIndex): PlanSays[] {
  if (plan.state === 'ready' || plan.slack === null)
    return [{ tone: 'fine', title: 'Everything is ready', text: 'Nothing is left to do before the date.' }];
  const year = yearOf(plan.today);
  const open = new Map(plan.lines.flatMap(line => (line.days ? [[line.step, line.days] as const] : [])));
  const chain = plan.chain.flatMap(step => {
    const found = open.get(step);
    return found ? [{ step, ...found }] : [];
  });
  const last = chain.at(-1);
  const said: PlanSays[] = [];
  if (last) {
    const course = chain
      .map(
        (one, n) =>
          `${n > 0 ? 'then ' : ''}${planName(definition, one.step)} on ${dateWords(one.earliestFinish, year)}`,
      )
      .join(', ');
    said.push({
      tone: plan.state,
      title: `${planName(definition, last.step)} decides: ${slackWords(plan.slack)}`,
      text: `At the earliest finished: ${course}. The last of them may be finished on ${dateWords(last.latestFinish, year)}.`,
    });
  }
  if (plan.slack < 0) {
    const working = lineOf(index, plan.place, toDay(plan.today));
    const now = working.onOrAfter(toDay(plan.date));
    const day = now === undefined ? undefined : working.day(now - plan.slack);
    const steps = chain.map(one => planName(definition, one.step)).join(', ');
    const saved = `if ${chain.length > 1 ? `${steps} together` : steps} took ${days(-plan.slack)} less`;
    said.push({
      tone: 'fine',
      title: 'It would be ready',
      text: `${day === undefined ? '' : `on ${dateWords(fromDay(day), year)}, or `}${saved}.`,
    });
  }
  for (const line of plan.lines) {
    if (!line.days || line.state === 'fine' || line.state === 'done' || line.state === 'not needed') continue;
    if (plan.chain.includes(line.step)) continue;
    said.push({
      tone: line.state,
      title: `${planName(definition, line.step)}: ${slackWords(line.days.slack)}`,
      text: `Finished on ${dateWords(line.days.earliestFinish, year)} at the earliest, by ${dateWords(line.days.latestFinish, year)} at the latest.`,
    });
  }
  return said;
}
