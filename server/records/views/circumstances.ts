/** What the leave of somebody goes by, for them and for HR alone. */
import type { PersonPageView } from '@north-pebble/contract';
import { spanWords } from '@north-pebble/core/form';
import { asTold, typeOn } from '@north-pebble/core/leave';
import type { Holds, Person } from '@north-pebble/core/people';
import { amountWords, type CivilDate, dateWords, fullDate, yearOf } from '@north-pebble/core/time';
import { type House, loadEntriesOf, type Rules } from '../../house/index.ts';

type View = NonNullable<PersonPageView['circumstances']>;

/** The latest of their absences are those that something is said of. */
const mostAbsences = 40;

export async function circumstancesView(
  house: House,
  { types }: Rules,
  person: Person,
  today: CivilDate,
): Promise<View> {
  const year = yearOf(today);
  const nameOf = (id: string, day: CivilDate) => {
    const type = types.find(one => one.id === id);
    return type ? typeOn(type, day).name : id;
  };
  const absences = (await loadEntriesOf(house.db, [person.id], today))
    .filter(entry => {
      const type = types.find(one => one.id === entry.type);
      return entry.state === 'booked' && type && typeOn(type, entry.span.from.date).takesFrom === 'nothing';
    })
    .toSorted((a, b) => (a.span.from.date < b.span.from.date ? 1 : -1))
    .slice(0, mostAbsences)
    .map(entry => ({
      request: entry.request,
      label: `${nameOf(entry.type, entry.span.from.date)}, ${spanWords(asTold(entry), year)}`,
    }));
  const labelOf = (request: string) => absences.find(one => one.request === request)?.label ?? `request ${request}`;
  const words = (holds: Holds): string => {
    switch (holds.is) {
      case 'child':
        return `A child, born ${fullDate(holds.born)}`;
      case 'paper at once':
        return `Papers from the first day: ${nameOf(holds.type, holds.from)}, from ${dateWords(holds.from, year)}${holds.to ? ` to ${dateWords(holds.to, year)}` : ''}`;
      case 'same cause':
        return `Same cause: ${labelOf(holds.request)} and ${labelOf(holds.follows)}`;
      case 'stages':
        return `Back by stages (${labelOf(holds.request)}): ${holds.stages
          .map(({ from, minutes }) => `${amountWords(minutes / 60)} hours a day from ${dateWords(from, year)}`)
          .join(', ')}`;
    }
  };
  return {
    all: (person.circumstances ?? []).map(({ id, holds }) => ({ id, words: words(holds) })),
    absences,
    types: types.map(({ id, name }) => ({ id, name })),
  };
}
