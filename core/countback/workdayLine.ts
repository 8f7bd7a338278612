/** Working days as numbers in a row, so that “four working days later” is an addition. */
import type { DayNumber } from '../time/index.ts';

/** The number of a working day in its line; the distance of two is the working days between them. */
export type Ordinal = number;

export type WorkdayLine = {
  /** The number of the first working day on or after a day; nothing when none comes within reach. */
  readonly onOrAfter: (day: DayNumber) => Ordinal | undefined;
  /** The number of the last working day before a day; nothing when none lies within reach. */
  readonly before: (day: DayNumber) => Ordinal | undefined;
  /** The day that has this number; nothing when it lies out of reach. */
  readonly day: (ordinal: Ordinal) => DayNumber | undefined;
};

/** So far is looked from one working day for the next: longer than any holiday, short enough to give up. */
const farthest = 4000;

/**
 * The line grows as far as it is asked for, in both directions from `anchor`; it may be shared by all that work by the
 * same calendar.
 */
export function workdayLine(isWorking: (day: DayNumber) => boolean, anchor: DayNumber): WorkdayLine {
  /** Working days from the anchor on, and before it (the nearest first). */
  const ahead: DayNumber[] = [];
  const behind: DayNumber[] = [];
  let last = anchor - 1;
  let first = anchor;

  /** Looks on for one more working day. */
  function grow(forwards: boolean): boolean {
    for (let far = 0; far < farthest; far++) {
      const day = forwards ? ++last : --first;
      if (!isWorking(day)) continue;
      (forwards ? ahead : behind).push(day);
      return true;
    }
    return false;
  }

  function day(ordinal: Ordinal): DayNumber | undefined {
    const [line, at, forwards] = ordinal >= 0 ? [ahead, ordinal, true] : [behind, -ordinal - 1, false];
    while (line.length <= at) if (!grow(forwards)) return undefined;
    return line[at];
  }

  /** How many of a line, sorted by `distance`, lie nearer than `wanted`. */
  function nearer(line: readonly DayNumber[], distance: (day: DayNumber) => number, wanted: number): number {
    let [low, high] = [0, line.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (distance(line[middle]) < wanted) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  function onOrAfter(wanted: DayNumber): Ordinal | undefined {
    if (wanted >= anchor) {
      while ((ahead.at(-1) ?? anchor - 1) < wanted) if (!grow(true)) return undefined;
      return nearer(ahead, at => at, wanted);
    }
    while (first > wanted) if (!grow(false)) break;
    // Those behind that lie on the wanted day or nearer to the anchor come on or after it.
    const reached = nearer(behind, at => -at, -wanted + 1);
    return reached === 0 ? (day(0) === undefined ? undefined : 0) : -reached;
  }

  return {
    day,
    onOrAfter,
    before(wanted) {
      const next = onOrAfter(wanted);
      // Where nothing comes after any more, the last one of all is before it.
      const ordinal = next === undefined ? ahead.length - 1 : next - 1;
      return day(ordinal) === undefined ? undefined : ordinal;
    },
  };
}
