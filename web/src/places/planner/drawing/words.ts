/** What stands at a place of the drawing, in words. */
import type { PlannerBar, PlannerView } from '@north-pebble/contract';
import { addDays, type CivilDate, dateWords } from '@north-pebble/core/time';
import type { PlannerRow } from './rows.ts';

/** What somebody is away for on a day, counted from the first one shown. */
export const barsOn = (row: Pick<PlannerRow, 'bars'>, day: number): PlannerBar[] =>
  row.bars.filter(({ first, last }) => first <= day * 2 + 1 && last >= day * 2);

/** A day as its pattern and its calendar have it. */
function dayWords(days: string, day: number): string {
  const [am, pm] = [days[day * 2], days[day * 2 + 1]];
  if (am === 'h' || pm === 'h')
    return am === pm || am === '-' || pm === '-' ? 'holiday' : 'holiday for half of the day';
  if (am === 'w' || pm === 'w') return 'at work';
  return 'not a working day';
}

export function personDayWords(row: PlannerRow, from: CivilDate, day: number, year: number): string {
  const bars = barsOn(row, day);
  const what = bars.length > 0 ? bars.map(bar => bar.label).join('; ') : dayWords(row.days ?? '', day);
  return `${row.name}, ${dateWords(addDays(from, day), year)}: ${what}`;
}

/** All that a row says, for whoever does not see it. */
export const rowWords = (row: PlannerRow): string =>
  row.days === null ? '…' : row.bars.length === 0 ? 'not away' : row.bars.map(bar => bar.label).join('; ');

export type Team = PlannerView['teams'][number];
export type Needed = PlannerView['presence'][number];

export function teamDayWords(
  team: Team,
  needed: Needed | undefined,
  from: CivilDate,
  day: number,
  year: number,
): string {
  const must = needed && needed.here[day] !== null ? `, ${needed.needed} are needed` : '';
  return `${team.name}, ${dateWords(addDays(from, day), year)}: ${team.here[day]} here${must}`;
}
