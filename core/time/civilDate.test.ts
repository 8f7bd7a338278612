import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { addMonths, dayNumber, fromDay, isCivilDate, monthDayIn, toDay, weekday } from './index.ts';

const days = fc.integer({ min: toDay('1800-01-01'), max: toDay('2399-12-31') });

describe('civil dates', () => {
  test('a day number and its date are two ways to say the same, and agree with the platform', () => {
    fc.assert(
      fc.property(days, day => {
        expect(toDay(fromDay(day))).toBe(day);
        expect(fromDay(day)).toBe(new Date(day * 86_400_000).toISOString().slice(0, 10));
        expect(weekday(day) % 7).toBe(new Date(day * 86_400_000).getUTCDay());
      }),
    );
  });

  test.each(['2026-02-29', '2026-13-01', '2026-00-10', '2026-1-1', 'today', '2026-04-31', ''])(
    '%p is no date',
    text => {
      expect(isCivilDate(text)).toBe(false);
    },
  );

  test('29 February counts as 1 March in other years', () => {
    expect(fromDay(monthDayIn(2024, '02-29'))).toBe('2024-02-29');
    expect(fromDay(monthDayIn(2025, '02-29'))).toBe('2025-03-01');
  });

  test('months later is the same day of the month, clipped to its end', () => {
    expect(fromDay(addMonths(toDay('2026-01-31'), 1))).toBe('2026-02-28');
    expect(fromDay(addMonths(toDay('2023-12-31'), 2))).toBe('2024-02-29');
    expect(addMonths(dayNumber(2026, 5, 4), 12)).toBe(dayNumber(2027, 5, 4));
  });
});
