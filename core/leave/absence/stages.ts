/** Coming back by stages: so many minutes of a day are worked from a day on, while the absence goes on. */
import type { Person, Stage } from '../../people/index.ts';
import { type CivilDate, type DayNumber, fromDay, halfIndex, toDay, type WorkingTime } from '../../time/index.ts';

/** The stages of an absence, in their order; most have none. */
export function stagesOf({ circumstances = [] }: Person, request: string): readonly Stage[] {
  const own = circumstances.flatMap(({ holds }) =>
    holds.is === 'stages' && holds.request === request ? [holds.stages] : [],
  );
  return own.length === 0 ? none : own.flat().toSorted((a, b) => (a.from < b.from ? -1 : 1));
}
const none: readonly Stage[] = [];

/** The minutes that are worked on a day of an absence. */
export const workedOn = (stages: readonly Stage[], day: CivilDate): number =>
  stages.findLast(stage => stage.from <= day)?.minutes ?? 0;

const fourWeeks = 28;

/** A part of a span in which the same share of a usual day is worked. */
export type Shared = {
  readonly from: CivilDate;
  readonly to: CivilDate;
  /** What is worked of a usual day, as a fraction; nothing where none is. */
  readonly share?: { readonly top: number; readonly bottom: number };
};

/**
 * A stretch of an absence by its stages. A usual day is one of the four weeks after the stage begins, as they are scheduled.
 * @param stretch both days included
 */
export function byStages(
  time: WorkingTime,
  stages: readonly Stage[],
  { from, to }: { readonly from: CivilDate; readonly to: CivilDate },
): Shared[] {
  const begins = [from, ...stages.map(stage => stage.from).filter(day => from < day && day <= to)];
  return begins.map((first, n) => {
    const next = begins[n + 1];
    const last = next === undefined ? to : fromDay(toDay(next) - 1);
    const minutes = workedOn(stages, first);
    if (minutes === 0) return { from: first, to: last };
    const usual = usualDay(time, toDay(first));
    return usual > 0
      ? { from: first, to: last, share: minutes >= usual ? { top: 1, bottom: 1 } : { top: minutes, bottom: usual } }
      : { from: first, to: last };
  });
}

/** Minutes of a usual day from a day on, whole. */
function usualDay(time: WorkingTime, first: DayNumber): number {
  let days = 0;
  for (let day = first; day < first + fourWeeks; day++)
    if (time.scheduled(halfIndex(day, 'am'), halfIndex(day, 'pm')).minutes > 0) days++;
  const { minutes } = time.scheduled(halfIndex(first, 'am'), halfIndex(first + fourWeeks - 1, 'pm'));
  return days === 0 ? 0 : Math.round(minutes / days);
}
