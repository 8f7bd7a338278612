import { describe, expect, test } from '@jest/globals';
import { date } from '../testing/house.ts';
import { holidayRuleFrom } from './holidayRules.ts';
import { readCalendar, writeCalendar } from './iCalendar.ts';

const calendar = {
  id: 'sound',
  name: 'The Sound, ü',
  rules: [
    { name: 'Lantern day', part: 'pm' as const, on: { kind: 'date' as const, monthDay: '12-24' }, from: 2026 },
    {
      name: 'Harbour day',
      part: 'day' as const,
      on: { kind: 'weekday' as const, month: 8, weekday: 1, nth: 'last' as const },
      from: 2026,
      to: 2030,
    },
    { name: 'Good Friday', part: 'day' as const, on: { kind: 'easter' as const, days: -2 } },
  ],
  holidays: [{ date: date('2026-05-04'), part: 'am' as const, name: 'Launch; a long day, with a comma' }],
};

describe('iCalendar', () => {
  test('what is written is read again: repeated days as rules, those from Easter year by year', () => {
    const text = writeCalendar(calendar, '20260312T100000Z', [2026, 2027]);
    expect(text.startsWith('BEGIN:VCALENDAR\r\n')).toBe(true);
    expect(text).toContain('DTSTART;VALUE=DATE:20261224');
    for (const line of text.split('\r\n')) expect(line.length).toBeLessThanOrEqual(75);
    const read = readCalendar(text);
    expect(read?.name).toBe(calendar.name);
    expect(read?.rules).toEqual(calendar.rules.slice(0, 2));
    expect(read?.holidays).toEqual([
      { date: '2026-04-03', part: 'day', name: 'Good Friday' },
      { date: '2027-03-26', part: 'day', name: 'Good Friday' },
      calendar.holidays[0],
    ]);
    expect(read?.left).toEqual([]);
  });
  test('days of several days, and what repeats in other ways', () => {
    const event = (...lines: string[]) => ['BEGIN:VEVENT', ...lines, 'END:VEVENT'];
    const text = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      ...event('UID:1', 'SUMMARY:Feast', 'DTSTART;VALUE=DATE:20260803', 'DTEND;VALUE=DATE:20260805'),
      ...event('UID:2', 'SUMMARY:Monthly', 'DTSTART;VALUE=DATE:20260101', 'RRULE:FREQ=MONTHLY'),
      'END:VCALENDAR',
    ].join('\r\n');
    expect(readCalendar(text)).toMatchObject({
      rules: [],
      holidays: [{ date: '2026-08-03' }, { date: '2026-08-04' }],
      left: [{ name: 'Monthly' }],
    });
  });
  test.each(['', 'hello', 'BEGIN:VCARD\r\nEND:VCARD', 'BEGIN:VCALENDAR\r\nBEGIN:VEVENT'])('%j is none', text => {
    const read = readCalendar(text);
    expect(read === undefined || read.holidays.length === 0).toBe(true);
  });
});

test.each([
  ['12-25', { kind: 'date', monthDay: '12-25' }],
  ['easter -2', { kind: 'easter', days: -2 }],
  ['easter', { kind: 'easter', days: 0 }],
  ['2nd sunday in May', { kind: 'weekday', month: 5, weekday: 7, nth: 2 }],
  ['monday before 06-01', { kind: 'weekday', month: 5, weekday: 1, nth: 'last' }],
  ['wednesday before 11-23', undefined],
  ['12-24 14:00 if sunday then 00:00', undefined],
  ['10 Muharram', undefined],
])('the rule %s', (text, expected) => expect(holidayRuleFrom(text)).toEqual(expected));
