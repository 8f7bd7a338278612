/** Everything that a command may look at besides the request itself. There is no clock here: now is given. */
import type { HouseLists, ReferenceList } from '../../form/index.ts';
import type { LeaveBook } from '../../leave/index.ts';
import {
  type Away,
  type DirectoryIndex,
  hasLeft,
  type Person,
  type PersonId,
  personName,
  todayFor,
  workingTimeOf,
  zoneFor,
  zoneOf,
} from '../../people/index.ts';
import {
  type CivilDate,
  type DayNumber,
  type Deadline,
  dayOver,
  deadlineFrom,
  endOfWork,
  type Instant,
  toDay,
  toInstant,
  toMilliseconds,
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
  /** Who acts may help any request of the house on. */
  readonly helps?: boolean;
  /** The id of the workflow, where it runs for real. */
  readonly workflow?: string;
  /** Lists that forms let people pick from. */
  readonly lists?: readonly ReferenceList[];
};

export const nameOf = (index: DirectoryIndex, id: PersonId | null): string =>
  id === null ? 'North Pebble' : personName(index, id);

/** Who asked, also where that is nobody on file. */
export const askerName = (
  index: DirectoryIndex,
  { asker, outside }: { readonly asker: PersonId | null; readonly outside?: { readonly name: string } | undefined },
): string => outside?.name ?? nameOf(index, asker);

/** For whom it is; somebody outside asks for themselves. */
export const subjectName = (
  index: DirectoryIndex,
  { subject, outside }: { readonly subject: PersonId | null; readonly outside?: { readonly name: string } | undefined },
): string => outside?.name ?? nameOf(index, subject);

/** Today where a person works. */
export function todayOf(context: Pick<Context, 'index' | 'now'>, id: PersonId): CivilDate {
  return todayFor(context.index, id, context.now);
}

/** Whether somebody is on file and has not left: a mail to them is read. */
export function mayRead(context: Pick<Context, 'index' | 'now'>, id: PersonId): boolean {
  const person = context.index.person(id);
  return person !== undefined && !hasLeft(person, todayOf(context, id));
}

/** Whose clocks somebody lives by at an instant; UTC for somebody who is not on file. */
export function zoneOfPerson({ index }: Pick<Context, 'index'>, id: PersonId | null, at: Instant): string {
  return zoneFor(index, id, at);
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
  now: context.now,
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
function placeOf(context: Pick<Context, 'index'>, place: string | undefined) {
  const found = place === undefined ? undefined : context.index.place(place);
  return found && { id: found.id, time: context.index.placeTime(found.id), zone: found.zone };
}

/** What is counted back, from which date of which field, at whose place. */
export type CountedFrom = {
  readonly subject: PersonId;
  readonly place: string | undefined;
  readonly date: CivilDate;
  readonly field: string;
};

/** At the end of the holder's work on a day, or of the place's where the holder does not work then. */
function endOn(context: Context, holder: PersonId, day: DayNumber, place: { time: WorkingTime; zone: string }) {
  const calendar = calendarOf(context, holder);
  const own = calendar && endOfWork(calendar.time, day, calendar.zone);
  return own ?? endOfWork(place.time, day, place.zone);
}

/** Counted back from a date in working days of the place where the subject will work. */
export function dueBefore(context: Context, holder: PersonId, days: number, from: CountedFrom): Due {
  const { subject, date, field } = from;
  const place = placeOf(context, from.place);
  if (!place) return { never: { code: 'place not on file', person: subject } };
  const day = workingDayFrom(place.time, toDay(date), days);
  const at = day === undefined ? undefined : endOn(context, holder, day, place);
  if (!at) return { never: { code: 'no working day before', place: place.id, date } };
  return { at, reason: { code: 'counted back', days, field, date, place: place.id } };
}

/** On the last day that the plan of the request leaves for it. */
export function dueOn(context: Context, holder: PersonId, day: CivilDate, from: CountedFrom): Due {
  const { subject, date, field } = from;
  const place = placeOf(context, from.place);
  if (!place) return { never: { code: 'place not on file', person: subject } };
  const at = endOn(context, holder, toDay(day), place);
  if (!at) return { never: { code: 'no working day before', place: place.id, date } };
  return { at, reason: { code: 'by the plan', day, field, date, place: place.id } };
}

/** The zone of a place; of the place of a person where none is known. */
const zoneAt = (context: Context, person: PersonId, where: string | undefined): string | undefined =>
  placeOf(context, where)?.zone ?? calendarOf(context, person)?.zone;

/** Whose something is, as whoever acts is told: `your`, or a name. */
export const whoseWords = ({ actor, index }: Pick<Context, 'actor' | 'index'>, person: PersonId): string =>
  actor === person ? 'your' : `${nameOf(index, person)}’s`;

/**
 * When a day is over for a person: at the midnight after it where they work, or when the shift ends that began on it. By
 * UTC where no place is known.
 */
export function endOfDay(context: Context, person: PersonId, date: CivilDate, where: string | undefined): Instant {
  const zone = zoneAt(context, person, where) ?? 'UTC';
  const midnight = dayOver(date, zone);
  const calendar = calendarOf(context, person);
  const shift = calendar && endOfWork(calendar.time, toDay(date), zone);
  return shift !== undefined && toMilliseconds(shift) > toMilliseconds(midnight) ? shift : midnight;
}

/**
 * A moment of the day so many working days before a date, at a place; by the zone of a person where none is known. The
 * first of the day where no time is said.
 */
export function morningBefore(
  context: Context,
  person: PersonId,
  date: CivilDate,
  days: number,
  where: string | undefined,
  at = '00:00',
): Instant | undefined {
  const place = placeOf(context, where);
  const minutes = Number(at.slice(0, 2)) * 60 + Number(at.slice(3, 5));
  const zone = zoneAt(context, person, where);
  if (zone === undefined) return undefined;
  const day = days === 0 ? toDay(date) : place && workingDayFrom(place.time, toDay(date), days);
  return day === undefined ? undefined : toInstant(wallClock(day, minutes, zone));
}
