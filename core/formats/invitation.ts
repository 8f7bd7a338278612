/** Invitations for calendars (RFC 5545 and 5546): one event, asked for, changed by a higher number, or taken back. */
import ICAL from 'ical.js';
import { addDays, localAt, toDay, toInstant, toMilliseconds, wallClock } from '../time/index.ts';
import type { CalendarTime, Invitation } from '../workflow/index.ts';

export type Invited = { readonly name: string; readonly mail: string };

/** Offsets of a zone from UTC around a time, in minutes, each with the time at which it begins. */
function offsetsAround(zone: string, from: number, to: number): { at: number; before: number; after: number }[] {
  const offsetAt = (ms: number): number => {
    const at = toInstant(ms);
    const local = localAt(at, zone);
    return toDay(local.date) * 1440 + local.minutes - Math.floor(ms / 60_000);
  };
  const day = 86_400_000;
  const found: { at: number; before: number; after: number }[] = [];
  const first = offsetAt(from - 370 * day);
  found.push({ at: from - 370 * day, before: first, after: first });
  for (let ms = from - 370 * day; ms < to + 370 * day; ms += day) {
    const [a, b] = [offsetAt(ms), offsetAt(ms + day)];
    if (a === b) continue;
    // The minute at which clocks change, found by halving the day.
    let [low, high] = [ms, ms + day];
    while (high - low > 60_000) {
      const middle = Math.floor((low + high) / 2 / 60_000) * 60_000;
      if (offsetAt(middle) === a) low = middle;
      else high = middle;
    }
    found.push({ at: high, before: a, after: b });
  }
  return found;
}

const offsetText = (minutes: number): string => {
  const all = Math.abs(minutes);
  return `${minutes < 0 ? '-' : '+'}${String(Math.floor(all / 60)).padStart(2, '0')}:${String(all % 60).padStart(2, '0')}`;
};

const localText = (ms: number, offset: number): string => toInstant(ms + offset * 60_000).slice(0, 19);

/** A zone as it is around the event: without it a calendar would have to guess what the name means. */
export function zoneComponent(zone: string, from: number, to: number): ICAL.Component {
  const component = new ICAL.Component('vtimezone');
  component.updatePropertyWithValue('tzid', zone);
  for (const { at, before, after } of offsetsAround(zone, from, to)) {
    const part = new ICAL.Component(after > before ? 'daylight' : 'standard');
    part.updatePropertyWithValue('dtstart', ICAL.Time.fromDateTimeString(localText(at, before)));
    part.updatePropertyWithValue('tzoffsetfrom', ICAL.UtcOffset.fromString(offsetText(before)));
    part.updatePropertyWithValue('tzoffsetto', ICAL.UtcOffset.fromString(offsetText(after)));
    component.addSubcomponent(part);
  }
  return component;
}

export function putTime(event: ICAL.Component, name: 'dtstart' | 'dtend', time: CalendarTime): void {
  if (!('time' in time)) {
    // The end of a whole day is the day after it.
    const date = name === 'dtend' ? addDays(time.date, 1) : time.date;
    event.updatePropertyWithValue(name, ICAL.Time.fromDateString(date));
    return;
  }
  const property = new ICAL.Property(name);
  property.setValue(ICAL.Time.fromDateTimeString(`${time.date}T${time.time}:00`));
  property.setParameter('tzid', time.zone);
  event.addProperty(property);
}

export const millisecondsOf = (time: CalendarTime): number => {
  if (!('time' in time)) return toMilliseconds(`${time.date}T00:00:00Z`);
  const [hours, minutes] = time.time.split(':').map(Number);
  return wallClock(toDay(time.date), hours * 60 + minutes, time.zone);
};

/**
 * The text of an invitation as a mail carries it.
 * @param stamp the instant at which it is written
 */
export function writeInvitation(
  invitation: Invitation,
  around: { readonly organizer: Invited; readonly invited: Invited; readonly domain: string; readonly stamp: string },
): string {
  const { method, uid, sequence, title, start, end } = invitation;
  const root = new ICAL.Component(['vcalendar', [], []]);
  root.updatePropertyWithValue('version', '2.0');
  root.updatePropertyWithValue('prodid', '-//North Pebble//Invitations//EN');
  root.updatePropertyWithValue('method', method);
  const [from, to] = [millisecondsOf(start), millisecondsOf(end)];
  const zones = new Set([start, end].flatMap(time => ('time' in time ? [time.zone] : [])));
  for (const zone of zones) root.addSubcomponent(zoneComponent(zone, Math.min(from, to), Math.max(from, to)));
  const event = new ICAL.Component('vevent');
  event.updatePropertyWithValue('uid', `${uid}@${around.domain}`);
  event.updatePropertyWithValue('sequence', sequence);
  event.updatePropertyWithValue('dtstamp', ICAL.Time.fromDateTimeString(`${around.stamp.slice(0, 19)}Z`));
  putTime(event, 'dtstart', start);
  putTime(event, 'dtend', end);
  event.updatePropertyWithValue('summary', title);
  event.updatePropertyWithValue('status', method === 'CANCEL' ? 'CANCELLED' : 'CONFIRMED');
  const person = (name: string, { name: called, mail }: Invited) => {
    const property = new ICAL.Property(name);
    property.setValue(`mailto:${mail}`);
    property.setParameter('cn', called);
    return event.addProperty(property);
  };
  person('organizer', around.organizer);
  const attendee = person('attendee', around.invited);
  attendee.setParameter('partstat', 'NEEDS-ACTION');
  attendee.setParameter('rsvp', 'FALSE');
  root.addSubcomponent(event);
  return `${root.toString()}\r\n`;
}
