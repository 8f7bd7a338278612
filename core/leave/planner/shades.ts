/**
 * What the days of people are like before anybody is away: worked, not worked, or a holiday. Most people of a house share
 * their pattern and their calendar, so their days are worked out once for all of them.
 */
import { type DirectoryIndex, type Person, type PersonId, workingTimeOf } from '../../people/index.ts';
import { type DayNumber, toDay } from '../../time/index.ts';

/** The first and the last day that are looked at, both included. */
export type Days = { readonly first: DayNumber; readonly last: DayNumber };

/** A letter for each half day: `w` to work, `-` not worked or not employed, `h` holiday. */
export type Shade = string;

export type Shades = {
  readonly all: readonly Shade[];
  /** Which of them is somebody’s. */
  readonly of: ReadonlyMap<PersonId, number>;
};

/** All that somebody’s days hang on: two people of whom it is the same have the same days. */
function keyOf(index: DirectoryIndex, person: Person, { first, last }: Days): string {
  const { records } = person;
  const start = Math.max(
    0,
    records.findLastIndex(record => toDay(record.from) <= first),
  );
  const parts = records
    .slice(start)
    .filter((record, n) => n === 0 || toDay(record.from) <= last)
    .map(({ from, pattern, place }) => {
      const since = Math.max(toDay(from), first);
      return `${since} ${pattern} ${index.place(place)?.calendar ?? ''}`;
    });
  const joined = Math.max(toDay(person.joined), first);
  const left = person.left === null ? last : Math.min(toDay(person.left), last);
  return `${joined} ${left} ${parts.join('; ')}`;
}

function shadeOf(index: DirectoryIndex, person: Person, { first, last }: Days): Shade {
  const { schedule, holidays } = workingTimeOf(index, person, { first, last: first - 1 });
  const joined = toDay(person.joined);
  const left = person.left === null ? Number.POSITIVE_INFINITY : toDay(person.left);
  let marks = '';
  for (let day = first; day <= last; day++) {
    if (day < joined || day > left) {
      marks += '--';
      continue;
    }
    const { am, pm, worked } = schedule(day);
    const off = worked ? undefined : holidays.get(day);
    marks += `${am ? (off?.am ? 'h' : 'w') : '-'}${pm ? (off?.pm ? 'h' : 'w') : '-'}`;
  }
  return marks;
}

/** The days of people between two days. */
export function shadesOf(index: DirectoryIndex, people: readonly Person[], days: Days): Shades {
  const known = new Map<string, number>();
  const all: Shade[] = [];
  const of = new Map<PersonId, number>();
  for (const person of people) {
    const key = keyOf(index, person, days);
    let found = known.get(key);
    if (found === undefined) {
      found = all.push(shadeOf(index, person, days)) - 1;
      known.set(key, found);
    }
    of.set(person.id, found);
  }
  return { all, of };
}
