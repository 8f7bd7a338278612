import { describe, expect, test } from '@jest/globals';
import { date, instant } from '../testing/house.ts';
import {
  amountOfUnit,
  amountWords,
  clockWords,
  dateWords,
  fullDate,
  momentThere,
  momentWords,
  rangeWords,
  shortDate,
  workingWords,
} from './index.ts';

describe('dates in words', () => {
  test('a day has its weekday, and its year only when it is another', () => {
    expect(fullDate(date('2026-02-09'))).toBe('Mon 9 February 2026');
    expect(dateWords(date('2026-02-09'), 2026)).toBe('Mon 9 February');
    expect(dateWords(date('2025-12-31'), 2026)).toBe('Wed 31 December 2025');
    expect(shortDate(date('2026-02-09'), 2026)).toBe('Mon 9 Feb');
    expect(shortDate(date('2026-02-09'), 2027)).toBe('Mon 9 Feb 2026');
  });

  test.each([
    ['2026-02-09', '2026-02-13', 'Mon 9 to Fri 13 February'],
    ['2026-02-27', '2026-03-02', 'Fri 27 February to Mon 2 March'],
    ['2025-12-29', '2026-01-02', 'Mon 29 December 2025 to Fri 2 January 2026'],
    ['2026-02-09', '2026-02-09', 'Mon 9 February'],
    ['2025-11-03', '2025-11-04', 'Mon 3 to Tue 4 November 2025'],
    ['2025-10-31', '2025-11-04', 'Fri 31 October to Tue 4 November 2025'],
  ])('from %s to %s is %s', (from, to, words) => {
    expect(rangeWords(date(from), date(to), 2026)).toBe(words);
  });

  test('a moment is said on the wall clock of its reader', () => {
    const due = instant('2026-07-01T22:30:00Z');
    expect(momentWords(due, 'Europe/Lisbon', 2026)).toBe('Wed 1 Jul 23:30');
    expect(momentWords(due, 'Europe/Oslo', 2026)).toBe('Thu 2 Jul 00:30');
    expect(momentThere(due, 'Europe/Lisbon', 'Europe/Lisbon', 2026)).toBe('Wed 1 Jul 23:30');
    expect(momentThere(due, 'Europe/Lisbon', 'Europe/London', 2026)).toBe('Wed 1 Jul 23:30');
    expect(momentThere(due, 'Europe/Lisbon', 'Pacific/Auckland', 2026)).toBe('Wed 1 Jul 23:30 in Lisbon');
    expect(momentThere(due, 'America/New_York', 'Europe/Lisbon', 2026)).toBe('Wed 1 Jul 18:30 in New York');
    expect(momentWords(due, 'Atlantic/Reykjavik', 2027)).toBe('Wed 1 Jul 2026 22:30');
    expect(clockWords(32 * 60)).toBe('08:00');
  });
});

describe('amounts in words', () => {
  test.each([
    [4.5, '4½'],
    [0.5, '½'],
    [-0.5, '−½'],
    [-6.5, '−6½'],
    [12, '12'],
    [7.25, '7.25'],
    [0, '0'],
    [1 / 3, '0.33'],
  ])('%d is %s', (amount, words) => {
    expect(amountWords(amount)).toBe(words);
  });

  test('one and less is a day, more are days', () => {
    expect(amountOfUnit(1, 'days')).toBe('1 day');
    expect(amountOfUnit(0.5, 'days')).toBe('½ day');
    expect(amountOfUnit(1.5, 'days')).toBe('1½ days');
    expect(amountOfUnit(0, 'days')).toBe('0 days');
    expect(amountOfUnit(12, 'hours')).toBe('12 hours');
  });

  test('working time is said in its own unit', () => {
    expect(workingWords({ workingDays: 1 })).toBe('1 working day');
    expect(workingWords({ workingDays: 3 })).toBe('3 working days');
    expect(workingWords({ workingHours: 1 })).toBe('1 working hour');
    expect(workingWords({ workingHours: 4.5 })).toBe('4.5 working hours');
  });
});
