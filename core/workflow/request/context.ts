/** Everything that a command may look at besides the request itself. There is no clock here: now is given. */
import type { HouseLists, ReferenceList } from '../../form/index.ts';
import type { LeaveBook } from '../../leave/index.ts';
import {
  type Away,
  type DirectoryIndex,
  type Person,
  type PersonId,
  personName,
  recordOn,
  workingTimeOf,
  zoneOf,
} from '../../people/index.ts';
import {
  type CivilDate,
  civilDateAt,
  type Deadline,
  deadlineFrom,
  endOfWork,
  type Instant,
  toDay,
  toInstant,
  type WorkingAmount,
  type WorkingTime,
  wallClock,
  workingDayFrom,
  workingHoursBetween,
} from '../../time/index.ts';
import { type Facts, withPosts } from '../figures/evaluate.ts';
import type { Reason } from './reason.ts';

export type Context = {
  readonly now: Instant;
  /** Who acts; nobody when it is a timer. */
  readonly actor: PersonId | null;
  readonly index: DirectoryIndex;
  readonly book: LeaveBook;
  readonly away: readonly Away[];
  /** The id of the workflow, where it runs for real. */
  readonly workflow?: string;
  /** Lists that forms let people pick from. */
  readonly lists?: readonly ReferenceList[];
};

export const nameOf = (index: DirectoryIndex, id: PersonId | null): string =>
  id === null ? 'North Pebble' : personName(index, id);

/** Today where a person works. */
export function todayOf(context: Pick<Context, 'index' | 'now'>, id: PersonId): CivilDate {
  const person = context.index.person(id);
  const day = civilDateAt(context.now, 'UTC');
  return civilDateAt(context.now, person ? zoneOf(context.index, person, day) : 'UTC');
}

export const listsOf = (context: Pick<Context, 'index' | 'lists'>): readonly ReferenceList[] =>
  withPosts(context.index, context.lists);

/** What answers of a request are checked against. */
export const houseListsOf = (
  context: Pick<Context, 'index' | 'lists'> & { readonly book: Pick<LeaveBook, 'types' | 'today'> },
): HouseLists => ({
  leaveTypes: context.book.types,
  lists: listsOf(context),
  index: context.index,
  today: context.book.today,
});

export const factsOf = (context: Context, asker: PersonId, subject: PersonId | null, request?: string): Facts => ({
  book: context.book,
  asker,
  subject,
  request,
  lists: listsOf(context),
});

export type Due = { at: Instant; reason: Reason } | { never: Reason };

type Calendar = { person: Person; time: WorkingTime; zone: string };
/** By person and day; a directory never changes. Thrown away when there are many, since days go by. */
const calendars = new WeakMap<DirectoryIndex, Map<string, Calendar>>();
const mostCalendars = 1000;

function calendarOf(context: Context, holder: PersonId): Calendar | undefined {
  const { index } = context;
  const person = index.person(holder);
  if (!person) return undefined;
  const today = todayOf(context, holder);
  let known = calendars.get(index);
  if (!known || known.size >= mostCalendars) {
    known = new Map();
    calendars.set(index, known);
  }
  const key = `${today}${holder}`;
  const before = known.get(key);
  if (before) return before;
  const day = toDay(today);
  const time = workingTimeOf(index, person, { first: day, last: day - 1 });
  const calendar = { person, time, zone: zoneOf(index, person, today) };
  known.set(key, calendar);
  return calendar;
}

/** When something is due in the holder's working time: their pattern, their holidays, their zone. */
export function dueFor(context: Context, holder: PersonId, amount: WorkingAmount): Due {
  const calendar = calendarOf(context, holder);
  if (!calendar) return { never: { code: 'holder not on file' } };
  const { person, time, zone } = calendar;
  const due: Deadline = deadlineFrom(time, zone, context.now, amount);
  if ('error' in due) return { never: { code: 'no working time', person: person.id } };
  return {
    at: due.due,
    reason: { code: 'working time', amount, person: person.id, from: context.now, zone },
  };
}

/** When something is due whose clock stood still since an instant: what was left of its time, counted from now on. */
export function dueAfterPause(context: Context, holder: PersonId, due: Instant, since: Instant): Due {
  const calendar = calendarOf(context, holder);
  if (!calendar) return { never: { code: 'holder not on file' } };
  const { person, time, zone } = calendar;
  const workingHours = workingHoursBetween(time, zone, since, due);
  // What was late when the clock stopped is late still.
  if (workingHours === 0) return { at: due, reason: { code: 'no working time left' } };
  const later = deadlineFrom(time, zone, context.now, { workingHours });
  if ('error' in later) return { never: { code: 'no working time', person: person.id } };
  return {
    at: later.due,
    reason: { code: 'working time left', amount: { workingHours }, person: person.id, from: context.now, zone },
  };
}

/**
 * The working days by which days before a date are counted: those of the place where the person works or will work,
 * Monday to Friday less its calendar. Their own pattern may not hold yet.
 */
function placeOf(context: Pick<Context, 'index'>, id: PersonId, date: CivilDate) {
  const person = context.index.person(id);
  if (!person) return undefined;
  const place = recordOn(person, date)?.place;
  const found = place === undefined ? undefined : context.index.place(place);
  if (place === undefined || !found) return undefined;
  return { id: place, time: context.index.placeTime(place), zone: found.zone };
}

/**
 * Counted back from a date in working days of the subject's place: at the end of the holder's work on that day, or of
 * the place's where the holder does not work then.
 */
export function dueBefore(
  context: Context,
  holder: PersonId,
  subject: PersonId,
  date: CivilDate,
  days: number,
  field: string,
): Due {
  const place = placeOf(context, subject, date);
  if (!place) return { never: { code: 'place not on file', person: subject } };
  const day = workingDayFrom(place.time, toDay(date), days);
  const calendar = calendarOf(context, holder);
  const own = day === undefined || !calendar ? undefined : endOfWork(calendar.time, day, calendar.zone);
  const at = own ?? (day === undefined ? undefined : endOfWork(place.time, day, place.zone));
  if (!at) return { never: { code: 'no working day before', place: place.id, date } };
  return { at, reason: { code: 'counted back', days, field, date, place: place.id } };
}

/** The first moment of a day so many working days before a date, at the place of the person that it is about. */
export function morningBefore(context: Context, subject: PersonId, date: CivilDate, days: number): Instant | undefined {
  const place = placeOf(context, subject, date);
  const zone = place?.zone ?? calendarOf(context, subject)?.zone;
  if (zone === undefined) return undefined;
  const day = days === 0 ? toDay(date) : place && workingDayFrom(place.time, toDay(date), days);
  return day === undefined ? undefined : toInstant(wallClock(day, 0, zone));
}
