/** Calendars of holidays as iCalendar (RFC 5545): read into rules and single days, and written from them. */
import ICAL from 'ical.js';
import {
  addDays,
  type CivilDate,
  fromDay,
  type Holiday,
  type HolidayRule,
  isCivilDate,
  ruleDayIn,
} from '../time/index.ts';

export type ReadCalendar = {
  readonly name: string | null;
  readonly rules: readonly HolidayRule[];
  readonly holidays: readonly (Holiday & { readonly name: string })[];
  /** What could not be taken over, by its name and why. */
  readonly left: readonly { readonly name: string; readonly why: string }[];
};

const mostEvents = 2000;
const mostDays = 31;
const weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];

/** The rule of every year that an event repeats by, where there is one here. */
function ruleOf(event: ICAL.Event, start: CivilDate): HolidayRule['on'] | undefined | null {
  const recur = event.component.getFirstPropertyValue('rrule') as ICAL.Recur | null;
  if (!recur) return null;
  if (recur.freq !== 'YEARLY' || recur.interval !== 1) return undefined;
  const days = recur.parts.BYDAY as string[] | undefined;
  const months = recur.parts.BYMONTH as number[] | undefined;
  if (!days) return { kind: 'date', monthDay: start.slice(5) };
  const found = /^(-?[1-5])([A-Z]{2})$/.exec(days[0] ?? '');
  if (days.length !== 1 || months?.length !== 1 || !found) return undefined;
  const nth = Number(found[1]);
  const weekday = weekdays.indexOf(found[2] ?? '') + 1;
  if (weekday === 0 || (nth < 0 && nth !== -1)) return undefined;
  return { kind: 'weekday', month: months[0] as number, weekday, nth: nth === -1 ? 'last' : nth };
}

/** @returns nothing where the text is no iCalendar */
export function readCalendar(text: string): ReadCalendar | undefined {
  let root: ICAL.Component;
  try {
    root = new ICAL.Component(ICAL.parse(text) as ConstructorParameters<typeof ICAL.Component>[0]);
  } catch {
    return undefined;
  }
  if (root.name !== 'vcalendar') return undefined;
  const rules: HolidayRule[] = [];
  const holidays: (Holiday & { name: string })[] = [];
  const left: { name: string; why: string }[] = [];
  for (const component of root.getAllSubcomponents('vevent').slice(0, mostEvents)) {
    const event = new ICAL.Event(component);
    const name = (event.summary ?? '').trim().slice(0, 200) || 'Holiday';
    const start = event.startDate?.toString().slice(0, 10);
    if (!start || !isCivilDate(start)) {
      left.push({ name, why: 'It has no day.' });
      continue;
    }
    const day = start as CivilDate;
    const on = ruleOf(event, day);
    const part = /^(am|pm)$/.test(String(component.getFirstPropertyValue('x-part') ?? ''))
      ? (component.getFirstPropertyValue('x-part') as 'am' | 'pm')
      : 'day';
    if (on === undefined) left.push({ name, why: 'It repeats in a way that a calendar here has no rule for.' });
    else if (on !== null) {
      const until = (component.getFirstPropertyValue('rrule') as ICAL.Recur).until;
      rules.push({ name, part, on, from: Number(day.slice(0, 4)), ...(until ? { to: until.year } : {}) });
    } else {
      // A day ends before the day of its end; without one it is one day long.
      const end = event.startDate.isDate && event.endDate ? event.endDate.toString().slice(0, 10) : addDays(day, 1);
      let n = 0;
      for (let at = day; at < end && n < mostDays; at = addDays(at, 1), n++) holidays.push({ date: at, part, name });
    }
  }
  const named = root.getFirstPropertyValue('x-wr-calname') ?? root.getFirstPropertyValue('name');
  return { name: typeof named === 'string' ? named.slice(0, 200) : null, rules, holidays, left };
}

const compact = (date: string): string => date.replaceAll('-', '');

/**
 * @param stamp when it is written, as `20260312T100000Z`
 * @param years for days that no repetition says, as those from Easter: each of these years by itself
 */
export function writeCalendar(
  calendar: {
    readonly id: string;
    readonly name: string;
    readonly rules: readonly HolidayRule[];
    readonly holidays: readonly Holiday[];
  },
  stamp: string,
  years: readonly number[],
): string {
  const root = new ICAL.Component(['vcalendar', [], []]);
  root.updatePropertyWithValue('version', '2.0');
  root.updatePropertyWithValue('prodid', '-//North Pebble//Holidays//EN');
  root.updatePropertyWithValue('name', calendar.name);
  const add = (uid: string, name: string, part: Holiday['part'], date: string, rrule?: string) => {
    const event = new ICAL.Component('vevent');
    event.updatePropertyWithValue('uid', `${uid}@${calendar.id}.north-pebble`);
    event.updatePropertyWithValue(
      'dtstamp',
      ICAL.Time.fromString(
        `${stamp.slice(0, 4)}-${stamp.slice(4, 6)}-${stamp.slice(6, 8)}T00:00:00Z`,
        undefined as never,
      ),
    );
    event.updatePropertyWithValue('dtstart', ICAL.Time.fromDateString(date));
    event.updatePropertyWithValue('summary', name);
    event.updatePropertyWithValue('transp', 'TRANSPARENT');
    if (part !== 'day') event.updatePropertyWithValue('x-part', part);
    if (rrule) event.updatePropertyWithValue('rrule', ICAL.Recur.fromString(rrule));
    root.addSubcomponent(event);
  };
  const [first = 2026] = years;
  for (const [n, { name, part, on, from, to }] of calendar.rules.entries()) {
    const begins = from ?? first;
    const until = to ? `;UNTIL=${to}1231` : '';
    const own = ruleDayIn({ name, part, on }, begins);
    if (on.kind === 'date' && own !== undefined) add(`rule-${n}`, name, part, fromDay(own), `FREQ=YEARLY${until}`);
    else if (on.kind === 'weekday' && own !== undefined)
      add(
        `rule-${n}`,
        name,
        part,
        fromDay(own),
        `FREQ=YEARLY;BYMONTH=${on.month};BYDAY=${on.nth === 'last' ? -1 : on.nth}${weekdays[on.weekday - 1]}${until}`,
      );
    else
      for (const year of years) {
        const day = ruleDayIn({ name, part, on, from, to }, year);
        if (day !== undefined) add(`rule-${n}-${year}`, name, part, fromDay(day));
      }
  }
  for (const { date, part, name = 'Holiday' } of calendar.holidays)
    add(`day-${compact(date)}-${part}`, name, part, date);
  return `${root.toString()}\r\n`;
}
