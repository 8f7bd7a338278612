/**
 * The directory: people, posts and who holds them, as effective-dated records, plus places, calendars and patterns.
 * A person's line manager is whoever holds the post that their main post reports to.
 */
import { z } from 'zod';
import {
  addDays,
  type Calendar,
  type CivilDate,
  calendarIndex,
  type DayNumber,
  type HolidayIndex,
  knownUntil,
  toDay,
  type WorkingTime,
  type WorkPattern,
  workingTime,
} from '../time/index.ts';

export const PersonId = z.string().min(1).max(40).brand<'PersonId'>();
export type PersonId = z.infer<typeof PersonId>;
export type PostId = string;

/** What holds for a person from a day on. */
export type PersonRecord = {
  readonly from: CivilDate;
  readonly place: string;
  readonly department: string;
  /** Named work pattern; the cycle is counted from the pattern's own anchor. */
  readonly pattern: string;
  /** Full-time share, 0 to 1. */
  readonly fte: number;
  /** Leave plan, or nothing for people who earn no leave here. */
  readonly plan: string | null;
  /** Where the plan counts in another unit than the one before: units of it for one of the old. */
  readonly planPer?: number | null;
  /** What their work is charged to, as pay and accounts know it. */
  readonly costCentre?: string | null;
};

/** What the house before said of a balance of leave on the morning of a day: from then on it is counted here. */
export type PersonOpening = {
  readonly type: string;
  readonly on: CivilDate;
  /** What is left of the leave year's own, and what was carried over into it. */
  readonly own: number;
  readonly carried: number;
  /** The last day on which what was carried over can be taken. */
  readonly lapses: CivilDate | null;
  /** Where it comes from, as the statement says it. */
  readonly source: string;
};

/** What is true of somebody that their leave goes by. It is read by them and by HR alone. */
export type Holds =
  /** A child of theirs. */
  | { readonly is: 'child'; readonly born: CivilDate }
  /** Papers for leave of a type are due from its first day. */
  | { readonly is: 'paper at once'; readonly type: string; readonly from: CivilDate; readonly to: CivilDate | null }
  /** Two absences have one cause. */
  | { readonly is: 'same cause'; readonly request: string; readonly follows: string }
  /** They come back by stages: so many minutes of a day, each from a day on, while the absence goes on. */
  | { readonly is: 'stages'; readonly request: string; readonly stages: readonly Stage[] };
export type Stage = { readonly from: CivilDate; readonly minutes: number };
export type Circumstance = { readonly id: string; readonly holds: Holds };

export type Person = {
  readonly id: PersonId;
  readonly name: string;
  readonly mail: string;
  readonly joined: CivilDate;
  readonly left: CivilDate | null;
  /** Whom they also answer to, beside the reporting line. */
  readonly dottedTo: PersonId | null;
  /** What pay knows them by. */
  readonly number?: string | null;
  /** Oldest first. */
  readonly records: readonly PersonRecord[];
  /** One for a type of leave. */
  readonly openings?: readonly PersonOpening[];
  readonly circumstances?: readonly Circumstance[];
};

export type Post = {
  readonly id: PostId;
  readonly title: string;
  readonly department: string;
  readonly place: string;
  /** How high the post stands; nothing when the house does not grade it. */
  readonly grade?: number | null;
  /** What its holder may spend on one request, in the house's currency. */
  readonly spending?: number | null;
  /** The last day on which the post is there; nothing while it has no end. */
  readonly closed?: CivilDate | null;
  /** Whom the post reports to from a day on; nothing at the top. */
  readonly lines: readonly { readonly from: CivilDate; readonly reportsTo: PostId | null }[];
};

export type Holding = {
  readonly post: PostId;
  readonly person: PersonId;
  readonly from: CivilDate;
  readonly to: CivilDate | null;
  /** A person's line manager is looked for above the main post. */
  readonly main: boolean;
};

/** Who stands in for a person for a time, both days included. */
export type Cover = {
  readonly person: PersonId;
  readonly by: PersonId;
  readonly from: CivilDate;
  readonly to: CivilDate;
  /** Only in these workflows; in all of them when nothing is said. */
  readonly workflows?: readonly string[];
  /** Who set it, when that was not the person. */
  readonly setBy?: PersonId;
};

/** A person away for whole days, both included. */
export type Away = { readonly person: PersonId; readonly from: CivilDate; readonly to: CivilDate };

export type RoleHolding = {
  readonly role: string;
  readonly person: PersonId;
  /** Only for the people of this place, or of this department; for everybody when nothing is said. */
  readonly place?: string | null;
  readonly department?: string | null;
  /** The days on which it is held, both included; without an end where nothing is said. */
  readonly from?: CivilDate | null;
  readonly to?: CivilDate | null;
};

/** The role of those in HR who look after people, all of them or those of a place. */
export const hrPartner = 'HR partner';

export type PlaceRecord = {
  readonly id: string;
  readonly name: string;
  readonly zone: string;
  readonly calendar: string;
  /** The post that heads the place. */
  readonly head?: PostId | null;
};
export type Department = { readonly id: string; readonly name: string; readonly head: PostId | null };
export type NamedPattern = {
  readonly id: string;
  readonly name: string;
  readonly anchor: CivilDate;
  readonly cycle: WorkPattern['cycle'];
};

export type Directory = {
  readonly people: readonly Person[];
  readonly posts: readonly Post[];
  readonly holdings: readonly Holding[];
  readonly covers: readonly Cover[];
  readonly roles: readonly RoleHolding[];
  readonly places: readonly PlaceRecord[];
  readonly departments: readonly Department[];
  readonly patterns: readonly NamedPattern[];
  readonly calendars: readonly Calendar[];
};

/** Look-ups over a directory, built once and shared. */
export type DirectoryIndex = {
  readonly directory: Directory;
  readonly person: (id: PersonId) => Person | undefined;
  readonly post: (id: PostId) => Post | undefined;
  readonly place: (id: string) => PlaceRecord | undefined;
  readonly department: (id: string) => Department | undefined;
  readonly holdingsOfPerson: (id: PersonId) => readonly Holding[];
  readonly holdingsOfPost: (id: PostId) => readonly Holding[];
  readonly coversOf: (id: PersonId) => readonly Cover[];
  /** Posts that report to a post, or did or will on some other day. */
  readonly postsUnder: (id: PostId) => readonly Post[];
  /** Who has a role on a day. */
  readonly holdersOfRole: (role: string, day: CivilDate) => readonly RoleHolding[];
  readonly holidays: (calendar: string) => HolidayIndex;
  /** Monday to Friday less the calendar of a place, in days of no particular length. */
  readonly placeTime: (place: string) => WorkingTime;
  readonly pattern: (id: string) => NamedPattern | undefined;
};

function group<K, T>(all: readonly T[], key: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of all) {
    const k = key(item);
    const list = groups.get(k);
    if (list) list.push(item);
    else groups.set(k, [item]);
  }
  return groups;
}

const workday = { am: ['09:00', '13:00'], pm: ['13:00', '17:00'] } as WorkPattern['cycle'][number];

/** Monday to Friday: 1 January 2024 was a Monday. */
const placePattern: WorkPattern = {
  from: '1900-01-01' as CivilDate,
  anchor: '2024-01-01' as CivilDate,
  cycle: [workday, workday, workday, workday, workday, {}, {}],
};

export function indexDirectory(directory: Directory): DirectoryIndex {
  const people = new Map(directory.people.map(p => [p.id, p]));
  const posts = new Map(directory.posts.map(p => [p.id, p]));
  const places = new Map(directory.places.map(p => [p.id, p]));
  const departments = new Map(directory.departments.map(d => [d.id, d]));
  const patterns = new Map(directory.patterns.map(p => [p.id, p]));
  const byPerson = group(directory.holdings, h => h.person);
  const covers = group(directory.covers, c => c.person);
  const byPost = group(directory.holdings, h => h.post);
  const roles = group(directory.roles, r => r.role);
  const lines = directory.posts.flatMap(post =>
    [...new Set(post.lines.map(line => line.reportsTo))].map(above => ({ above, post })),
  );
  const under = group(lines, line => line.above);
  const holidays = new Map<string, HolidayIndex>();
  const placeTimes = new Map<string, WorkingTime>();
  const holidaysOf = (calendar: string) => {
    const known = holidays.get(calendar);
    if (known) return known;
    const found = calendarIndex(directory.calendars, calendar);
    holidays.set(calendar, found);
    return found;
  };
  return {
    directory,
    person: id => people.get(id),
    post: id => posts.get(id),
    place: id => places.get(id),
    department: id => departments.get(id),
    pattern: id => patterns.get(id),
    holdingsOfPerson: id => byPerson.get(id) ?? [],
    holdingsOfPost: id => byPost.get(id) ?? [],
    coversOf: id => covers.get(id) ?? [],
    postsUnder: id => (under.get(id) ?? []).map(line => line.post),
    holdersOfRole: (role, day) => (roles.get(role) ?? []).filter(holding => isHeldOn(holding, day)),
    holidays: holidaysOf,
    placeTime(place) {
      const known = placeTimes.get(place);
      if (known) return known;
      const calendar = places.get(place)?.calendar;
      const found = workingTime([placePattern], calendar ? holidaysOf(calendar) : [], { first: 0, last: -1 });
      placeTimes.set(place, found);
      return found;
    },
  };
}

/** The record that holds on a day: the latest from on or before it, the first one before that. */
export function recordOn(person: Person, day: CivilDate): PersonRecord {
  let found = person.records[0];
  for (const record of person.records) if (record.from <= day) found = record;
  return found;
}

/** Whether a role is held on a day. */
export const isHeldOn = ({ from, to }: Pick<RoleHolding, 'from' | 'to'>, day: CivilDate): boolean =>
  (!from || from <= day) && (!to || to >= day);

/** Whether a role is held for somebody with this record; for somebody who is not on file only when it is held for everybody. */
export const isHeldFor = (
  { place, department }: RoleHolding,
  record: { readonly place: string; readonly department?: string } | undefined,
): boolean => (!place || record?.place === place) && (!department || record?.department === department);

/** Whether somebody in HR looks after a person on a day. */
export function looksAfter(index: DirectoryIndex, who: PersonId, person: PersonId, day: CivilDate): boolean {
  const found = index.person(person);
  const record = found && recordOn(found, day);
  return index.holdersOfRole(hrPartner, day).some(holding => holding.person === who && isHeldFor(holding, record));
}

/** The same for somebody who is not on file yet, by where they will work; where that is not known, HR of everybody alone. */
export const looksAfterAt = (
  index: DirectoryIndex,
  who: PersonId,
  where: { readonly place: string; readonly department?: string } | undefined,
  day: CivilDate,
): boolean => index.holdersOfRole(hrPartner, day).some(held => held.person === who && isHeldFor(held, where));

/** Whether somebody in HR looks after anybody at all. */
export const looksAfterSome = (index: DirectoryIndex, who: PersonId, day: CivilDate): boolean =>
  index.holdersOfRole(hrPartner, day).some(holding => holding.person === who);

export const isEmployed = (person: Pick<Person, 'joined' | 'left'>, day: CivilDate): boolean =>
  person.joined <= day && (person.left === null || person.left >= day);

/** Whether somebody worked here before a day and does not any more; whoever is still to come has not left. */
export const hasLeft = (person: Person, day: CivilDate): boolean => person.left !== null && person.left < day;

export const holdsOn = (holding: Holding, day: CivilDate): boolean =>
  holding.from <= day && (holding.to === null || holding.to >= day);

/** A person's zone on a day; UTC for someone whose place is not on file. */
export const zoneOf = (index: DirectoryIndex, person: Person, day: CivilDate): string =>
  index.place(recordOn(person, day).place)?.zone ?? 'UTC';

/** Patterns of a person in force from their record's day on, and none after leaving. */
export function patternsOf(index: DirectoryIndex, person: Person): WorkPattern[] {
  return person.records.flatMap(record => {
    const named = index.pattern(record.pattern);
    return named ? [{ from: record.from, anchor: named.anchor, cycle: named.cycle }] : [];
  });
}

/** The holidays of a person: those of the calendar of the place where they are from each record on. */
export function holidaysOfPerson(index: DirectoryIndex, person: Person): HolidayIndex {
  const stays = person.records.map((record, i) => {
    const calendar = index.place(record.place)?.calendar;
    return { from: i === 0 ? Number.NEGATIVE_INFINITY : toDay(record.from), off: calendar && index.holidays(calendar) };
  });
  if (stays.length === 1) return stays[0].off || { get: () => undefined };
  return {
    get(day) {
      const stay = stays.findLast(({ from }) => from <= day);
      return stay?.off ? stay.off.get(day) : undefined;
    },
  };
}

/** The last year of which the holidays of a person's place are known; nothing where they are known for every year. */
export function holidaysKnownUntil(index: DirectoryIndex, person: Person, day: CivilDate): number | undefined {
  const calendar = index.place(recordOn(person, day).place)?.calendar;
  return calendar ? knownUntil(index.directory.calendars, calendar) : undefined;
}

export function workingTimeOf(
  index: DirectoryIndex,
  person: Person,
  window: { first: DayNumber; last: DayNumber },
): WorkingTime {
  return workingTime(patternsOf(index, person), holidaysOfPerson(index, person), window);
}

/** The directory as it is for whoever may know the opening balances of one person. */
export function withOpenings(
  index: DirectoryIndex,
  { person: id, openings }: { readonly person: PersonId; readonly openings: readonly PersonOpening[] },
): DirectoryIndex {
  const known = index.person(id);
  if (!known || openings.length === 0) return index;
  const opened: Person = { ...known, openings };
  return { ...index, person: asked => (asked === id ? opened : index.person(asked)) };
}

/** The days on which something begins to hold of people, posts, lines, roles or covers, in order; each once. */
function turningDays({ people, posts, holdings, covers, roles }: Directory): readonly CivilDate[] {
  const after = (day: CivilDate | null | undefined) => (day ? [addDays(day, 1)] : []);
  const days = new Set<CivilDate>();
  const add = (...some: readonly CivilDate[]) => {
    for (const day of some) days.add(day);
  };
  for (const { joined, left, records } of people) {
    add(joined, ...after(left));
    for (const record of records) add(record.from);
  }
  for (const { closed, lines } of posts) {
    add(...after(closed));
    for (const line of lines) add(line.from);
  }
  for (const { from, to } of [...holdings, ...covers]) add(from, ...after(to));
  for (const { from, to } of roles) add(...(from ? [from] : []), ...after(to));
  return [...days].sort();
}

const turningDaysOf = new WeakMap<Directory, readonly CivilDate[]>();

/** The first day since which the same holds of everybody as on a day; the day itself where nothing began before it. */
export function sameSince(directory: Directory, day: CivilDate): CivilDate {
  const days = turningDaysOf.get(directory) ?? turningDays(directory);
  turningDaysOf.set(directory, days);
  let [low, high] = [0, days.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((days[middle] ?? day) <= day) low = middle + 1;
    else high = middle;
  }
  return days[low - 1] ?? day;
}
