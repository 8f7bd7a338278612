/** Calendars to subscribe to (RFC 5545): who is away when, read again and again by other programs. */
import ICAL from 'ical.js';
import { isTimed, type LeaveSpan } from '../leave/index.ts';
import { type CivilDate, toDay, type WorkingTime } from '../time/index.ts';
import type { CalendarTime } from '../workflow/index.ts';
import { millisecondsOf, putTime, zoneComponent } from './invitation.ts';

/** One absence as a calendar shows it. */
export type FeedEvent = {
  /** The same for as long as it is the same absence, whatever its days. */
  readonly uid: string;
  /** Higher with each change of it. */
  readonly sequence: number;
  readonly title: string;
  /** Asked for, settled, or no more. */
  readonly state: 'held' | 'booked' | 'gone';
  readonly start: CalendarTime;
  readonly end: CalendarTime;
  /** Whether it is the absence of whoever reads it: that of others keeps none of their time. */
  readonly own: boolean;
};

/** A time of a day; what goes past midnight is on the next one. */
function timeOn(day: number, minutes: number, zone: string): CalendarTime {
  const at = new Date((day * 1440 + minutes) * 60_000).toISOString();
  return { date: at.slice(0, 10) as CivilDate, time: at.slice(11, 16), zone };
}

const noon = 720;

/**
 * From when to when a span is, as calendars say it: whole days without a time, the last of them included; halves and hours
 * with their times in the zone of whoever is away.
 */
export function calendarTimes(span: LeaveSpan, time: WorkingTime, zone: string): Pick<FeedEvent, 'start' | 'end'> {
  if (isTimed(span))
    return {
      start: { date: span.from.date, time: span.from.time, zone },
      end: { date: span.to.date, time: span.to.time, zone },
    };
  if (span.from.half === 'am' && span.to.half === 'pm')
    return { start: { date: span.from.date }, end: { date: span.to.date } };
  const [first, last] = [toDay(span.from.date), toDay(span.to.date)];
  const { am: firstAm, pm: firstPm } = time.parts(first);
  const { am: lastAm, pm: lastPm } = time.parts(last);
  // Where nothing is scheduled, a half ends or begins at noon.
  const begins = span.from.half === 'am' ? (firstAm?.start ?? 0) : (firstPm?.start ?? noon);
  const ends = span.to.half === 'pm' ? (lastPm?.end ?? 1440) : (lastAm?.end ?? noon);
  return { start: timeOn(first, begins, zone), end: timeOn(last, ends, zone) };
}

/** What a zone says over these years; worked out once. */
const zones = new Map<string, unknown>();
const mostZones = 200;
function zoneOver(zone: string, from: number, to: number): ICAL.Component {
  const years = [new Date(from).getUTCFullYear(), new Date(to).getUTCFullYear()];
  const key = `${zone} ${years}`;
  let json = zones.get(key);
  if (!json) {
    if (zones.size >= mostZones) zones.clear();
    json = zoneComponent(zone, Date.UTC(years[0], 0, 1), Date.UTC(years[1], 11, 31)).toJSON();
    zones.set(key, json);
  }
  return new ICAL.Component(structuredCloneOf(json) as ConstructorParameters<typeof ICAL.Component>[0]);
}
const structuredCloneOf = (json: unknown): unknown => JSON.parse(JSON.stringify(json));

const states = { held: 'TENTATIVE', booked: 'CONFIRMED', gone: 'CANCELLED' } as const;

/**
 * @param around the domain that ids are of, and the instant at which it is written
 * @returns the text of a calendar
 */
export function writeFeed(
  name: string,
  events: readonly FeedEvent[],
  around: { readonly domain: string; readonly stamp: string },
): string {
  const root = new ICAL.Component(['vcalendar', [], []]);
  root.updatePropertyWithValue('version', '2.0');
  root.updatePropertyWithValue('prodid', '-//North Pebble//Away//EN');
  root.updatePropertyWithValue('name', name);
  root.updatePropertyWithValue('refresh-interval', ICAL.Duration.fromString('PT1H'));
  const times = events.flatMap(({ start, end }) => [start, end]);
  const named = new Set(times.flatMap(time => ('time' in time ? [time.zone] : [])));
  if (named.size > 0) {
    let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (const time of times) {
      const at = millisecondsOf(time);
      from = Math.min(from, at);
      to = Math.max(to, at);
    }
    for (const zone of [...named].sort()) root.addSubcomponent(zoneOver(zone, from, to));
  }
  const stamp = ICAL.Time.fromDateTimeString(`${around.stamp.slice(0, 19)}Z`);
  for (const { uid, sequence, title, state, start, end, own } of events) {
    const event = new ICAL.Component('vevent');
    event.updatePropertyWithValue('uid', `${uid}@${around.domain}`);
    event.updatePropertyWithValue('sequence', sequence);
    event.updatePropertyWithValue('dtstamp', stamp);
    putTime(event, 'dtstart', start);
    putTime(event, 'dtend', end);
    event.updatePropertyWithValue('summary', title);
    event.updatePropertyWithValue('status', states[state]);
    event.updatePropertyWithValue('transp', own ? 'OPAQUE' : 'TRANSPARENT');
    root.addSubcomponent(event);
  }
  return `${root.toString()}\r\n`;
}

/** A day in which an absence that was taken back is still told: calendars that look once a day see it. */
export const toldGoneFor = 120;
