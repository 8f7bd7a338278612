/** A calendar to subscribe to, read back by another reader: the days are those of the leave, in every zone. */
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import ICAL from 'ical.js';
import { addDays, type CivilDate, toDay, workingTime } from '../time/index.ts';
import { calendarTimes, type FeedEvent, writeFeed } from './index.ts';

const start = '2026-01-01' as CivilDate;
const zones = [
  'Europe/Lisbon',
  'Atlantic/Reykjavik',
  'Europe/Oslo',
  'Pacific/Auckland',
  'America/St_Johns',
  'Asia/Kathmandu',
];
const patterns = {
  office: [{ am: ['09:00', '12:30'], pm: ['13:00', '17:00'] }],
  night: [{ pm: ['20:00', '32:00'] }],
  none: [{}],
} as const;
const timeOf = (name: keyof typeof patterns) =>
  workingTime([{ from: start, anchor: start, cycle: patterns[name] as never }], [], {
    first: toDay(start),
    last: toDay(start),
  });

/** The civil days that an event touches, as its reader in its own zone sees them. */
function daysOf(event: ICAL.Event): string[] {
  const [from, to] = [event.startDate.toString().slice(0, 10), event.endDate.toString()];
  // A whole day ends before the day of its end; what ends at midnight too.
  const isOpen = event.endDate.isDate || to.endsWith('T00:00:00');
  const last = isOpen ? addDays(to.slice(0, 10) as CivilDate, -1) : (to.slice(0, 10) as CivilDate);
  const days: string[] = [];
  for (let day = from as CivilDate; day <= last; day = addDays(day, 1)) days.push(day);
  return days;
}

test('a feed read back has the days of the leave, in every zone, whatever is worked', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 720 }),
      fc.integer({ min: 0, max: 20 }),
      fc.constantFrom('am', 'pm' as const),
      fc.constantFrom('am', 'pm' as const),
      fc.constantFrom(...zones),
      fc.constantFrom<keyof typeof patterns>('office', 'night', 'none'),
      (at, length, first, last, zone, pattern) => {
        if (length === 0 && first === 'pm' && last === 'am') return;
        const [from, to] = [addDays(start, at), addDays(start, at + length)];
        const span = { from: { date: from, half: first }, to: { date: to, half: last } } as never;
        const event: FeedEvent = {
          uid: 'R-1',
          sequence: 3,
          title: 'Away; with, odd \\ letters\nand lines 田中',
          state: 'booked',
          own: at % 2 === 0,
          ...calendarTimes(span, timeOf(pattern), zone),
        };
        const text = writeFeed('Away', [event], { domain: 'selkie.example', stamp: '2026-02-02T00:00:00Z' });
        for (const line of text.split('\r\n'))
          expect(encodeURIComponent(line).replace(/%../g, 'x').length).toBeLessThanOrEqual(75);
        const [component] = new ICAL.Component(ICAL.parse(text) as never).getAllSubcomponents('vevent');
        expect(component!.getFirstPropertyValue('transp')).toBe(event.own ? 'OPAQUE' : 'TRANSPARENT');
        const back = new ICAL.Event(component!);
        expect(back.summary).toBe(event.title);
        expect(back.endDate.compare(back.startDate)).toBe(1);
        const days = daysOf(back);
        expect(days[0]).toBe(from);
        // A night goes on into the next morning.
        const ends = days.at(-1) as string;
        expect([to, ...(pattern === 'night' ? [addDays(to, 1)] : [])]).toContain(ends);
      },
    ),
    { numRuns: 200 },
  );
});
