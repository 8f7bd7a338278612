/** When some people could all be here. */
import type { PlannerRows, PlannerView } from '@north-pebble/contract';
import { addDays, type CivilDate } from '@north-pebble/core/time';

/** Whether somebody is at work in a half day, counted from the morning of the first shown; elsewhere is not here. */
const isHere = ({ bars }: PlannerRows['rows'][number], days: string, half: number): boolean =>
  days[half] === 'w' && !bars.some(({ first, last }) => first <= half && half <= last);

/**
 * Stretches of days on which everybody is here for all that they are to work, and works on at all.
 * @param people the rows of those who must be here
 */
export function allHere(view: Pick<PlannerView, 'from'>, people: PlannerRows): { from: CivilDate; to: CivilDate }[] {
  const found: { from: CivilDate; to: CivilDate }[] = [];
  const length = (people.shades[0]?.length ?? 0) / 2;
  for (let n = 0; n < length; n++) {
    const areHere = people.rows.every(row => {
      const days = people.shades[row.shade] ?? '';
      const halves = [2 * n, 2 * n + 1].filter(half => days[half] !== '-');
      return halves.length > 0 && halves.every(half => isHere(row, days, half));
    });
    if (!areHere || people.rows.length === 0) continue;
    const day = addDays(view.from, n);
    const last = found.at(-1);
    if (last && addDays(last.to, 1) === day) last.to = day;
    else found.push({ from: day, to: day });
  }
  return found;
}
