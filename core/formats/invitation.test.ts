import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import ICAL from 'ical.js';
import { date } from '../testing/house.ts';
import { addDays, toInstant, toMilliseconds } from '../time/index.ts';
import type { CalendarTime, Invitation } from '../workflow/index.ts';
import { writeInvitation } from './index.ts';

const around = {
  organizer: { name: 'Selkie Sound Lights', mail: 'hr@selkie.example' },
  invited: { name: 'Ines “Tide” Okoro; observer', mail: 'ines@selkie.example' },
  domain: 'selkie.example',
  stamp: '2026-02-02T09:40:00Z',
};
const invitation = (change: Partial<Invitation>): Invitation => ({
  uid: 'R-1001-itinerary',
  sequence: 0,
  method: 'REQUEST',
  title: 'Crossing, to Ovay; by ferry',
  start: { date: date('2026-02-09') },
  end: { date: date('2026-02-11') },
  ...change,
});

/** The event as another program reads it. */
function read(text: string) {
  const root = new ICAL.Component(ICAL.parse(text) as never);
  for (const zone of root.getAllSubcomponents('vtimezone')) ICAL.TimezoneService.register(zone as never);
  const component = root.getFirstSubcomponent('vevent') as ICAL.Component;
  return { root, component, event: new ICAL.Event(component) };
}

describe('an invitation', () => {
  test('over days ends on the day after the last, and says who asks whom', () => {
    const { root, component, event } = read(writeInvitation(invitation({}), around));
    expect(root.getFirstPropertyValue('method')).toBe('REQUEST');
    expect([event.uid, event.sequence, event.summary]).toEqual([
      'R-1001-itinerary@selkie.example',
      0,
      'Crossing, to Ovay; by ferry',
    ]);
    expect([event.startDate.toString(), event.endDate.toString()]).toEqual(['2026-02-09', '2026-02-12']);
    expect(component.getFirstPropertyValue('organizer')).toBe('mailto:hr@selkie.example');
    expect(component.getFirstProperty('attendee')?.getParameter('cn')).toContain('Okoro; observer');
  });

  test('is taken back with a higher number', () => {
    const { root, component, event } = read(writeInvitation(invitation({ method: 'CANCEL', sequence: 2 }), around));
    expect([root.getFirstPropertyValue('method'), event.sequence]).toEqual(['CANCEL', 2]);
    expect(component.getFirstPropertyValue('status')).toBe('CANCELLED');
  });

  const zones = ['Europe/Lisbon', 'Atlantic/Reykjavik', 'Europe/Oslo', 'America/St_Johns', 'Australia/Lord_Howe'];
  test('with times means the same instant to whoever reads it, also where clocks change', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 900 }),
        fc.constantFrom(...zones),
        fc.constantFrom(...zones),
        fc.integer({ min: 4, max: 22 }),
        (days, from, to, hour) => {
          const day = addDays(date('2025-01-01'), days);
          const time = `${String(hour).padStart(2, '0')}:30`;
          const start: CalendarTime = { date: day, time, zone: from };
          const end: CalendarTime = { date: addDays(day, 2), time, zone: to };
          const { event } = read(writeInvitation(invitation({ start, end }), around));
          const wanted = ({ date: on, ...rest }: CalendarTime) => {
            const { zone } = rest as { zone: string };
            // The platform's own rules of the zone, by trying the hours around.
            for (let ms = toMilliseconds(`${on}T${time}:00Z`) - 50_400_000; ; ms += 900_000) {
              const shown = new Intl.DateTimeFormat('en-CA', {
                timeZone: zone,
                dateStyle: 'short',
                timeStyle: 'short',
                hourCycle: 'h23',
              }).format(ms);
              if (shown === `${on}, ${time}`) return toInstant(ms);
            }
          };
          expect(toInstant(event.startDate.toUnixTime() * 1000)).toBe(wanted(start));
          expect(toInstant(event.endDate.toUnixTime() * 1000)).toBe(wanted(end));
        },
      ),
      { numRuns: 60 },
    );
  });
});
